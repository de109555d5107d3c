package eleutheria.server.departures;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/** Departures, on a database of their own: whoever has gone is gone for the other tests too. */
class DeparturesTest {
  private static ConfigurableApplicationContext context;
  private static Seed seed;
  private static String base;

  @BeforeAll
  static void start() {
    String database = RunningServer.newDatabase();
    var mariaDb = RunningServer.mariaDb();
    seed = Seed.shop(mariaDb.url(database), mariaDb.user(), mariaDb.password());
    context = RunningServer.start(database, "--eleutheria.take-back=0s");
    base = "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port");
  }

  @AfterAll
  static void stop() {
    context.close();
  }

  private static Visitor signedIn(String userName) {
    Visitor visitor = new Visitor(base);
    visitor.signIn(userName, Seed.PASSWORD).expect(200);
    return visitor;
  }

  private static String id(String userName) {
    return seed.person(userName).value().toString();
  }

  @Test
  void allOfOnePersonEndsInOneActWithASlip() throws Exception {
    Visitor ines = signedIn("ines");
    Visitor lena = signedIn("lena");
    ines.post(
            "/api/groups/" + seed.desk().value() + "/members",
            Map.of("people", List.of(id("lena")), "groups", List.of()))
        .expect(200);
    String crewsheet = seed.shop().role("Crewsheet").value().toString();
    ines.post(
            "/api/entitlements/" + crewsheet + "/grants",
            Map.of(
                "subjects",
                List.of(Map.of("kind", "person", "id", id("lena"))),
                "reason",
                "for the season"))
        .expect(200);
    lena.post(
            "/api/requests",
            Map.of(
                "entitlement",
                seed.shop().role("Tide Table").value().toString(),
                "reason",
                "to plan"))
        .expect(200);
    BlockingQueue<String> heard = lena.listen("/api/stream");
    assertThat(heard.poll(10, TimeUnit.SECONDS)).contains("hello");

    JsonNode preview = ines.get("/api/people/" + id("lena") + "/departure").expect(200).json();
    assertThat(preview.path("at").isNull()).isTrue();
    assertThat(preview.path("lost")).hasSize(2);
    assertThat(preview.path("requests").asInt()).isEqualTo(1);
    assertThat(preview.path("sessions").asInt()).isEqualTo(1);

    String path = "/api/people/" + id("lena") + "/departure";
    assertThat(ines.post(path, Map.of("reason", " ")).expect(422).problems())
        .contains("departure.no-reason");
    ines.send("POST", path, Map.of("reason", "left"), "departure-key").expect(200);
    ines.send("POST", path, Map.of("reason", "left"), "departure-key").expect(200);
    assertThat(ines.post(path, Map.of("reason", "left")).expect(409).problems())
        .contains("changed-meanwhile");

    JsonNode slip = ines.get("/api/departures/" + id("lena")).expect(200).json();
    assertThat(slip.path("by").asString()).isEqualTo("Ines Roth");
    assertThat(slip.path("lost")).hasSize(2);
    assertThat(slip.path("grants").path(0).asString()).isEqualTo("Crewsheet · Viewer");
    assertThat(slip.path("memberships").path(0).path("name").asString()).isEqualTo("Refund desk");
    assertThat(slip.path("filterGrants").path(0).asString()).isEqualTo("Quaynotes · Reader");
    assertThat(slip.path("lone")).isNotEmpty();
    // What the source still says stays on record, without effect.
    JsonNode held = ines.get("/api/people/" + id("lena") + "/holdings").expect(200).json();
    held.path("held").forEach(line -> assertThat(line.path("holds").asBoolean()).isFalse());
    // Every session is over, and the open browser was told.
    lena.get("/api/me").expect(401);
    lena.signIn("lena", Seed.PASSWORD).expect(403);
    Visitor.until("told", () -> heard.stream().anyMatch(line -> line.contains("closed")));
    assertThat(ines.post("/api/ledger/check", null).expect(200).json().path("broken").isNull())
        .isTrue();
  }

  @Test
  void nobodyRunsTheirOwnOrOneOutsideTheirReach() {
    Visitor ines = signedIn("ines");
    assertThat(
            ines.post("/api/people/" + id("ines") + "/departure", Map.of("reason", "x"))
                .expect(403)
                .problems())
        .contains("departure.own");
    Visitor maren = signedIn("maren");
    maren.get("/api/people/" + id("nils") + "/departure").expect(404);
    maren.post("/api/people/" + id("nils") + "/departure", Map.of("reason", "x")).expect(404);
    signedIn("oda").get("/api/people/" + id("nils") + "/departure").expect(403);
    ines.get("/api/departures/" + id("nils")).expect(404);
  }
}
