package eleutheria.server.brought;

import static eleutheria.server.tables.Tables.PROPOSAL;

import eleutheria.core.brought.Proposal;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ProposalId;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** Apps put forward, as rows. */
@Repository
public class ProposalStore {
  private static final String WAITING = "waiting";
  private static final int FIRST_NUMBER = 1001;

  private final DSLContext db;

  ProposalStore(DSLContext db) {
    this.db = db;
  }

  /** All that wait, oldest first. */
  public List<Proposal> waiting() {
    return read(PROPOSAL.STATE.eq(WAITING), Integer.MAX_VALUE).reversed();
  }

  public Optional<Proposal> find(ProposalId id) {
    return read(PROPOSAL.ID.eq(id.value()), 1).stream().findFirst();
  }

  List<Proposal> find(List<ProposalId> ids) {
    return read(PROPOSAL.ID.in(ids.stream().map(ProposalId::value).toList()), ids.size() + 1);
  }

  /** Someone's, newest first. */
  List<Proposal> of(PersonId person, int most) {
    return read(PROPOSAL.PERSON_ID.eq(person.value()), most);
  }

  /** What was let in since a moment, newest first. */
  List<Proposal> letIn(Instant since) {
    return read(PROPOSAL.STATE.eq("accepted").and(PROPOSAL.STATE_AT.ge(since)), 500);
  }

  /** The next free number; only under the ledger-head lock. */
  int nextNumber() {
    Integer last = db.select(DSL.max(PROPOSAL.NUMBER)).from(PROPOSAL).fetchSingle().value1();
    return last == null ? FIRST_NUMBER : last + 1;
  }

  private List<Proposal> read(Condition condition, int most) {
    return db.selectFrom(PROPOSAL)
        .where(condition)
        .orderBy(PROPOSAL.MADE_AT.desc(), PROPOSAL.NUMBER.desc())
        .limit(most)
        .fetch(ProposalStore::proposal);
  }

  private static Proposal proposal(Record r) {
    Instant at = r.get(PROPOSAL.STATE_AT);
    UUID by = r.get(PROPOSAL.STATE_BY);
    String answer = r.get(PROPOSAL.ANSWER);
    return new Proposal(
        new ProposalId(r.get(PROPOSAL.ID)),
        r.get(PROPOSAL.NUMBER),
        new PersonId(r.get(PROPOSAL.PERSON_ID)),
        r.get(PROPOSAL.NAME),
        r.get(PROPOSAL.ADDRESS),
        r.get(PROPOSAL.WHOM),
        r.get(PROPOSAL.WHY),
        r.get(PROPOSAL.MADE_AT),
        switch (r.get(PROPOSAL.STATE)) {
          case WAITING -> Proposal.State.Waiting.WAITING;
          case "accepted" ->
              new Proposal.State.Accepted(
                  new PersonId(by), at, new ApplicationId(r.get(PROPOSAL.APPLICATION_ID)), answer);
          case "refused" -> new Proposal.State.Refused(new PersonId(by), at, answer);
          default -> new Proposal.State.Withdrawn(at);
        });
  }

  static String word(Proposal proposal) {
    return switch (proposal.state()) {
      case Proposal.State.Waiting s -> WAITING;
      case Proposal.State.Accepted s -> "accepted";
      case Proposal.State.Refused s -> "refused";
      case Proposal.State.Withdrawn s -> "withdrawn";
    };
  }

  /** Writes a proposal as it stands now. */
  public static void save(DSLContext tx, Proposal proposal) {
    Proposal.State state = proposal.state();
    Instant at =
        switch (state) {
          case Proposal.State.Waiting s -> null;
          case Proposal.State.Accepted s -> s.at();
          case Proposal.State.Refused s -> s.at();
          case Proposal.State.Withdrawn s -> s.at();
        };
    UUID by =
        switch (state) {
          case Proposal.State.Accepted s -> s.by().value();
          case Proposal.State.Refused s -> s.by().value();
          default -> null;
        };
    String answer =
        switch (state) {
          case Proposal.State.Accepted s -> s.answer();
          case Proposal.State.Refused s -> s.answer();
          default -> "";
        };
    UUID app = state instanceof Proposal.State.Accepted s ? s.app().value() : null;
    tx.insertInto(PROPOSAL)
        .set(PROPOSAL.ID, proposal.id().value())
        .set(PROPOSAL.NUMBER, proposal.number())
        .set(PROPOSAL.PERSON_ID, proposal.by().value())
        .set(PROPOSAL.NAME, proposal.name())
        .set(PROPOSAL.ADDRESS, proposal.address())
        .set(PROPOSAL.WHOM, proposal.whom())
        .set(PROPOSAL.WHY, proposal.why())
        .set(PROPOSAL.MADE_AT, proposal.at())
        .set(PROPOSAL.STATE, word(proposal))
        .set(PROPOSAL.STATE_AT, at)
        .set(PROPOSAL.STATE_BY, by)
        .set(PROPOSAL.ANSWER, answer)
        .set(PROPOSAL.APPLICATION_ID, app)
        .onDuplicateKeyUpdate()
        .set(PROPOSAL.STATE, word(proposal))
        .set(PROPOSAL.STATE_AT, at)
        .set(PROPOSAL.STATE_BY, by)
        .set(PROPOSAL.ANSWER, answer)
        .set(PROPOSAL.APPLICATION_ID, app)
        .execute();
  }
}
