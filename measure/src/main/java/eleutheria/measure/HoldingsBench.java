package eleutheria.measure;

import eleutheria.measure.Results.Goal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.LockSupport;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The map of holdings over HTTP: its first screen, a large unit opened, two days compared, a month
 * of one entitlement, and all holdings as CSV; one client, H taken in the same rounds.
 */
final class HoldingsBench {
  private static final int SAMPLES = 60;

  private final Connection connection;
  private final String set;
  private final int rounds;
  private final Results results;
  private final Sql sql;
  private final Server server;
  private final Keyboards keyboards;

  HoldingsBench(Connection connection, String database, String set, int rounds, Results results) {
    this.connection = connection;
    this.set = set;
    this.rounds = rounds;
    this.results = results;
    this.sql = new Sql(connection);
    this.keyboards = new Keyboards(connection, sql);
    this.server = new Server(database);
  }

  void run() throws Exception {
    Keyboards.Who who = keyboards.people(1);
    server.start();
    try {
      Server.Signed steward = server.signedIn("bench.steward", Keyboards.PASSWORD);
      JsonNode map = steward.get("/api/holdings/map?rows=employment&order=size&size=1");
      JsonNode first = map.path("rowHeads").path(0);
      String unit =
          java.net.URLEncoder.encode(first.path("key").asString(), StandardCharsets.UTF_8);
      System.out.printf(
          "  %,d holdings, %,d rows, %,d columns; the largest value of employment has %,d people%n",
          map.path("held").asLong(),
          map.path("rows").asInt(),
          map.path("columns").asInt(),
          first.path("of").asInt());
      UUID most = mostHeld();
      for (int round = 0; round < rounds; round++) {
        round(steward, who, unit, first.path("of").asInt(), most, round);
      }
      tell(first.path("of").asInt());
      csv(steward);
      scroll();
    } finally {
      server.stop();
    }
  }

  private UUID mostHeld() throws SQLException {
    int most = 0;
    int of = 0;
    try (ResultSet row = sql.query("all-counts")) {
      while (row.next()) {
        if (row.getInt(2) > most) {
          most = row.getInt(2);
          of = row.getInt(1);
        }
      }
    }
    return keyboards.id("now_role", "e", of);
  }

  private static double median(Server.Signed steward, String path) throws Exception {
    double[] times = new double[SAMPLES];
    for (int i = 0; i < SAMPLES; i++) {
      times[i] = steward.timed(path);
    }
    return Timing.percentile(times, 0.5);
  }

  private void round(
      Server.Signed steward, Keyboards.Who who, String unit, int size, UUID most, int round)
      throws Exception {
    System.out.printf("  holdings round %d of %d%n", round + 1, rounds);
    median(steward, "/api/session/alive");
    results.round("H", median(steward, "/api/session/alive"));
    String screen = "/api/holdings/map?size=40&width=40";
    // Another query each time, of which nothing has been worked out.
    double[] cold = new double[10];
    for (int i = 0; i < cold.length; i++) {
      cold[i] = steward.timed(screen + "&endsBefore=" + LocalDate.of(2031 + round, 1, 1 + i));
    }
    results.round("cold screen", Timing.percentile(cold, 0.5));
    median(steward, screen);
    results.round("screen", median(steward, screen));
    results.round(
        "opened",
        median(
            steward,
            screen.replace("?", "?row=" + (size / 2) + "&")
                + "&rows=employment&order=size&open="
                + unit));
    LocalDate today = LocalDate.now(ZoneId.of("Europe/Oslo"));
    results.round(
        "as of",
        steward.timed(
            "/api/people/"
                + who.staff()
                + "/holdings?asOf="
                + midnight(today.minusDays(200 + 37L * round))));
    String compared =
        screen
            + "&asOf="
            + midnight(today.minusDays(60 + 11L * round))
            + "&against="
            + midnight(today.minusDays(320 + 11L * round));
    results.round("compared first", steward.timed(compared));
    results.round("compared", median(steward, compared));
    double[] during = new double[10];
    for (int i = 0; i < during.length; i++) {
      LocalDate from = today.minusDays(400 + 31L * round + i);
      during[i] =
          steward.timed(
              screen + "&entitlements=" + most + "&from=" + from + "&until=" + from.plusDays(30));
    }
    results.round("during", Timing.percentile(during, 0.5));
  }

  private static String midnight(LocalDate day) {
    return day.atStartOfDay(ZoneOffset.UTC).toInstant().toString();
  }

  private void tell(int size) {
    results.ratio("map, first screen of 40 × 40", set, "H", Goal.atMost(4), "screen", "H");
    results.ratio("the same of a query not asked before", set, "H", null, "cold screen", "H");
    results.ratio(
        "a row of %,d people opened, what is seen in its middle".formatted(size),
        set,
        "H",
        Goal.atMost(4),
        "opened",
        "H");
    results.ratio(
        "two past days compared, first query",
        set,
        "as-of builds",
        Goal.atMost(2),
        "compared first",
        "as of");
    results.ratio("two days compared, afterwards", set, "H", Goal.atMost(10), "compared", "H");
    results.ratio("a month of the most held entitlement", set, "H", Goal.atMost(20), "during", "H");
  }

  /** All holdings as CSV, against reading as many bare rows from the database. */
  private void csv(Server.Signed steward) throws Exception {
    Map<String, Object> form =
        Map.of(
            "name",
            "All",
            "spec",
            Map.of(
                "asked", Map.of(), "columns", List.of("person", "unit", "app", "role", "grounds")),
            "format",
            "csv");
    for (int round = 0; round < Math.min(rounds, 2); round++) {
      long begun = System.nanoTime();
      long lines = steward.lines("/api/reports-made", form) - 1;
      results.round("csv rate", lines / ((System.nanoTime() - begun) / 1e9));
      System.out.printf("  %,d lines in %.1f s%n", lines, (System.nanoTime() - begun) / 1e9);
      results.round("bare rate", bare());
    }
    // Once more, looking now and then at what lives on the heap; each look stops the server.
    AtomicBoolean on = new AtomicBoolean(true);
    AtomicLong highest = new AtomicLong();
    long before = heap();
    Thread watcher =
        Thread.ofPlatform()
            .start(
                () -> {
                  while (on.get()) {
                    try {
                      highest.accumulateAndGet(heap(), Math::max);
                    } catch (Exception e) {
                      return;
                    }
                    LockSupport.parkNanos(2_000_000_000L);
                  }
                });
    steward.lines("/api/reports-made", form);
    on.set(false);
    watcher.join();
    results.tell(
        "all holdings as CSV over HTTP", set, "lines a second", null, results.rounds("csv rate"));
    results.ratio(
        "the same against reading bare rows over JDBC",
        set,
        "rows a second",
        Goal.atLeast(0.5),
        "csv rate",
        "bare rate");
    results.tell(
        "live heap while all is streamed, at most, beside before",
        set,
        "MB",
        null,
        (highest.get() - before) / (double) (1 << 20));
  }

  /** Frames while the map is scrolled in a browser, against those of an empty scroller. */
  private void scroll() throws Exception {
    List<String> command =
        new ArrayList<>(
            List.of(
                "node",
                Path.of("measure/browser/map.mjs").toString(),
                "http://127.0.0.1:" + server.port(),
                "bench.steward",
                Keyboards.PASSWORD,
                String.valueOf(rounds)));
    if (set.equals("L")) {
      command.add("docs/screenshots/map-large.png");
    }
    Process node =
        new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.INHERIT).start();
    String told = new String(node.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (node.waitFor() != 0) {
      throw new IllegalStateException("measure/browser/map.mjs ended with an error");
    }
    JsonNode found = JsonMapper.shared().readTree(told);
    found.path("map").forEach(time -> results.round("map frame", time.asDouble()));
    found.path("empty").forEach(time -> results.round("empty frame", time.asDouble()));
    results.ratio(
        "map scrolled both ways: 95th percentile frame",
        set,
        "an empty scroller's",
        Goal.atMost(2),
        "map frame",
        "empty frame");
  }

  /** What lives on the server's heap, after everything unused is thrown away. */
  private long heap() throws Exception {
    Process jcmd =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "jcmd").toString(),
                String.valueOf(server.pid()),
                "GC.class_histogram")
            .redirectErrorStream(true)
            .start();
    String histogram = new String(jcmd.getInputStream().readAllBytes());
    String total =
        histogram.lines().filter(line -> line.startsWith("Total")).findFirst().orElseThrow();
    return Long.parseLong(total.strip().split("\\s+")[2]);
  }

  /** Rows of memberships a second, read and thrown away. */
  private double bare() throws SQLException {
    long rows = 0;
    long begun = System.nanoTime();
    try (Statement statement = connection.createStatement()) {
      statement.setFetchSize(5_000);
      try (ResultSet row =
          statement.executeQuery(
              "select group_id, member_id, valid_from, valid_until, opened from membership")) {
        while (row.next()) {
          row.getBytes(1);
          row.getBytes(2);
          row.getString(3);
          row.getString(4);
          row.getLong(5);
          rows++;
        }
      }
    }
    return rows / ((System.nanoTime() - begun) / 1e9);
  }
}
