package eleutheria.server.directory;

import static eleutheria.server.tables.Tables.ATTRIBUTE;
import static eleutheria.server.tables.Tables.EXISTENCE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.NAMING;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.ServerProcess;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Power cuts: the server, and separately the database, are killed at a random moment of an import.
 * Afterwards it is all there or nothing of it, the chain is whole, and the start heals itself.
 */
class KilledDuringImportTest {
  private static final int ROUNDS = Integer.getInteger("kills", 1);
  private static final int ROWS = 3_000;

  private final SplittableRandom random = new SplittableRandom(99);
  private ServerProcess server;

  @BeforeEach
  void seed() {
    String database = RunningServer.newDatabase();
    Seed.into(
        RunningServer.mariaDb().url(database),
        RunningServer.mariaDb().user(),
        RunningServer.mariaDb().password());
    server = new ServerProcess(database);
  }

  @AfterEach
  void stop() {
    server.stop();
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
        "/api/deliveries/" + id + "/import",
        Map.of("digest", preview.path("digest").asString(), "leaveOutBad", false, "invite", false));
  }

  /** How many people, names and units of the rounds there are; each round's must be all or none. */
  private void allOrNothing(int rounds) throws SQLException {
    server.tables(
        db -> {
          int imports = db.fetchCount(LEDGER_ENTRY, LEDGER_ENTRY.ACT.eq("directory.import"));
          assertThat(imports).isLessThanOrEqualTo(rounds);
          int names = db.fetchCount(NAMING, NAMING.GIVEN.startsWith("Given"));
          assertThat(names).isEqualTo(imports * ROWS);
          // Nine people and a group were there before.
          assertThat(db.fetchCount(EXISTENCE)).isEqualTo(imports * ROWS + 10);
          assertThat(db.fetchCount(ATTRIBUTE, ATTRIBUTE.VALUE.eq("Deck crew")))
              .isEqualTo(names + 1);
        });
  }

  @Test
  void theServerIsKilled() throws Exception {
    long usual = 2_000;
    for (int round = 1; round <= ROUNDS; round++) {
      Visitor ines = server.signedIn("ines");
      Staged staged = stage(ines, round);
      CompletableFuture<Visitor.Answer> answer =
          CompletableFuture.supplyAsync(() -> ines.post(staged.path(), staged.agreed()));
      ServerProcess.pause(random.nextLong(usual));
      server.kill();
      answer.get(60, TimeUnit.SECONDS);
      server.start();
      allOrNothing(round);
      server.chainIsWhole();
    }
  }

  @Test
  void theDatabaseIsKilled() throws Exception {
    for (int round = 1; round <= ROUNDS; round++) {
      server.awaitReady();
      Visitor ines = server.signedIn("ines");
      Staged staged = stage(ines, round);
      CompletableFuture<Visitor.Answer> answer =
          CompletableFuture.supplyAsync(() -> ines.post(staged.path(), staged.agreed()));
      ServerProcess.pause(random.nextLong(2_000));
      RunningServer.mariaDb().kill();
      assertThat(answer.get(60, TimeUnit.SECONDS).status()).isIn(200, 503);
      RunningServer.mariaDb().again();
      server.awaitReady();
      allOrNothing(round);
      server.chainIsWhole();
      Visitor again = server.signedIn("ines");
      assertThat(
              again.get("/api/people?find=Family7").expect(200).json().path("total").asInt() % 111)
          .as("what is in memory is what is in the tables")
          .isZero();
    }
  }
}
