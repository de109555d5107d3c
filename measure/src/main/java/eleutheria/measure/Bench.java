package eleutheria.measure;

import eleutheria.demo.Crowd;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import org.flywaydb.core.Flyway;

/**
 * Fills a private MariaDB, checks that engine and SQL agree, measures, and tells.
 *
 * <p>Environment: {@code BENCH_PORT}, {@code BENCH_USER}, {@code BENCH_PASSWORD} of a MariaDB.
 * Arguments: the sets, S, L and demo if there are none; {@code --rounds N} (3); {@code --only
 * engine}, {@code http}, {@code drafts}, {@code portal}, {@code import} or {@code web}, which is of
 * the demo.
 */
public final class Bench {
  private Bench() {}

  public static void main(String[] args) throws Exception {
    List<String> arguments = new java.util.ArrayList<>(List.of(args));
    int rounds = 3;
    int at = arguments.indexOf("--rounds");
    if (at >= 0) {
      rounds = Integer.parseInt(arguments.get(at + 1));
      arguments.subList(at, at + 2).clear();
    }
    List<String> parts = List.of("engine", "http", "drafts", "portal", "holdings", "import", "web");
    at = arguments.indexOf("--only");
    if (at >= 0) {
      parts = List.of(arguments.get(at + 1));
      arguments.subList(at, at + 2).clear();
    }
    Results results = new Results();
    for (Crowd.Size size : List.of(Crowd.Size.S, Crowd.Size.L)) {
      boolean sets = parts.size() > 1 || !parts.contains("web");
      if (sets && (arguments.isEmpty() || arguments.contains(size.name()))) {
        set(size, parts, rounds, results);
      }
    }
    if (parts.contains("web") && (arguments.isEmpty() || arguments.contains("demo"))) {
      System.out.println("Demo");
      new WebBench(rounds, results).run();
    }
    System.out.println();
    System.out.print(results.table());
    results.write(Path.of("measure/results.json"));
  }

  private static void set(Crowd.Size size, List<String> parts, int rounds, Results results)
      throws Exception {
    System.out.println("Set " + size.name());
    results.begin();
    String database = "eleutheria_bench_" + size.name().toLowerCase(java.util.Locale.ROOT);
    String server = "jdbc:mariadb://127.0.0.1:" + System.getenv("BENCH_PORT") + "/";
    String user = System.getenv("BENCH_USER");
    String password = System.getenv("BENCH_PASSWORD");
    try (Connection connection = DriverManager.getConnection(server, user, password);
        Statement statement = connection.createStatement()) {
      statement.execute("create database if not exists " + database + " character set utf8mb4");
    }
    String url = server + database + "?allowLocalInfile=true";
    Flyway.configure().dataSource(url, user, password).load().migrate();
    try (Connection connection = DriverManager.getConnection(url, user, password)) {
      Instant now = filled(connection, size);
      if (parts.contains("engine")) {
        new EngineBench(connection, size, now, rounds, results).run();
      }
      if (parts.contains("http")) {
        new HttpBench(connection, database, size.name(), rounds, results).run();
      }
      if (parts.contains("drafts")) {
        new DraftBench(connection, database, size.name(), rounds, results).run();
      }
      if (parts.contains("portal")) {
        new PortalBench(connection, database, size.name(), rounds, results).run();
      }
      if (parts.contains("holdings")) {
        new HoldingsBench(connection, database, size.name(), rounds, results).run();
      }
      if (parts.contains("import")) {
        new ImportBench(server, size.name(), size.people(), rounds, results).run();
      }
    }
  }

  /** Fills the database unless it is filled already; the moment that its past ends at. */
  private static Instant filled(Connection connection, Crowd.Size size) throws Exception {
    try (Statement statement = connection.createStatement()) {
      try (ResultSet row =
          statement.executeQuery("select value from setting where name = 'bench'")) {
        if (row.next()) {
          return Instant.parse(row.getString(1));
        }
      }
      Instant now = Instant.now().truncatedTo(java.time.temporal.ChronoUnit.SECONDS);
      long begun = System.nanoTime();
      Path folder = Files.createTempDirectory("bench");
      Fill.fill(connection, size, now, folder);
      Files.delete(folder);
      System.out.printf("  filled in %d s%n", (System.nanoTime() - begun) / 1_000_000_000);
      Sql sql = new Sql(connection);
      sql.script("setup");
      new FiltersForSql(connection).fill();
      sql.script("closure");
      statement.execute("analyze table now_above");
      statement.execute("insert into setting values ('bench', '" + now + "')");
      return now;
    }
  }
}
