package eleutheria.server.clock;

import static eleutheria.server.tables.Tables.LEASE;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Of all nodes one does what is to be done once; whoever takes over waits until its time is up. */
@Component
public class Leases {
  private final DSLContext db;
  private final Clock clock;
  private final String me = UUID.randomUUID().toString();

  Leases(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /** Whether this node may do it now, and for so long. */
  public boolean take(String what, Duration time) {
    Instant now = clock.instant();
    db.insertInto(LEASE)
        .set(LEASE.NAME, what)
        .set(LEASE.HOLDER, me)
        .set(LEASE.UNTIL_AT, now)
        .onDuplicateKeyIgnore()
        .execute();
    return db.update(LEASE)
            .set(LEASE.HOLDER, me)
            .set(LEASE.UNTIL_AT, now.plus(time))
            .where(LEASE.NAME.eq(what), LEASE.HOLDER.eq(me).or(LEASE.UNTIL_AT.le(now)))
            .execute()
        == 1;
  }
}
