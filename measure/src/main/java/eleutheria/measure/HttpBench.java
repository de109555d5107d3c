package eleutheria.measure;

import eleutheria.measure.Results.Goal;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.UUID;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import org.jspecify.annotations.Nullable;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The real server over HTTP: what the views of the slice cost against an answer with nothing in it,
 * from one, sixteen and fifty keyboards at once. Server, database and those who ask share the
 * machine.
 */
final class HttpBench {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int TILES = 60;
  private static final int[] PARALLEL = {1, 16, 50};

  private final Connection connection;
  private final String set;
  private final int rounds;
  private final Results results;
  private final Sql sql;
  private final Server server;
  private final Keyboards keyboards;

  HttpBench(Connection connection, String database, String set, int rounds, Results results) {
    this.connection = connection;
    this.set = set;
    this.rounds = rounds;
    this.results = results;
    this.sql = new Sql(connection);
    this.keyboards = new Keyboards(connection, sql);
    this.server = new Server(database);
  }

  void run() throws Exception {
    Keyboards.Who who = keyboards.people(TILES / 2);
    results.tell("server start to ready", set, "s", null, server.start());
    try {
      Server.Signed steward = server.signedIn("bench.steward", Keyboards.PASSWORD);
      List<UUID> roles = roles(who);
      PortalBench.arrange(steward, roles, set, results);
      Server.Signed staff = server.signedIn("bench.staff", Keyboards.PASSWORD);
      JsonNode front = staff.get("/api/front");
      System.out.printf(
          "  the portal of a person with %d tiles is %,d bytes%n",
          TILES, front.toString().length());
      Map<String, Asked> queries = new LinkedHashMap<>();
      String person = who.staff().toString();
      queries.put("nothing", new Asked(staff, "/api/session/alive"));
      queries.put("portal answer of 60 tiles", new Asked(staff, "/api/front"));
      queries.put(
          "first page of holders",
          new Asked(steward, "/api/entitlements/" + mostHeld() + "/holders?limit=50"));
      queries.put(
          "grounds", new Asked(steward, "/api/people/" + person + "/holdings/" + roles.getFirst()));
      for (Asked asked : queries.values()) {
        asked.signed().get(asked.path());
      }
      measure(queries);
      signIns(queries.get("portal answer of 60 tiles"));
      memory(steward, person);
    } finally {
      server.stop();
    }
  }

  /** What the member of staff holds: enough for a tile each. */
  private List<UUID> roles(Keyboards.Who who) throws SQLException {
    List<UUID> found = new ArrayList<>();
    try (ResultSet row =
        sql.query("entitlements-of-person-closure", who.staffNumber(), who.staffNumber())) {
      List<Integer> numbers = new ArrayList<>();
      while (row.next()) {
        numbers.add(row.getInt(1));
      }
      for (int number : numbers) {
        try (Statement statement = connection.createStatement();
            ResultSet open =
                statement.executeQuery("select open from now_role where e = " + number)) {
          open.next();
          if (open.getBoolean(1) && found.size() < TILES) {
            found.add(keyboards.id("now_role", "e", number));
          }
        }
      }
    }
    return found;
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

  private record Asked(Server.Signed signed, String path) {}

  // ---- answers

  private void measure(Map<String, Asked> queries) throws Exception {
    for (int parallel : PARALLEL) {
      for (Map.Entry<String, Asked> each : queries.entrySet()) {
        ask(each.getValue(), parallel, 1_500);
      }
    }
    for (int round = 0; round < rounds; round++) {
      System.out.printf("  HTTP round %d of %d%n", round + 1, rounds);
      for (int parallel : PARALLEL) {
        for (Map.Entry<String, Asked> each : queries.entrySet()) {
          Sampled sampled = ask(each.getValue(), parallel, 20_000 / rounds + 1);
          String name = each.getKey() + " " + parallel;
          results.round(name, Timing.percentile(sampled.times(), 0.5));
          results.round(name + " p99", Timing.percentile(sampled.times(), 0.99));
          results.round(name + " rate", sampled.rate());
        }
      }
      results.round("pk beside HTTP", Timing.median(2_000, i -> sql.rows("primary-key", i)));
    }
    tell(queries);
  }

  private void tell(Map<String, Asked> queries) {
    double[] h = results.rounds("nothing 1");
    results.tell(
        "an empty answer over HTTP, one client (H)",
        set,
        "µs",
        null,
        Arrays.stream(h).map(t -> t / 1_000).toArray());
    results.ratio("H, one client", set, "PK", Goal.atMost(12), "nothing 1", "pk beside HTTP");
    results.tell(
        "H a second, 16 clients",
        set,
        "answers a second",
        Goal.atLeast(3_000),
        results.rounds("nothing 16 rate"));
    for (String name : queries.keySet()) {
      if (name.equals("nothing")) {
        continue;
      }
      for (int parallel : PARALLEL) {
        String clients = ", " + parallel + (parallel == 1 ? " client" : " clients");
        results.ratio(
            name + clients + ": median",
            set,
            "H",
            Goal.atMost(1.5),
            name + " " + parallel,
            "nothing " + parallel);
        results.ratio(
            name + clients + ": 99th percentile",
            set,
            "H's",
            Goal.atMost(2),
            name + " " + parallel + " p99",
            "nothing " + parallel + " p99");
      }
    }
  }

  /**
   * @param rate answers a second
   */
  private record Sampled(double[] times, double rate) {}

  private Sampled ask(Asked asked, int parallel, int samples) throws Exception {
    int each = Math.max(1, samples / parallel);
    double[][] times = new double[parallel][each];
    String cookies = asked.signed().header();
    CountDownLatch ready = new CountDownLatch(parallel);
    CountDownLatch go = new CountDownLatch(1);
    List<Thread> threads = new ArrayList<>();
    AtomicInteger failed = new AtomicInteger();
    for (int t = 0; t < parallel; t++) {
      double[] own = times[t];
      threads.add(
          Thread.ofVirtual()
              .start(
                  () -> {
                    try (RawHttp http = new RawHttp(server.port())) {
                      byte[] request = http.get(asked.path(), cookies);
                      ready.countDown();
                      go.await();
                      for (int i = 0; i < own.length; i++) {
                        long begun = System.nanoTime();
                        if (http.exchange(request) != 200) {
                          failed.incrementAndGet();
                        }
                        own[i] = System.nanoTime() - begun;
                      }
                    } catch (IOException | InterruptedException e) {
                      failed.incrementAndGet();
                      ready.countDown();
                    }
                  }));
    }
    ready.await();
    long begun = System.nanoTime();
    go.countDown();
    for (Thread thread : threads) {
      thread.join();
    }
    double took = System.nanoTime() - begun;
    if (failed.get() > 0) {
      throw new IllegalStateException(failed.get() + " answers to " + asked.path() + " failed");
    }
    return new Sampled(
        Arrays.stream(times).flatMapToDouble(Arrays::stream).toArray(),
        (double) each * parallel / took * 1e9);
  }

  // ---- signing in

  private void signIns(Asked portal) throws Exception {
    Argon2PasswordEncoder encoder = new Argon2PasswordEncoder(16, 32, 1, 19_456, 2);
    String hash = encoder.encode(Keyboards.PASSWORD);
    for (int round = 0; round < rounds; round++) {
      int bare = 60;
      long begun = System.nanoTime();
      List<Thread> threads = new ArrayList<>();
      for (int t = 0; t < 2; t++) {
        threads.add(
            Thread.ofPlatform()
                .start(
                    () -> {
                      for (int i = 0; i < bare / 2; i++) {
                        if (!encoder.matches(Keyboards.PASSWORD, hash)) {
                          throw new IllegalStateException("the hash is wrong");
                        }
                      }
                    }));
      }
      for (Thread thread : threads) {
        thread.join();
      }
      results.round("bare hashes", bare / ((System.nanoTime() - begun) / 1e9));
      results.round("calm portal p99", Timing.percentile(ask(portal, 1, 2_000).times(), 0.99));
      results.round("sign-ins", signInTogether(50, null));
      signInTogether(50, portal);
    }
    results.ratio(
        "sign-ins a second",
        set,
        "bare hashes on two threads",
        Goal.atLeast(0.8),
        "sign-ins",
        "bare hashes");
    results.ratio(
        "portal answer while 50 sign in: 99th percentile",
        set,
        "calm",
        Goal.atMost(5),
        "busy portal p99",
        "calm portal p99");
  }

  /**
   * Some sign in at once; gives how many a second.
   *
   * @param portal what one more asks for meanwhile, as fast as it can; null for nothing
   */
  private double signInTogether(int many, @Nullable Asked portal) throws Exception {
    Server.Signed one = server.signedIn("bench.staff", Keyboards.PASSWORD);
    CountDownLatch done = new CountDownLatch(many);
    Queue<String> refusals = new ConcurrentLinkedQueue<>();
    List<Double> meanwhile = new ArrayList<>();
    Thread watcher =
        Thread.ofPlatform()
            .start(
                () -> {
                  if (portal == null) {
                    return;
                  }
                  try (RawHttp http = new RawHttp(server.port())) {
                    byte[] request = http.get(portal.path(), portal.signed().header());
                    while (done.getCount() > 0) {
                      long begun = System.nanoTime();
                      http.exchange(request);
                      meanwhile.add((double) (System.nanoTime() - begun));
                    }
                  } catch (IOException e) {
                    refusals.add(String.valueOf(e));
                  }
                });
    String body =
        JSON.writeValueAsString(Map.of("name", "bench.staff", "password", Keyboards.PASSWORD));
    String token = one.token();
    long begun = System.nanoTime();
    for (int i = 0; i < many; i++) {
      Thread.ofVirtual()
          .start(
              () -> {
                try (RawHttp http = new RawHttp(server.port())) {
                  byte[] request = http.post("/api/sign-in", "XSRF-TOKEN=" + token, token, body);
                  int status = http.exchange(request);
                  if (status >= 300) {
                    refusals.add(String.valueOf(status));
                  }
                } catch (IOException e) {
                  refusals.add(String.valueOf(e));
                } finally {
                  done.countDown();
                }
              });
    }
    done.await();
    double took = (System.nanoTime() - begun) / 1e9;
    watcher.join();
    if (!refusals.isEmpty()) {
      throw new IllegalStateException("of %d sign-ins: %s".formatted(many, refusals));
    }
    if (portal != null) {
      results.round(
          "busy portal p99",
          Timing.percentile(meanwhile.stream().mapToDouble(Double::doubleValue).toArray(), 0.99));
    }
    return many / took;
  }

  /** The heap in use with two past states kept, after everything unused is thrown away. */
  private void memory(Server.Signed steward, String person) throws Exception {
    for (int days : new int[] {100, 400}) {
      Instant then = Instant.now().minus(Duration.ofDays(days));
      long begun = System.nanoTime();
      steward.get("/api/people/" + person + "/holdings?asOf=" + then);
      results.round("as of over HTTP", System.nanoTime() - begun);
    }
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
    double bytes = Double.parseDouble(total.strip().split("\\s+")[2]);
    results.tell(
        "heap of the whole server with two past states",
        set,
        "MB",
        Goal.atMost(1_500),
        bytes / (1 << 20));
    results.tell(
        "holdings as of a past day over HTTP, first query",
        set,
        "ms",
        null,
        Arrays.stream(results.rounds("as of over HTTP")).map(t -> t / 1e6).toArray());
  }
}
