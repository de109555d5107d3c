package eleutheria.server.clock;

import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.WATERMARK;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.writing.Acts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Does what is due, in order of time, each in one transaction with its entry and the watermark. One
 * node holds the lease; whoever takes it over goes on where the last one stopped, so that a server
 * that was down over some boundaries does them in order at its start. What fails holds up nothing
 * else: it is tried again by and by, and parked at last ({@link Retry}).
 */
@Component
class DueJob {
  private static final Logger log = LoggerFactory.getLogger(DueJob.class);
  private static final String NAME = "due";
  private static final Duration LEASE_TIME = Duration.ofSeconds(15);

  private final DSLContext db;
  private final Acts acts;
  private final Clock clock;
  private final DueKinds kinds;
  private final TransactionTemplate transaction;
  private final Leases leases;

  DueJob(
      DSLContext db,
      Acts acts,
      Clock clock,
      DueKinds kinds,
      PlatformTransactionManager transactions,
      Leases leases) {
    this.leases = leases;
    this.db = db;
    this.acts = acts;
    this.clock = clock;
    this.kinds = kinds;
    this.transaction = new TransactionTemplate(transactions);
  }

  @Scheduled(fixedDelay = 300)
  void work() {
    Instant now = clock.instant();
    while (db.fetchExists(DUE, ready(now)) && leases.take(NAME, LEASE_TIME)) {
      next(now);
    }
  }

  /** What is due and not waiting for another try. */
  private Condition ready(Instant now) {
    return kinds.due(now).and(DUE.NEXT_AT.isNull().or(DUE.NEXT_AT.le(now)));
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

  /**
   * What is due first: everything of one kind at one moment because of one act.
   *
   * @param attempts how often it has failed
   */
  private record First(Instant due, long cites, String kind, int attempts) {
    static First of(Record row) {
      return new First(
          row.get(DUE.DUE_AT), row.get(DUE.POSITION), row.get(DUE.KIND), row.get(DUE.ATTEMPTS));
    }

    Condition alike() {
      return DUE.DUE_AT.eq(due).and(DUE.POSITION.eq(cites)).and(DUE.KIND.eq(kind));
    }
  }

  private void next(Instant now) {
    First[] handled = new First[1];
    try {
      acts.byTheClock(
          String.class,
          moment -> {
            handled[0] =
                db.selectFrom(DUE)
                    .where(ready(now))
                    .orderBy(DUE.DUE_AT, DUE.ID)
                    .limit(1)
                    .fetchOne(First::of);
            return handled[0] == null ? Optional.empty() : decide(moment, handled[0]);
          },
          (tx, result, entry) -> kinds.of(handled[0].kind()).beside(tx, result, entry));
    } catch (RuntimeException e) {
      if (handled[0] == null) {
        throw e;
      }
      failed(handled[0], now, e);
    }
  }

  private Optional<Outcome<String>> decide(Moment moment, First first) {
    List<String> subjects =
        db.select(DUE.SUBJECT).from(DUE).where(first.alike()).orderBy(DUE.ID).fetch(DUE.SUBJECT);
    db.deleteFrom(DUE).where(first.alike()).execute();
    // What has failed comes after what was due later.
    db.update(WATERMARK)
        .set(WATERMARK.REACHED, first.due())
        .where(WATERMARK.REACHED.lt(first.due()))
        .execute();
    return kinds
        .of(first.kind())
        .decide(moment, first.due(), first.cites(), subjects)
        .map(outcome -> dated(outcome, first.due()));
  }

  private void failed(First first, Instant now, RuntimeException e) {
    int attempts = first.attempts() + 1;
    log.warn(
        "What was due at {} of the kind {} failed for the {}th time",
        first.due(),
        first.kind(),
        attempts,
        e);
    transaction.executeWithoutResult(
        status ->
            db.update(DUE)
                .set(DUE.ATTEMPTS, attempts)
                .set(DUE.LAST_ERROR, Retry.error(e))
                .set(DUE.NEXT_AT, now.plus(Retry.pause(attempts)))
                .set(DUE.FAILED_AT, Retry.parks(attempts) ? now : null)
                .where(first.alike())
                .execute());
  }
}
