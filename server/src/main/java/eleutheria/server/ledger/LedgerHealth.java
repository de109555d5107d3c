package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.DUE;

import eleutheria.server.clock.DueKinds;
import eleutheria.server.state.LedgerStore;
import eleutheria.server.state.World;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.stereotype.Component;

/**
 * Not ready while this node lags behind the ledger, could not take an entry up, or its clock is off
 * the database's.
 */
@Component("ledger")
class LedgerHealth implements HealthIndicator {
  private static final Duration CLOCKS_APART = Duration.ofSeconds(2);
  private static final Duration LATE = Duration.ofSeconds(5);
  private static final long ENTRIES_BEHIND = 100;

  private final DSLContext db;
  private final LedgerStore store;
  private final World world;
  private final DueKinds kinds;
  private final Clock clock;

  LedgerHealth(DSLContext db, LedgerStore store, World world, DueKinds kinds, Clock clock) {
    this.kinds = kinds;
    this.db = db;
    this.store = store;
    this.world = world;
    this.clock = clock;
  }

  @Override
  public Health health() {
    long behind = store.head(db).position() - world.position();
    Instant database =
        db.select(DSL.currentLocalDateTime(DSL.inline(6)))
            .fetchSingle()
            .value1()
            .toInstant(ZoneOffset.UTC);
    Duration apart = Duration.between(database, clock.instant()).abs();
    // Not ready until the acts that fell due while the server was down have been done.
    boolean late = db.fetchExists(DUE, kinds.due(database.minus(LATE)).and(DUE.ATTEMPTS.eq(0)));
    boolean ready =
        !late && world.sound() && behind <= ENTRIES_BEHIND && apart.compareTo(CLOCKS_APART) <= 0;
    return (ready ? Health.up() : Health.outOfService())
        .withDetail("behind", behind)
        .withDetail("late", late)
        .withDetail("rebuilt", world.rebuilt())
        .withDetail("clocksApartMillis", apart.toMillis())
        .build();
  }
}
