package eleutheria.server.use;

import static eleutheria.server.tables.Tables.SOUGHT;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** Words that found no tile. Nobody is named by them. */
@Repository
class Sought {
  private static final int MOST = 20;

  /** What was typed only once is not told; it could be somebody's own affair. */
  private static final int FEWEST = 2;

  private final DSLContext db;

  Sought(DSLContext db) {
    this.db = db;
  }

  record Wording(String words, int times) {}

  void note(String words, Instant at) {
    db.insertInto(SOUGHT).set(SOUGHT.HAPPENED_AT, at).set(SOUGHT.WORDS, words).execute();
  }

  /** The commonest first. */
  List<Wording> since(Instant moment) {
    return db.select(SOUGHT.WORDS, DSL.count())
        .from(SOUGHT)
        .where(SOUGHT.HAPPENED_AT.ge(moment))
        .groupBy(SOUGHT.WORDS)
        .having(DSL.count().ge(FEWEST))
        .orderBy(DSL.count().desc(), SOUGHT.WORDS)
        .limit(MOST)
        .fetch(r -> new Wording(r.value1(), r.value2()));
  }
}
