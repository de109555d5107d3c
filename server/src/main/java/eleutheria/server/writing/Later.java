package eleutheria.server.writing;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.access.EndsSoon;
import eleutheria.core.facts.Boundaries;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Move;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.FactJson;
import eleutheria.core.ledger.JsonMembers;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** What an act leaves for later: errands in the outbox, and what the clock has to do. */
public final class Later {
  public static final String BOUNDARY = "boundary";
  public static final String ENDS_SOON = "ends-soon";
  public static final String REQUEST_LAPSE = "request-lapse";
  public static final String REQUEST_REMIND = "request-remind";
  public static final String REQUEST_GO_ON = "request-go-on";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private Later() {}

  /** One thing for the clock to do. */
  public record Due(Instant at, String kind, String subject) {}

  /** Everything that the clock has to do because of these moves. */
  static List<Due> of(List<Move> moves, Instant at) {
    List<Due> found = new ArrayList<>();
    for (Boundaries.Boundary boundary : Boundaries.set(moves, at)) {
      found.add(new Due(boundary.at(), BOUNDARY, text(boundary.key())));
    }
    for (EndsSoon.Warning warning : EndsSoon.set(moves, at)) {
      found.add(new Due(warning.at(), ENDS_SOON, warning.grant().value().toString()));
    }
    return found;
  }

  private static String text(FactKey key) {
    return CanonicalJson.write(Map.of("key", FactJson.key(key), "kind", FactJson.kind(key)));
  }

  /** The same, but for what the clock has to do at that moment anyway. */
  public static void dueOnce(DSLContext db, long position, List<Due> all) {
    due(
        db,
        position,
        all.stream()
            .filter(
                due ->
                    !db.fetchExists(
                        DUE,
                        DUE.KIND.eq(due.kind()),
                        DUE.SUBJECT.eq(due.subject()),
                        DUE.DUE_AT.eq(due.at())))
            .toList());
  }

  public static void due(DSLContext db, long position, List<Due> all) {
    if (all.isEmpty()) {
      return;
    }
    BatchBindStep batch =
        db.batch(
            db.insertInto(DUE, DUE.DUE_AT, DUE.KIND, DUE.SUBJECT, DUE.POSITION)
                .values((Instant) null, null, null, null));
    all.forEach(due -> batch.bind(due.at(), due.kind(), due.subject(), position));
    batch.execute();
  }

  static void errands(DSLContext db, long position, Instant at, List<Errand> errands) {
    for (Errand errand : errands) {
      switch (errand) {
        case Errand.Invite e -> insert(db, position, at, "invite", e.person().value(), null, null);
        case Errand.Reset e -> insert(db, position, at, "reset", e.person().value(), null, null);
        case Errand.TellOldAddress e ->
            db.insertInto(OUTBOX)
                .set(OUTBOX.POSITION, position)
                .set(OUTBOX.KIND, "old-address")
                .set(OUTBOX.PERSON_ID, e.person().value())
                .set(OUTBOX.ADDRESS, e.address())
                .set(OUTBOX.NEXT_AT, at)
                .execute();
        case Errand.TellOfRequest e ->
            insert(
                db,
                position,
                at.plus(e.after()),
                "request",
                e.person().value(),
                e.request().value(),
                e.tale().name().toLowerCase(Locale.ROOT));
        case Errand.TellOfDeputy e -> {
          boolean decides = e.person().equals(e.deputy());
          insert(
              db,
              position,
              at,
              "deputy",
              e.person().value(),
              decides ? e.of().value() : e.deputy().value(),
              decides ? "deputy" : "given");
        }
        case Errand.TellOfSuggestion e ->
            insert(
                db, position, at, "suggestion", e.person().value(), e.suggestion().value(), null);
        case Errand.TellOfComplaint e ->
            insert(db, position, at, "complaint", e.person().value(), e.complaint().value(), null);
        case Errand.TellOfQuery e ->
            insert(db, position, at, "query", e.person().value(), e.query(), null);
        case Errand.TellOfEnd e ->
            insert(db, position, at, "ends-soon", e.person().value(), e.grant().value(), null);
        case Errand.TellOfDraft e ->
            insert(db, position, at, "draft", e.publisher().value(), e.draft().value(), null);
        case Errand.TellAhead e ->
            insert(db, position, at, "draft-ahead", e.publisher().value(), e.draft().value(), null);
      }
    }
  }

  private static void insert(
      DSLContext db,
      long position,
      Instant at,
      String kind,
      UUID person,
      @Nullable UUID subject,
      @Nullable String tale) {
    db.insertInto(OUTBOX)
        .set(OUTBOX.POSITION, position)
        .set(OUTBOX.KIND, kind)
        .set(OUTBOX.PERSON_ID, person)
        .set(OUTBOX.SUBJECT_ID, subject)
        .set(OUTBOX.TALE, tale)
        .set(OUTBOX.NEXT_AT, at)
        .execute();
  }

  /** The fact whose boundary a due is about. */
  public static FactKey key(String subject) {
    Map<?, ?> map = JSON.readValue(subject, Map.class);
    return FactJson.key(JsonMembers.text(map, "kind"), object(map, "key"));
  }
}
