package eleutheria.server.directory;

import static eleutheria.server.tables.Tables.ATTRIBUTE;
import static eleutheria.server.tables.Tables.EXISTENCE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.NAMING;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.io.IOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Power cuts: the server, and separately the database, are killed at a random moment of an import.
 * Afterwards it is all there or nothing of it, the chain is whole, and the start heals itself.
 */
class KilledDuringImportTest {
  private static final int ROUNDS = 5;
  private static final int ROWS = 3_000;

  private final SplittableRandom random = new SplittableRandom(99);
  private String database;
  private Process server;
  private String base;

  @BeforeEach
  void seed() throws Exception {
    database = RunningServer.newDatabase();
    Seed.into(
        RunningServer.mariaDb().url(database),
        RunningServer.mariaDb().user(),
        RunningServer.mariaDb().password());
    startServer();
  }

  @AfterEach
  void stop() {
    server.destroyForcibly();
  }

  private void startServer() throws IOException {
    int port;
    try (ServerSocket socket = new ServerSocket(0)) {
      port = socket.getLocalPort();
    }
    List<String> command = new ArrayList<>();
    command.add(ProcessHandle.current().info().command().orElse("java"));
    command.addAll(
        List.of(
            "-XX:TieredStopAtLevel=1",
            "-cp",
            System.getProperty("java.class.path"),
            "eleutheria.server.Eleutheria"));
    RunningServer.arguments(database).stream()
        .filter(argument -> !argument.startsWith("--server.port"))
        .forEach(command::add);
    command.add("--server.port=" + port);
    server =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    base = "http://127.0.0.1:" + port;
    awaitReady();
  }

  /** The tests' own; under Maven the usual property names only a jar that points to it. */
  private static String classPath() {
    return System.getProperty("surefire.test.class.path", System.getProperty("java.class.path"));
  }

  private void awaitReady() {
    Visitor visitor = new Visitor(base);
    Instant end = Instant.now().plus(Duration.ofSeconds(90));
    while (visitor.get("/actuator/health/readiness").status() != 200) {
      assertThat(Instant.now()).as("ready in time").isBefore(end);
      assertThat(server.isAlive()).isTrue();
      pause(100);
    }
  }

  private static void pause(long millis) {
    try {
      TimeUnit.MILLISECONDS.sleep(millis);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  private Visitor ines() {
    Visitor ines = new Visitor(base);
    ines.signIn("ines", Seed.PASSWORD).expect(200);
    return ines;
  }

  /** Rows of a round; every one is new. */
  private static byte[] rows(int round) {
    StringBuilder out = new StringBuilder("staff no,given,family,unit\n");
    for (int i = 0; i < ROWS; i++) {
      out.append("R%d-%d,Given%d,Family%d,Deck crew\n".formatted(round, i, i, i));
    }
    return out.toString().getBytes(StandardCharsets.UTF_8);
  }

  private record Staged(String path, Map<String, Object> agreed) {}

  private Staged stage(Visitor ines, int round) {
    String id =
        ines.drop(Map.of("sourceName", "Round " + round), rows(round))
            .expect(200)
            .json()
            .path("id")
            .asString();
    JsonNode preview = ines.get("/api/deliveries/" + id + "/preview").expect(200).json();
    assertThat(preview.path("added").asInt()).isEqualTo(ROWS);
    return new Staged(
        "/api/deliveries/" + id + "/bring-in",
        Map.of("digest", preview.path("digest").asString(), "leaveOutBad", false, "invite", false));
  }

  /** How many people, names and units of the rounds there are; each round's must be all or none. */
  private void allOrNothing(int rounds) throws SQLException {
    try (Connection connection =
        DriverManager.getConnection(
            RunningServer.mariaDb().url(database),
            RunningServer.mariaDb().user(),
            RunningServer.mariaDb().password())) {
      DSLContext db = DSL.using(connection, SQLDialect.MARIADB);
      int imports = db.fetchCount(LEDGER_ENTRY, LEDGER_ENTRY.ACT.eq("directory.import"));
      assertThat(imports).isLessThanOrEqualTo(rounds);
      int names = db.fetchCount(NAMING, NAMING.GIVEN.startsWith("Given"));
      assertThat(names).isEqualTo(imports * ROWS);
      // Nine people and a group were there before.
      assertThat(db.fetchCount(EXISTENCE)).isEqualTo(imports * ROWS + 10);
      assertThat(db.fetchCount(ATTRIBUTE, ATTRIBUTE.VALUE.eq("Deck crew"))).isEqualTo(names + 1);
    }
  }

  private void chainIsWhole(Visitor ines) {
    JsonNode checked = ines.post("/api/ledger/check", null).expect(200).json();
    assertThat(checked.path("broken").isNull()).as(checked.toString()).isTrue();
  }

  @Test
  void theServerIsKilled() throws Exception {
    long usual = 2_000;
    for (int round = 1; round <= ROUNDS; round++) {
      Visitor ines = ines();
      Staged staged = stage(ines, round);
      CompletableFuture<Visitor.Answer> answer =
          CompletableFuture.supplyAsync(() -> ines.post(staged.path(), staged.agreed()));
      pause(random.nextLong(usual));
      server.destroyForcibly().waitFor();
      answer.get(60, TimeUnit.SECONDS);
      startServer();
      allOrNothing(round);
      chainIsWhole(ines());
    }
  }

  @Test
  void theDatabaseIsKilled() throws Exception {
    for (int round = 1; round <= ROUNDS; round++) {
      awaitReady();
      Visitor ines = ines();
      Staged staged = stage(ines, round);
      CompletableFuture<Visitor.Answer> answer =
          CompletableFuture.supplyAsync(() -> ines.post(staged.path(), staged.agreed()));
      pause(random.nextLong(2_000));
      RunningServer.mariaDb().kill();
      assertThat(answer.get(60, TimeUnit.SECONDS).status()).isIn(200, 503);
      RunningServer.mariaDb().again();
      awaitReady();
      allOrNothing(round);
      Visitor again = ines();
      chainIsWhole(again);
      assertThat(
              again.get("/api/people?find=Family7").expect(200).json().path("total").asInt() % 111)
          .as("what is in memory is what is in the tables")
          .isZero();
    }
  }
}
