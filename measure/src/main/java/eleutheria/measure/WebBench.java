package eleutheria.measure;

import eleutheria.demo.LoadDemo;
import eleutheria.measure.Results.Goal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.ZoneId;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The portal of the demo in Debian's Chromium: audits by lighthouse with its default throttling,
 * what is loaded, and how long it is from a key to what it finds among 600 tiles. What measures is
 * measure/browser/measure.mjs.
 */
final class WebBench {
  private static final String DATABASE = "eleutheria_bench_demo";
  private static final String SET = "demo";
  private static final double KIB = 1024;

  private final int rounds;
  private final Results results;

  WebBench(int rounds, Results results) {
    this.rounds = rounds;
    this.results = results;
  }

  void run() throws Exception {
    fill();
    Server server = new Server(DATABASE);
    server.start();
    try {
      tell(measured("http://127.0.0.1:" + server.port()));
    } finally {
      server.stop();
    }
  }

  private static void fill() throws Exception {
    String base = "jdbc:mariadb://127.0.0.1:" + System.getenv("BENCH_PORT") + "/";
    String user = System.getenv("BENCH_USER");
    String password = System.getenv("BENCH_PASSWORD");
    try (Connection connection = DriverManager.getConnection(base, user, password);
        Statement statement = connection.createStatement()) {
      if (filled(statement)) {
        return;
      }
      statement.execute("drop database if exists " + DATABASE);
      statement.execute("create database " + DATABASE + " character set utf8mb4");
    }
    System.out.println("  loading the demo");
    LoadDemo.load(
        base + DATABASE,
        user,
        password,
        ZoneId.of("Europe/Oslo"),
        Instant.now(),
        Files.createTempDirectory("bench-demo"),
        1214,
        LoadDemo.WEEKS);
  }

  /** What its loading writes last. */
  private static boolean filled(Statement statement) throws SQLException {
    try (ResultSet there =
        statement.executeQuery(
            "select 1 from information_schema.tables where table_schema = '%s' and table_name = 'setting'"
                .formatted(DATABASE))) {
      if (!there.next()) {
        return false;
      }
    }
    try (ResultSet row =
        statement.executeQuery("select 1 from " + DATABASE + ".setting where name = 'demo'")) {
      return row.next();
    }
  }

  private JsonNode measured(String address) throws Exception {
    Process node =
        new ProcessBuilder(
                "node",
                Path.of("measure/browser/measure.mjs").toString(),
                address,
                "oda.brekke",
                "ines.roth",
                LoadDemo.PASSWORD,
                String.valueOf(Math.max(5, rounds)))
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String told = new String(node.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (node.waitFor() != 0) {
      throw new IllegalStateException("measure/browser/measure.mjs ended with an error");
    }
    return JsonMapper.shared().readTree(told);
  }

  private void tell(JsonNode found) {
    JsonNode loaded = found.path("loaded");
    tell(
        "portal: JavaScript, compressed",
        "KiB",
        Goal.atMost(160),
        loaded.path("js").asDouble() / KIB);
    tell("portal: CSS, compressed", "KiB", Goal.atMost(40), loaded.path("css").asDouble() / KIB);
    tell("portal: fonts", "KiB", Goal.atMost(90), loaded.path("fonts").asDouble() / KIB);
    tell(
        "portal: all of it cached for ever",
        "of 1",
        Goal.atLeast(1),
        yes(loaded.path("immutable")));
    tell(
        "portal: painted before the data comes",
        "of 1",
        Goal.atLeast(1),
        yes(loaded.path("skeletonBeforeData")));
    for (String device : new String[] {"mobile", "desktop"}) {
      JsonNode audit = found.path("audits").path(device);
      for (String category : new String[] {"performance", "accessibility", "best-practices"}) {
        tell(
            "lighthouse, %s: %s".formatted(device, category),
            "of 100",
            Goal.atLeast(95),
            audit.path(category).asDouble());
      }
      tell(
          "lighthouse, %s: layout shift".formatted(device),
          "",
          Goal.atMost(0.02),
          audit.path("cls").asDouble());
    }
    JsonNode keys = found.path("keys");
    tell(
        "600 tiles: from a key to what it finds",
        "ms",
        Goal.atMost(50),
        keys.path("x1").path("median").asDouble());
    tell(
        "600 tiles, CPU slowed four times: the same",
        "ms",
        Goal.atMost(150),
        keys.path("x4").path("median").asDouble());
    tell(
        "600 tiles: layout shift while typing",
        "",
        Goal.atMost(0.02),
        keys.path("shift").asDouble());
  }

  private static double yes(JsonNode value) {
    return value.asBoolean() ? 1 : 0;
  }

  private void tell(String name, String unit, Goal goal, double value) {
    results.tell(name, SET, unit, goal, value);
  }
}
