package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.HINT_ASIDE;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Hints that somebody has set aside, for everybody. */
@Repository
class HintsAside {
  private final DSLContext db;

  HintsAside(DSLContext db) {
    this.db = db;
  }

  /**
   * @param number the hint's then; when it has grown, the hint is shown again
   */
  record SetAside(PersonId by, Instant at, String reason, int number) {}

  /** By the hash of the hint's key. */
  Map<String, SetAside> all() {
    return db.selectFrom(HINT_ASIDE)
        .fetchMap(
            HINT_ASIDE.HINT_KEY,
            r ->
                new SetAside(
                    new PersonId(r.getSetBy()), r.getSetAt(), r.getReason(), r.getNumber()));
  }

  static void set(DSLContext tx, String key, SetAside aside) {
    tx.insertInto(HINT_ASIDE)
        .set(HINT_ASIDE.HINT_KEY, key)
        .set(HINT_ASIDE.SET_BY, aside.by().value())
        .set(HINT_ASIDE.SET_AT, aside.at())
        .set(HINT_ASIDE.REASON, aside.reason())
        .set(HINT_ASIDE.NUMBER, aside.number())
        .onDuplicateKeyUpdate()
        .set(HINT_ASIDE.SET_BY, aside.by().value())
        .set(HINT_ASIDE.SET_AT, aside.at())
        .set(HINT_ASIDE.REASON, aside.reason())
        .set(HINT_ASIDE.NUMBER, aside.number())
        .execute();
  }

  static void takeBack(DSLContext tx, String key) {
    tx.deleteFrom(HINT_ASIDE).where(HINT_ASIDE.HINT_KEY.eq(key)).execute();
  }
}
