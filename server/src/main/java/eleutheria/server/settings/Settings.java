package eleutheria.server.settings;

import static eleutheria.server.tables.Tables.SETTING;

import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Small values that the database keeps about itself. */
@Repository
public class Settings {
  /** Present where the database was made by the demo. */
  public static final String DEMO = "demo";

  private final DSLContext db;

  Settings(DSLContext db) {
    this.db = db;
  }

  public Optional<String> get(String name) {
    return db.select(SETTING.VALUE)
        .from(SETTING)
        .where(SETTING.NAME.eq(name))
        .fetchOptional(SETTING.VALUE);
  }

  /** Keeps a value in place of another. */
  public void put(String name, String value) {
    put(db, name, value);
  }

  /** Keeps a value in place of another, beside an act. */
  public static void put(DSLContext tx, String name, String value) {
    tx.insertInto(SETTING)
        .set(SETTING.NAME, name)
        .set(SETTING.VALUE, value)
        .onDuplicateKeyUpdate()
        .set(SETTING.VALUE, value)
        .execute();
  }

  public void forget(String name) {
    db.deleteFrom(SETTING).where(SETTING.NAME.eq(name)).execute();
  }

  /** Keeps a value unless there is one already, and gives the one that is kept. */
  public String keep(String name, String value) {
    db.insertInto(SETTING)
        .set(SETTING.NAME, name)
        .set(SETTING.VALUE, value)
        .onDuplicateKeyIgnore()
        .execute();
    return get(name).orElseThrow();
  }
}
