package eleutheria.server.signon;

import static eleutheria.server.tables.Tables.SPRING_SESSION;

import eleutheria.core.facts.PersonId;
import eleutheria.server.settings.ServerSettings;
import java.time.Clock;
import java.util.Collection;
import java.util.HashSet;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Sessions as rows: which of them still stand, and ending them within an act. */
@Component
public class SessionsDoor implements Door {
  private final DSLContext db;
  private final Clock clock;
  private final ServerSettings settings;

  SessionsDoor(DSLContext db, Clock clock, ServerSettings settings) {
    this.db = db;
    this.clock = clock;
    this.settings = settings;
  }

  @Override
  public void shut(DSLContext tx, PersonId person, @Nullable String keep) {
    tx.deleteFrom(SPRING_SESSION)
        .where(
            SPRING_SESSION.PRINCIPAL_NAME.eq(person.value().toString()),
            keep == null ? org.jooq.impl.DSL.noCondition() : SPRING_SESSION.SESSION_ID.ne(keep))
        .execute();
  }

  /** What a session has to be to let anybody in: used lately, and not begun too long ago. */
  private Condition stands() {
    long now = clock.millis();
    return SPRING_SESSION
        .EXPIRY_TIME
        .gt(now)
        .and(SPRING_SESSION.CREATION_TIME.gt(now - settings.sessionLongest().toMillis()));
  }

  /** How many sessions a person has. */
  public int count(PersonId person) {
    return db.fetchCount(
        SPRING_SESSION, SPRING_SESSION.PRINCIPAL_NAME.eq(person.value().toString()).and(stands()));
  }

  /** Those of some sessions that still stand. */
  public Set<String> standing(Collection<String> sessions) {
    return sessions.isEmpty()
        ? Set.of()
        : new HashSet<>(
            db.select(SPRING_SESSION.SESSION_ID)
                .from(SPRING_SESSION)
                .where(SPRING_SESSION.SESSION_ID.in(sessions).and(stands()))
                .fetch(SPRING_SESSION.SESSION_ID));
  }
}
