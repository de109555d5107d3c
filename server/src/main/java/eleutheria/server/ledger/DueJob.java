package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.LEASE;
import static eleutheria.server.tables.Tables.WATERMARK;

import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.Outcome;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Does what is due, in order of time, each in one transaction with its entry and the watermark. One
 * node holds the lease; whoever takes it over goes on where the last one stopped, so that a server
 * that was down over some boundaries does them in order at its start.
 */
@Component
class DueJob {
  private static final Logger log = LoggerFactory.getLogger(DueJob.class);
  private static final String NAME = "due";
  private static final Duration LEASE_TIME = Duration.ofSeconds(15);

  private final DSLContext db;
  private final Acts acts;
  private final Clock clock;
  private final Map<String, DueKind> kinds = new HashMap<>();
  private final String me = UUID.randomUUID().toString();

  DueJob(DSLContext db, Acts acts, Clock clock, List<DueKind> kinds) {
    this.db = db;
    this.acts = acts;
    this.clock = clock;
    kinds.forEach(kind -> this.kinds.put(kind.kind(), kind));
  }

  @Scheduled(fixedDelay = 300)
  void work() {
    Instant now = clock.instant();
    while (db.fetchExists(DUE, DUE.DUE_AT.le(now)) && leased(now)) {
      next(now);
    }
  }

  /** An entry by the clock says for when it was due; when it was done, every entry says. */
  private static Outcome<String> dated(Outcome<String> outcome, Instant due) {
    if (!(outcome instanceof Outcome.Done<String> done)) {
      return outcome;
    }
    Map<String, Object> details = new LinkedHashMap<>(done.act().details());
    details.put("due", Moments.text(due));
    return new Outcome.Done<>(
        done.act().with(details), done.edits(), done.result(), done.errands(), done.right());
  }

  private boolean leased(Instant now) {
    db.insertInto(LEASE)
        .set(LEASE.NAME, NAME)
        .set(LEASE.HOLDER, me)
        .set(LEASE.UNTIL_AT, now)
        .onDuplicateKeyIgnore()
        .execute();
    return db.update(LEASE)
            .set(LEASE.HOLDER, me)
            .set(LEASE.UNTIL_AT, now.plus(LEASE_TIME))
            .where(LEASE.NAME.eq(NAME), LEASE.HOLDER.eq(me).or(LEASE.UNTIL_AT.le(now)))
            .execute()
        == 1;
  }

  /** What is due first: everything of one kind at one moment because of one act. */
  private void next(Instant now) {
    DueKind[] handled = new DueKind[1];
    acts.byTheClock(
        String.class,
        moment -> {
          Record first =
              db.selectFrom(DUE)
                  .where(DUE.DUE_AT.le(now))
                  .orderBy(DUE.DUE_AT, DUE.ID)
                  .limit(1)
                  .fetchOne();
          if (first == null) {
            return java.util.Optional.empty();
          }
          Instant due = first.get(DUE.DUE_AT);
          long cites = first.get(DUE.POSITION);
          String kind = first.get(DUE.KIND);
          var alike = DUE.DUE_AT.eq(due).and(DUE.POSITION.eq(cites)).and(DUE.KIND.eq(kind));
          List<String> subjects =
              db.select(DUE.SUBJECT).from(DUE).where(alike).orderBy(DUE.ID).fetch(DUE.SUBJECT);
          db.deleteFrom(DUE).where(alike).execute();
          db.update(WATERMARK).set(WATERMARK.REACHED, due).execute();
          handled[0] = kinds.get(kind);
          if (handled[0] == null) {
            log.warn("Nothing here does what is due of the kind {}", kind);
            return java.util.Optional.empty();
          }
          return handled[0]
              .decide(moment, due, cites, subjects)
              .map(outcome -> dated(outcome, due));
        },
        (tx, result, entry) -> handled[0].beside(tx, result, entry));
  }
}
