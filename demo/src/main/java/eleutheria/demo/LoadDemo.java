package eleutheria.demo;

import static eleutheria.server.tables.Tables.ACCOUNT;
import static eleutheria.server.tables.Tables.SETTING;
import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.writing.Loader;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Map;
import java.util.SplittableRandom;
import org.flywaydb.core.Flyway;
import org.jooq.BatchBindStep;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;

/**
 * Fills an empty database with the demo.
 *
 * <p>Environment: {@code ELEUTHERIA_DATABASE_URL}, {@code …_USER}, {@code …_PASSWORD}, {@code
 * ELEUTHERIA_ZONE}. Arguments: the folder for this week's files; how many people (1,214 if absent,
 * at most 200,000); how many weeks of past (104 if absent).
 */
public final class LoadDemo {
  /** Every demo account has this password. */
  public static final String PASSWORD = "tern over the sound";

  /** The usual length of the past. */
  public static final int WEEKS = 104;

  private static final long SEED = 20_241;

  private static final String SIGN_INS =
      """
      ines.roth\tsteward: everything
      petra.lindholm\tjoiners and leavers
      maren.quist\tjoiners and leavers in two units
      jonas.weir\tauditor
      emre.demir\thelp desk
      lena.aho\tmanager; owns apps and groups
      oda.brekke\tstaff
      nils.sand@ternsound.example\ttwo accounts
      """;

  private LoadDemo() {}

  public static void main(String[] args) throws Exception {
    Map<String, String> environment = System.getenv();
    String url =
        requireNonNull(environment.get("ELEUTHERIA_DATABASE_URL"), "ELEUTHERIA_DATABASE_URL");
    String user =
        requireNonNull(environment.get("ELEUTHERIA_DATABASE_USER"), "ELEUTHERIA_DATABASE_USER");
    String password =
        requireNonNull(
            environment.get("ELEUTHERIA_DATABASE_PASSWORD"), "ELEUTHERIA_DATABASE_PASSWORD");
    ZoneId zone = ZoneId.of(environment.getOrDefault("ELEUTHERIA_ZONE", "Europe/Oslo"));
    int people = args.length > 1 ? Integer.parseInt(args[1]) : 1214;
    int weeks = args.length > 2 ? Integer.parseInt(args[2]) : WEEKS;
    load(url, user, password, zone, Instant.now(), Path.of(args[0]), people, weeks);
  }

  /** Migrates and fills; the past ends at {@code now}. */
  public static void load(
      String url,
      String user,
      String password,
      ZoneId zone,
      Instant now,
      Path files,
      int people,
      int weeks)
      throws Exception {
    Flyway.configure().dataSource(url, user, password).load().migrate();
    try (Connection connection = DriverManager.getConnection(url, user, password)) {
      connection.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
      DSLContext db = DSL.using(connection, SQLDialect.MARIADB);
      LocalDate today = now.atZone(zone).toLocalDate();
      SplittableRandom random = new SplittableRandom(SEED);
      Loader loader = new Loader(db, zone, random.split());
      Past past =
          new Past(loader, new Wearing(loader, db), zone, today, random.split(), people, weeks);
      LocalDate last = past.perform();
      Suggestions suggestions = past.suggestions();
      suggestions.before(now);
      past.shore().lately(now);
      suggestions.lately(now);
      loader.finish(now);
      past.shore().write(db);
      past.shore().openings(db, now);
      new Habits(db, zone, today).write();
      past.shore().sought(db, now);
      suggestions.write(db, now);
      accounts(db, loader.directory(), now);
      ThisWeek.write(past.company(), last.plusWeeks(1), files);
      // Written last: whatever was interrupted before is made anew.
      db.insertInto(SETTING)
          .set(SETTING.NAME, "demo")
          .set(SETTING.VALUE, SIGN_INS + PASSWORD)
          .execute();
    }
  }

  /** All who work there have the one known password; who only begins has an invitation. */
  private static void accounts(DSLContext db, DirectoryView directory, Instant now) {
    String hash = new Argon2PasswordEncoder(16, 32, 1, 19_456, 2).encode(PASSWORD);
    BatchBindStep batch =
        db.batch(
            db.insertInto(ACCOUNT, ACCOUNT.PERSON_ID, ACCOUNT.PASSWORD, ACCOUNT.CHANGED_AT)
                .values((java.util.UUID) null, null, null));
    for (Person person : directory.people()) {
      if (person.status() == PersonStatus.ACTIVE
          && person.since().isBefore(now.minusSeconds(8 * 86_400))) {
        batch.bind(person.id().value(), hash, person.since());
      }
    }
    batch.execute();
  }
}
