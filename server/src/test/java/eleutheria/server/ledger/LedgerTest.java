package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.LEDGER_CHANGE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_PAYLOAD;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.Facts;
import eleutheria.server.state.FactStore;
import eleutheria.server.state.World;
import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
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
  void aValueThatIsGoneWithoutAnActOfErasingIsMissing() {
    var payload =
        db.select(LEDGER_PAYLOAD.PLACE, LEDGER_PAYLOAD.TEXT)
            .from(LEDGER_PAYLOAD)
            .where(LEDGER_PAYLOAD.POSITION.eq(9L))
            .limit(1)
            .fetchSingle();
    var there = LEDGER_PAYLOAD.POSITION.eq(9L).and(LEDGER_PAYLOAD.PLACE.eq(payload.value1()));
    db.update(LEDGER_PAYLOAD).setNull(LEDGER_PAYLOAD.TEXT).where(there).execute();
    JsonNode checked = check();
    assertThat(checked.path("broken").asLong()).isEqualTo(9);
    // It lies on the docket until a check is right again.
    assertThat(
            ines.get("/api/docket")
                .json()
                .path("folds")
                .get(0)
                .path("cases")
                .get(0)
                .path("kind")
                .asString())
        .isEqualTo("LEDGER");
    assertThat(server.signedIn("oda").get("/api/docket").body()).doesNotContain("LEDGER");
    db.update(LEDGER_PAYLOAD).set(LEDGER_PAYLOAD.TEXT, payload.value2()).where(there).execute();
    assertThat(check().path("why").isNull()).isTrue();
    assertThat(ines.get("/api/docket").body()).doesNotContain("\"LEDGER\"");
  }

  @Test
  void whatIsWrittenPastTheLedgerIsFound() {
    // A mandate straight into its table.
    db.execute(
        "insert into mandate_held (mandate_id, holder_id, holder_kind, valid_from, valid_until, opened)"
            + " select mandate_id, ?, 'person', '2026-03-02', '9999-12-31', 1 from mandate limit 1",
        (Object) bytes(server.seed().person("oda").value()));
    JsonNode checked = check();
    assertThat(checked.path("broken").isNull()).isTrue();
    assertThat(checked.path("facts").asInt()).isEqualTo(1);
    assertThat(checked.path("why").asString()).contains("mandate-held");
    db.execute(
        "delete from mandate_held where holder_id = ?",
        (Object) bytes(server.seed().person("oda").value()));
    assertThat(check().path("why").isNull()).isTrue();
    // The newest entry cut off, and the head set back as if it had never been.
    ines.post("/api/groups", Map.of("name", "To be cut")).expect(200);
    long last = db.fetchSingle("select position from ledger_head").get(0, Long.class);
    String previous =
        db.fetchSingle("select hash from ledger_entry where position = ?", last - 1)
            .get(0, String.class);
    String head = db.fetchSingle("select hash from ledger_head").get(0, String.class);
    db.execute("update ledger_head set position = ?, hash = ?", last - 1, previous);
    assertThat(check().path("why").isNull()).isFalse();
    db.execute("update ledger_head set position = ?, hash = ?", last, head);
    assertThat(check().path("why").isNull()).isTrue();
  }

  @Test
  void aSignInThatIsTakenAwayLaterIsMissed() {
    String database = RunningServer.newDatabase();
    var maria = RunningServer.mariaDb();
    Seed.into(maria.url(database), maria.user(), maria.password());
    try (ConfigurableApplicationContext own =
        RunningServer.start(database, "--eleutheria.stop-on-difference=true")) {
      Visitor steward =
          new Visitor("http://127.0.0.1:" + own.getEnvironment().getProperty("local.server.port"));
      steward.signIn("ines", Seed.PASSWORD).expect(200);
      own.getBean(EventBatches.class).seal(Instant.now());
      DSLContext there = own.getBean(DSLContext.class);
      assertThat(why(steward)).isEmpty();
      there.execute("update signin_event set success = not success");
      assertThat(why(steward)).contains("sign-ins");
      // Nothing is written while that stands, where it is so set.
      assertThat(steward.post("/api/groups", Map.of("name", "Not now")).expect(409).body())
          .contains("The check of the ledger found a difference");
      steward.get("/api/groups").expect(200);
      there.execute("update signin_event set success = not success");
      assertThat(why(steward)).isEmpty();
      steward.post("/api/groups", Map.of("name", "Now")).expect(200);
      there.execute("update signin_event set person_id = null");
      assertThat(why(steward)).contains("sign-ins");
      there.execute("delete from signin_event");
      assertThat(why(steward)).contains("sign-ins");
    }
  }

  private static String why(Visitor steward) {
    return steward.post("/api/ledger/check", null).expect(200).json().path("why").asString("");
  }

  /** Brings somebody in by a file who has left already. */
  private String departed() {
    String path =
        "/api/deliveries/"
            + ines.drop(
                    Map.of("sourceName", "Old register"),
                    "no,given,family,mail,last\nOLD-1,Gone,Forgotten,forgotten@x.example,2026-01-31\n"
                        .getBytes(StandardCharsets.UTF_8))
                .expect(200)
                .json()
                .path("id")
                .asString();
    ines.put(
            path,
            Map.of(
                "columns",
                Map.of(
                    "no", "key",
                    "given", "given",
                    "family", "family",
                    "mail", "attribute:mail",
                    "last", "lastDay"),
                "scope",
                "THESE_ROWS"))
        .expect(200);
    String digest = ines.get(path + "/preview").expect(200).json().path("digest").asString();
    ines.post(path + "/import", Map.of("digest", digest, "leaveOutBad", false, "invite", false))
        .expect(200);
    return "/api/people/"
        + ines.get("/api/people?find=OLD-1&status=departed")
            .expect(200)
            .json()
            .at("/lines/0/id")
            .asString();
  }

  @Test
  void erasingTakesWhatIsPersonalFromTheLedgerAndTheFactsAndTheCheckSaysHowMuch() {
    String gone = departed();
    String oda = "/api/people/" + server.seed().person("oda").value();
    Map<String, String> why = Map.of("reason", "asked for under the law");
    assertThat(ines.post(oda + "/erasure", why).expect(422).problems())
        .contains("erase.not-departed");
    server.signedIn("oda").post(gone + "/erasure", why).expect(403);
    assertThat(ines.post(gone + "/erasure", Map.of("reason", " ")).expect(422).problems())
        .contains("erase.no-reason");
    assertThat(ines.get(gone).body()).contains("Gone Forgotten", "forgotten@x.example", "OLD-1");
    // Somebody else has asked for them once, and said why.
    db.execute(
        "insert into access_request (id, number, asker_id, person_id, entitlement_id, route, reason, form,"
            + " asked_at, stage, stage_at) values (?, 990001, ?, ?, ?, '[]', 'Forgotten has the counter', ?,"
            + " utc_timestamp(6), 'withdrawn', utc_timestamp(6))",
        bytes(java.util.UUID.randomUUID()),
        bytes(server.seed().person("lena").value()),
        bytes(java.util.UUID.fromString(gone.substring(gone.lastIndexOf('/') + 1))),
        bytes(server.seed().person("lena").value()),
        "[{\"key\":\"who\",\"label\":\"Who?\",\"type\":\"text\",\"values\":[\"Forgotten\"]}]");
    ines.post(gone + "/erasure", why).expect(200);
    JsonNode checked = check();
    assertThat(checked.path("why").isNull()).isTrue();
    assertThat(checked.path("erased").asInt()).isGreaterThanOrEqualTo(1);
    assertThat(ines.get(gone).expect(200).body())
        .doesNotContain("Forgotten")
        .doesNotContain("forgotten@x.example")
        .doesNotContain("OLD-1");
    JsonNode erased = ines.get(gone).expect(200).json();
    assertThat(erased.path("person").path("displayed").asString()).isEqualTo("Erased person");
    assertThat(erased.path("person").path("erased").asBoolean()).isTrue();
    assertThat(ines.get(gone + "/history").expect(200).body()).doesNotContain("Forgotten");
    for (String table :
        new String[] {
          "naming", "attribute", "source_link", "ledger_payload", "ledger_change", "access_request"
        }) {
      assertThat(db.fetch("select * from " + table).toString())
          .as(table)
          .doesNotContain("Forgotten")
          .doesNotContain("forgotten@x.example");
    }
    db.execute("delete from access_request where number = 990001");
    assertThat(ines.post(gone + "/erasure", why).expect(422).problems()).contains("erase.nothing");
  }

  private static byte[] bytes(java.util.UUID id) {
    return java.nio.ByteBuffer.allocate(16)
        .putLong(id.getMostSignificantBits())
        .putLong(id.getLeastSignificantBits())
        .array();
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
    assertThat(ines.get("/api/ledger?act=GROUP_MAKE&limit=2").json().path("lines")).hasSize(2);
  }

  @Test
  void theLedgerIsSearchedByDaysOfTheOrganisation() {
    ines.post("/api/groups", Map.of("name", "Of today")).expect(200);
    String today = java.time.LocalDate.now(java.time.ZoneId.of("Europe/Oslo")).toString();
    String yesterday = java.time.LocalDate.parse(today).minusDays(1).toString();
    String found = "/api/ledger?find=of%20today";
    assertThat(ines.get(found + "&from=" + today + "&until=" + today).json().path("lines"))
        .hasSize(1);
    assertThat(ines.get(found + "&until=" + yesterday).json().path("lines")).isEmpty();
    ines.get("/api/ledger?from=unreadable").expect(400);
    ines.get("/api/ledger?until=+999999999-12-31").expect(400);
    ines.get("/api/ledger?until=%2B999999999-12-31").expect(400);
    ines.get("/api/ledger?until=9999-12-31").expect(400);
    ines.get("/api/ledger?from=").expect(200);
  }

  /** Nobody reads a code: what a fact says is told in words, whatever it is. */
  @Test
  void factsAreToldInWords() {
    String app = OwnApp.open(server, "Told in words").id();
    Map<String, Object> seats = new java.util.HashMap<>();
    seats.put("base", null);
    seats.put("wanted", Map.of("count", 120, "price", 4950, "currency", "NOK"));
    ines.put("/api/apps/" + app + "/seats", seats).expect(200);
    List<String> told = new java.util.ArrayList<>();
    ines.get("/api/ledger?limit=200")
        .json()
        .path("lines")
        .forEach(
            line ->
                ines.get("/api/ledger/" + line.path("position").asLong())
                    .json()
                    .path("changes")
                    .forEach(
                        change -> {
                          told.add(change.path("after").path("value").asString());
                          told.add(change.path("before").path("value").asString());
                        }));
    assertThat(told).contains("120 seats at 49.50 NOK a month each", "open");
    assertThat(told)
        .allSatisfy(
            value ->
                assertThat(value)
                    .doesNotContain("{")
                    .doesNotMatch("[a-z]+:[0-9a-f]{8}-.*")
                    .doesNotContain(" eq \""));
  }
}
