package eleutheria.measure;

import eleutheria.measure.Results.Goal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.flywaydb.core.Flyway;
import tools.jackson.databind.JsonNode;

/**
 * A file of everyone, dropped, looked at and imported over HTTP, against a bare JDBC batch that
 * writes the very same rows into the very same tables and knows nothing.
 */
final class ImportBench {
  private static final String FROM = "eleutheria_bench_import";
  private static final String TO = "eleutheria_bench_bare";
  private static final int BATCH = 5_000;

  private final String url;
  private final String set;
  private final int people;
  private final int rounds;
  private final Results results;

  ImportBench(String url, String set, int people, int rounds, Results results) {
    this.url = url;
    this.set = set;
    this.people = people;
    this.rounds = rounds;
    this.results = results;
  }

  void run() throws Exception {
    for (int round = 0; round < rounds; round++) {
      System.out.printf("  import round %d of %d%n", round + 1, rounds);
      empty(FROM);
      Server server =
          new Server(FROM).withLink(Files.createTempDirectory("bench").resolve("first-steward"));
      server.start();
      try {
        results.round("import", importFile(steward(server), results::round));
      } finally {
        server.stop();
      }
      empty(TO);
      results.round("bare batch", copy());
    }
    besideReaders();
    results.ratio(
        "a file of everyone: drop, preview, bring in",
        set,
        "bare JDBC batch of the same rows",
        Goal.atMost(2),
        "import",
        "bare batch");
    for (String part : List.of("drop", "preview", "bring in", "bare batch")) {
      results.tell(
          "  of it, " + part,
          set,
          "s",
          null,
          java.util.Arrays.stream(results.rounds(part)).map(t -> t / 1e9).toArray());
    }
  }

  /**
   * Once more, while somebody reads on: every answer is of before it or of after it, and none
   * fails.
   */
  private void besideReaders() throws Exception {
    empty(FROM);
    Server server =
        new Server(FROM).withLink(Files.createTempDirectory("bench").resolve("first-steward"));
    server.start();
    try {
      Server.Signed steward = steward(server);
      List<Double> times = new ArrayList<>();
      AtomicBoolean over = new AtomicBoolean();
      AtomicReference<Exception> failed = new AtomicReference<>();
      Thread reader =
          Thread.ofPlatform()
              .start(
                  () -> {
                    try {
                      boolean after = false;
                      while (!over.get()) {
                        long begun = System.nanoTime();
                        int total = steward.get("/api/people?limit=1").path("total").asInt();
                        times.add((double) (System.nanoTime() - begun));
                        boolean all = total == people + 1;
                        if (!all && (after || total != 1)) {
                          throw new IllegalStateException(total + " people in between");
                        }
                        after = all;
                      }
                    } catch (Exception e) {
                      failed.set(e);
                    }
                  });
      importFile(steward, (part, nanos) -> {});
      over.set(true);
      reader.join();
      if (failed.get() != null) {
        throw failed.get();
      }
      results.tell(
          "  reading meanwhile: 99th percentile of %,d answers".formatted(times.size()),
          set,
          "ms",
          null,
          Timing.percentile(times.stream().mapToDouble(t -> t / 1e6).toArray(), 0.99));
    } finally {
      server.stop();
    }
  }

  private Connection open(String database) throws SQLException {
    return DriverManager.getConnection(
        url + database + "?useServerPrepStmts=true&useBulkStmts=true",
        System.getenv("BENCH_USER"),
        System.getenv("BENCH_PASSWORD"));
  }

  private void empty(String database) throws SQLException {
    try (Connection connection = open("");
        Statement statement = connection.createStatement()) {
      statement.execute("drop database if exists " + database);
      statement.execute("create database " + database + " character set utf8mb4");
    }
    Flyway.configure()
        .dataSource(url + database, System.getenv("BENCH_USER"), System.getenv("BENCH_PASSWORD"))
        .load()
        .migrate();
  }

  private String file() {
    StringBuilder out =
        new StringBuilder("staff no,given,family,sign-in,email,unit,site,title,first day\n");
    for (int i = 0; i < people; i++) {
      out.append(
              "N%06d,Given%d,Family%d,user%d,user%d@example.test,".formatted(i, i % 997, i, i, i))
          .append("Unit %d,Site %d,Title %d,2019-04-01%n".formatted(i % 40, i % 7, i % 60));
    }
    return out.toString();
  }

  /** The first steward, by the link that an empty database's server writes. */
  private static Server.Signed steward(Server server) throws Exception {
    String link = Files.readString(server.link()).strip();
    Server.Signed steward = server.nobody();
    steward.post(
        "/api/links/use",
        Map.of(
            "token",
            link.substring(Math.max(link.lastIndexOf('/'), link.lastIndexOf('#')) + 1),
            "password",
            "tern over the sound",
            "given",
            "First",
            "family",
            "Steward",
            "userName",
            "first.steward",
            "mail",
            "first@example.test"));
    steward.get("/api/session");
    return steward;
  }

  private double importFile(Server.Signed steward, BiConsumer<String, Double> part)
      throws Exception {
    byte[] file = file().getBytes(StandardCharsets.UTF_8);
    long begun = System.nanoTime();
    JsonNode dropped = steward.drop("/api/deliveries", "sourceName", "Staff office", file);
    String path = "/api/deliveries/" + dropped.path("id").asString();
    long there = System.nanoTime();
    JsonNode preview = steward.get(path + "/preview");
    if (preview.path("added").asInt() != people) {
      throw new IllegalStateException("not everyone is added: " + preview);
    }
    long seen = System.nanoTime();
    steward.post(
        path + "/import",
        Map.of("digest", preview.path("digest").asString(), "leaveOutBad", false, "invite", false));
    long done = System.nanoTime();
    part.accept("drop", (double) (there - begun));
    part.accept("preview", (double) (seen - there));
    part.accept("bring in", (double) (done - seen));
    return done - begun;
  }

  /** Writes all that the import wrote, read beforehand, in one transaction. */
  private double copy() throws SQLException {
    try (Connection from = open(FROM);
        Connection to = open(TO)) {
      Map<String, List<Object[]>> rows = new java.util.LinkedHashMap<>();
      for (String table : tables(from)) {
        List<Object[]> all = new ArrayList<>();
        try (Statement statement = from.createStatement();
            ResultSet row = statement.executeQuery("select * from `" + table + "`")) {
          int columns = row.getMetaData().getColumnCount();
          while (row.next()) {
            Object[] values = new Object[columns];
            for (int c = 0; c < columns; c++) {
              values[c] = row.getObject(c + 1);
            }
            all.add(values);
          }
        }
        if (!all.isEmpty()) {
          rows.put(table, all);
        }
      }
      try (Statement statement = to.createStatement()) {
        for (String table : rows.keySet()) {
          statement.execute("delete from `" + table + "`");
        }
      }
      long begun = System.nanoTime();
      to.setAutoCommit(false);
      for (Map.Entry<String, List<Object[]>> table : rows.entrySet()) {
        insert(to, table.getKey(), table.getValue());
      }
      to.commit();
      return System.nanoTime() - begun;
    }
  }

  /** The tables of the product, each after those that it refers to. */
  private static List<String> tables(Connection connection) throws SQLException {
    Map<String, Set<String>> refers = new TreeMap<>();
    try (Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                """
                select t.table_name, k.referenced_table_name
                from information_schema.tables t
                left join information_schema.key_column_usage k
                  on k.table_schema = t.table_schema and k.table_name = t.table_name
                  and k.referenced_table_name is not null
                  and k.referenced_table_name <> t.table_name
                where t.table_schema = database()
                """)) {
      while (row.next()) {
        String name = row.getString(1);
        if (!name.startsWith("flyway") && !name.startsWith("SPRING_SESSION")) {
          Set<String> others = refers.computeIfAbsent(name, n -> new HashSet<>());
          if (row.getString(2) != null) {
            others.add(row.getString(2));
          }
        }
      }
    }
    List<String> ordered = new ArrayList<>();
    while (ordered.size() < refers.size()) {
      int before = ordered.size();
      refers.forEach(
          (name, others) -> {
            if (!ordered.contains(name) && ordered.containsAll(others)) {
              ordered.add(name);
            }
          });
      if (ordered.size() == before) {
        throw new IllegalStateException("tables refer to each other in a circle: " + refers);
      }
    }
    return ordered;
  }

  private static void insert(Connection to, String table, List<Object[]> rows) throws SQLException {
    String places =
        IntStream.range(0, rows.getFirst().length)
            .mapToObj(i -> "?")
            .collect(Collectors.joining(", "));
    try (PreparedStatement statement =
        to.prepareStatement("insert into `%s` values (%s)".formatted(table, places))) {
      for (int from = 0; from < rows.size(); from += BATCH) {
        for (Object[] row : rows.subList(from, Math.min(from + BATCH, rows.size()))) {
          for (int c = 0; c < row.length; c++) {
            statement.setObject(c + 1, row[c]);
          }
          statement.addBatch();
        }
        statement.executeBatch();
      }
    }
  }
}
