package eleutheria.server.suggestions;

import static eleutheria.server.tables.Tables.SUGGESTION;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.suggestions.Suggestion;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** Suggested apps, as rows. */
@Repository
public class SuggestionStore {
  private static final String WAITING = "waiting";
  private static final int FIRST_NUMBER = 1001;

  private final DSLContext db;

  SuggestionStore(DSLContext db) {
    this.db = db;
  }

  /** All that wait, oldest first. */
  public List<Suggestion> waiting() {
    return read(SUGGESTION.STATE.eq(WAITING), Integer.MAX_VALUE).reversed();
  }

  public Optional<Suggestion> find(SuggestionId id) {
    return read(SUGGESTION.ID.eq(id.value()), 1).stream().findFirst();
  }

  List<Suggestion> find(List<SuggestionId> ids) {
    return read(SUGGESTION.ID.in(ids.stream().map(SuggestionId::value).toList()), ids.size() + 1);
  }

  /** Someone's, newest first. */
  List<Suggestion> of(PersonId person, int most) {
    return read(SUGGESTION.PERSON_ID.eq(person.value()), most);
  }

  /** What was accepted since a moment, newest first. */
  List<Suggestion> letIn(Instant since) {
    return read(SUGGESTION.STATE.eq("accepted").and(SUGGESTION.STATE_AT.ge(since)), 500);
  }

  /** The next free number; only under the ledger-head lock. */
  int nextNumber() {
    Integer last = db.select(DSL.max(SUGGESTION.NUMBER)).from(SUGGESTION).fetchSingle().value1();
    return last == null ? FIRST_NUMBER : last + 1;
  }

  private List<Suggestion> read(Condition condition, int most) {
    return db.selectFrom(SUGGESTION)
        .where(condition)
        .orderBy(SUGGESTION.MADE_AT.desc(), SUGGESTION.NUMBER.desc())
        .limit(most)
        .fetch(SuggestionStore::suggestion);
  }

  private static Suggestion suggestion(Record r) {
    Instant at = r.get(SUGGESTION.STATE_AT);
    UUID by = r.get(SUGGESTION.STATE_BY);
    String answer = r.get(SUGGESTION.ANSWER);
    return new Suggestion(
        new SuggestionId(r.get(SUGGESTION.ID)),
        r.get(SUGGESTION.NUMBER),
        new PersonId(r.get(SUGGESTION.PERSON_ID)),
        r.get(SUGGESTION.NAME),
        r.get(SUGGESTION.ADDRESS),
        r.get(SUGGESTION.WHOM),
        r.get(SUGGESTION.WHY),
        r.get(SUGGESTION.MADE_AT),
        switch (r.get(SUGGESTION.STATE)) {
          case WAITING -> Suggestion.State.Waiting.WAITING;
          case "accepted" ->
              new Suggestion.State.Accepted(
                  new PersonId(by),
                  at,
                  new ApplicationId(r.get(SUGGESTION.APPLICATION_ID)),
                  answer);
          case "declined" -> new Suggestion.State.Declined(new PersonId(by), at, answer);
          default -> new Suggestion.State.Withdrawn(at);
        });
  }

  static String word(Suggestion suggestion) {
    return switch (suggestion.state()) {
      case Suggestion.State.Waiting s -> WAITING;
      case Suggestion.State.Accepted s -> "accepted";
      case Suggestion.State.Declined s -> "declined";
      case Suggestion.State.Withdrawn s -> "withdrawn";
    };
  }

  /** Writes a suggestion as it stands now. */
  public static void save(DSLContext tx, Suggestion suggestion) {
    Suggestion.State state = suggestion.state();
    Instant at =
        switch (state) {
          case Suggestion.State.Waiting s -> null;
          case Suggestion.State.Accepted s -> s.at();
          case Suggestion.State.Declined s -> s.at();
          case Suggestion.State.Withdrawn s -> s.at();
        };
    UUID by =
        switch (state) {
          case Suggestion.State.Accepted s -> s.by().value();
          case Suggestion.State.Declined s -> s.by().value();
          default -> null;
        };
    String answer =
        switch (state) {
          case Suggestion.State.Accepted s -> s.answer();
          case Suggestion.State.Declined s -> s.answer();
          default -> "";
        };
    UUID app = state instanceof Suggestion.State.Accepted s ? s.app().value() : null;
    tx.insertInto(SUGGESTION)
        .set(SUGGESTION.ID, suggestion.id().value())
        .set(SUGGESTION.NUMBER, suggestion.number())
        .set(SUGGESTION.PERSON_ID, suggestion.by().value())
        .set(SUGGESTION.NAME, suggestion.name())
        .set(SUGGESTION.ADDRESS, suggestion.address())
        .set(SUGGESTION.WHOM, suggestion.whom())
        .set(SUGGESTION.WHY, suggestion.why())
        .set(SUGGESTION.MADE_AT, suggestion.at())
        .set(SUGGESTION.STATE, word(suggestion))
        .set(SUGGESTION.STATE_AT, at)
        .set(SUGGESTION.STATE_BY, by)
        .set(SUGGESTION.ANSWER, answer)
        .set(SUGGESTION.APPLICATION_ID, app)
        .onDuplicateKeyUpdate()
        .set(SUGGESTION.STATE, word(suggestion))
        .set(SUGGESTION.STATE_AT, at)
        .set(SUGGESTION.STATE_BY, by)
        .set(SUGGESTION.ANSWER, answer)
        .set(SUGGESTION.APPLICATION_ID, app)
        .execute();
  }
}
