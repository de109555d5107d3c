package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.LEDGER_CHANGE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_PAYLOAD;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.Facts;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

class LedgerTest {
  private final RunningServer server = RunningServer.shared();
  private final Visitor ines = server.signedIn("ines");
  private final DSLContext db = server.context().getBean(DSLContext.class);

  private JsonNode check() {
    return ines.post("/api/ledger/check", null).expect(200).json();
  }

  @Test
  void theChainIsWholeAndAnyChangeIsFound() {
    assertThat(check().path("broken").isNull()).isTrue();
    String json =
        db.select(LEDGER_CHANGE.JSON)
            .from(LEDGER_CHANGE)
            .where(LEDGER_CHANGE.POSITION.eq(2L), LEDGER_CHANGE.SEQ.eq(1))
            .fetchSingle()
            .value1();
    db.update(LEDGER_CHANGE)
        .set(LEDGER_CHANGE.JSON, json.replace("2026", "2025"))
        .where(LEDGER_CHANGE.POSITION.eq(2L), LEDGER_CHANGE.SEQ.eq(1))
        .execute();
    assertThat(check().path("broken").asLong()).isEqualTo(2);
    db.update(LEDGER_CHANGE)
        .set(LEDGER_CHANGE.JSON, json)
        .where(LEDGER_CHANGE.POSITION.eq(2L), LEDGER_CHANGE.SEQ.eq(1))
        .execute();
    assertThat(check().path("broken").isNull()).isTrue();
  }

  @Test
  void anErasedPayloadLeavesTheChainWholeAndTheStateReadable() {
    String place =
        db.select(LEDGER_PAYLOAD.PLACE)
            .from(LEDGER_PAYLOAD)
            .where(LEDGER_PAYLOAD.POSITION.eq(9L))
            .limit(1)
            .fetchSingle()
            .value1();
    db.update(LEDGER_PAYLOAD)
        .setNull(LEDGER_PAYLOAD.TEXT)
        .where(LEDGER_PAYLOAD.POSITION.eq(9L), LEDGER_PAYLOAD.PLACE.eq(place))
        .execute();
    JsonNode checked = check();
    assertThat(checked.path("broken").isNull()).isTrue();
    assertThat(checked.path("erased").asInt()).isEqualTo(1);
    assertThat(ines.get("/api/ledger/9").expect(200).body()).contains("erased");
  }

  @Test
  void manyActsAtOnceStandInOneOrderWithoutAGap() throws Exception {
    long before = check().path("entries").asLong();
    int acts = 40;
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Callable<Integer>> calls = new ArrayList<>();
      for (int i = 0; i < acts; i++) {
        String name = "Parallel " + i;
        calls.add(() -> ines.post("/api/groups", Map.of("name", name)).status());
      }
      for (Future<Integer> call : pool.invokeAll(calls)) {
        assertThat(call.get()).isEqualTo(200);
      }
    }
    assertThat(check().path("entries").asLong()).isGreaterThanOrEqualTo(before + acts);
    List<Instant> instants =
        db.select(LEDGER_ENTRY.INSTANT)
            .from(LEDGER_ENTRY)
            .orderBy(LEDGER_ENTRY.POSITION)
            .fetch(LEDGER_ENTRY.INSTANT);
    assertThat(instants).isSorted().doesNotHaveDuplicates();
  }

  @Test
  void whatIsInMemoryIsWhatIsInTheTablesAndAnotherNodeFollows() {
    try (ConfigurableApplicationContext other = RunningServer.start(server.database())) {
      Visitor there =
          new Visitor(
              "http://127.0.0.1:" + other.getEnvironment().getProperty("local.server.port"));
      there.signIn("ines", eleutheria.server.testing.Seed.PASSWORD).expect(200);
      String here =
          ines.post("/api/groups", Map.of("name", "Made here"))
              .expect(200)
              .json()
              .path("result")
              .asString();
      other.getBean(World.class).follow();
      assertThat(there.get("/api/groups/" + here).expect(200).body()).contains("Made here");
      String away =
          there
              .post("/api/groups", Map.of("name", "Made there"))
              .expect(200)
              .json()
              .path("result")
              .asString();
      // The next act here catches up under the lock, without waiting for the follower.
      ines.post("/api/groups", Map.of("name", "Made here next")).expect(200);
      ines.get("/api/groups/" + away).expect(200);
    }
    Facts loaded = server.context().getBean(FactStore.class).load(db);
    server
        .context()
        .getBean(World.class)
        .look(
            (facts, now) -> {
              assertThat(loaded.size()).isEqualTo(facts.size());
              facts.forEach((key, spells) -> assertThat(loaded.spells(key)).isEqualTo(spells));
              return true;
            });
  }

  @Test
  void theLedgerIsSearchedByNumberNameActAndReason() {
    ines.post("/api/groups", Map.of("name", "Searched for", "reason", "the regatta of June"))
        .expect(200);
    assertThat(ines.get("/api/ledger?find=regatta").json().path("lines")).hasSize(1);
    assertThat(ines.get("/api/ledger?find=searched%20for").json().path("lines")).hasSize(1);
    assertThat(ines.get("/api/ledger?find=3").json().path("lines").get(0).path("position").asLong())
        .isEqualTo(3);
    assertThat(ines.get("/api/ledger?act=group.make&limit=2").json().path("lines")).hasSize(2);
  }
}
