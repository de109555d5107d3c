package eleutheria.server.use;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.OPENING_DAY;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;
import static eleutheria.server.tables.Tables.SIGN_IN_DAY;

import eleutheria.server.clock.Leases;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Counts the days that are over, and lets go of events of use that are older than they are kept:
 * from then on there are only counts, which name nobody. One node does it, a day in one
 * transaction, and a day that is counted is not counted again.
 */
@Component
class UseDays {
  private static final String NAME = "use-days";
  private static final Duration LEASE_TIME = Duration.ofMinutes(10);

  /** So many events are dropped in one transaction. */
  private static final int DROPPED = 10_000;

  private final DSLContext db;
  private final Organisation organisation;
  private final ServerSettings settings;
  private final Clock clock;
  private final TransactionTemplate transaction;
  private final Leases leases;

  UseDays(
      DSLContext db,
      Organisation organisation,
      ServerSettings settings,
      Clock clock,
      PlatformTransactionManager transactions,
      Leases leases) {
    this.leases = leases;
    this.db = db;
    this.organisation = organisation;
    this.settings = settings;
    this.clock = clock;
    this.transaction = new TransactionTemplate(transactions);
  }

  @Scheduled(initialDelay = 20_000, fixedDelay = 600_000)
  void work() {
    Instant now = clock.instant();
    LocalDate today = now.atZone(organisation.zone()).toLocalDate();
    LocalDate next = firstUncounted();
    while (next != null && next.isBefore(today) && leases.take(NAME, LEASE_TIME)) {
      LocalDate day = next;
      transaction.executeWithoutResult(status -> count(db, organisation.zone(), day));
      next = next.plusDays(1);
    }
    Instant kept = now.minus(settings.useKept());
    while (leases.take(NAME, LEASE_TIME) && dropped(kept) == DROPPED) {
      // The next ones.
    }
  }

  /** The day after the last that is counted, or the first of which there is an event. */
  private LocalDate firstUncounted() {
    LocalDate counted =
        db.select(DSL.max(SIGN_IN_DAY.ON_DAY)).from(SIGN_IN_DAY).fetchOne(0, LocalDate.class);
    if (counted != null) {
      return counted.plusDays(1);
    }
    Instant opened =
        db.select(DSL.min(OPENING.HAPPENED_AT)).from(OPENING).fetchOne(0, Instant.class);
    Instant signed =
        db.select(DSL.min(SIGNIN_EVENT.HAPPENED_AT)).from(SIGNIN_EVENT).fetchOne(0, Instant.class);
    Instant first = opened == null || (signed != null && signed.isBefore(opened)) ? signed : opened;
    return (first == null ? clock.instant() : first).atZone(organisation.zone()).toLocalDate();
  }

  /** Counts one day; what was counted of it before gives way. */
  static void count(DSLContext tx, ZoneId zone, LocalDate day) {
    Instant from = day.atStartOfDay(zone).toInstant();
    Instant until = day.plusDays(1).atStartOfDay(zone).toInstant();
    tx.deleteFrom(OPENING_DAY).where(OPENING_DAY.ON_DAY.eq(day)).execute();
    tx.insertInto(
            OPENING_DAY,
            OPENING_DAY.TILE_ID,
            OPENING_DAY.ON_DAY,
            OPENING_DAY.OPENINGS,
            OPENING_DAY.PEOPLE)
        .select(
            DSL.select(
                    OPENING.TILE_ID,
                    DSL.val(day),
                    DSL.count(),
                    DSL.countDistinct(OPENING.PERSON_ID))
                .from(OPENING)
                .where(OPENING.HAPPENED_AT.ge(from), OPENING.HAPPENED_AT.lt(until))
                .groupBy(OPENING.TILE_ID))
        .execute();
    tx.deleteFrom(SIGN_IN_DAY).where(SIGN_IN_DAY.ON_DAY.eq(day)).execute();
    tx.insertInto(
            SIGN_IN_DAY,
            SIGN_IN_DAY.ON_DAY,
            SIGN_IN_DAY.SIGN_INS,
            SIGN_IN_DAY.FAILURES,
            SIGN_IN_DAY.PEOPLE)
        .select(
            DSL.select(
                    DSL.val(day),
                    DSL.count().filterWhere(SIGNIN_EVENT.SUCCESS.isTrue()),
                    DSL.count().filterWhere(SIGNIN_EVENT.SUCCESS.isFalse()),
                    DSL.countDistinct(SIGNIN_EVENT.PERSON_ID))
                .from(SIGNIN_EVENT)
                .where(SIGNIN_EVENT.HAPPENED_AT.ge(from), SIGNIN_EVENT.HAPPENED_AT.lt(until)))
        .execute();
  }

  private int dropped(Instant before) {
    return db.deleteFrom(OPENING).where(OPENING.HAPPENED_AT.lt(before)).limit(DROPPED).execute()
        + db.deleteFrom(SIGNIN_EVENT)
            .where(SIGNIN_EVENT.HAPPENED_AT.lt(before))
            .limit(DROPPED)
            .execute();
  }
}
