package eleutheria.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.Actor;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Loader;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/** A server that was down over some boundaries does them in order at its start, once. */
class AfterDowntimeTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private static final LocalDate FIRST = Seed.BEGIN.atZone(ZONE).toLocalDate();

  @Test
  void whatFellDueMeanwhileIsDoneInOrderByTheClock() {
    String database = RunningServer.newDatabase();
    var mariaDb = RunningServer.mariaDb();
    Instant down = Seed.BEGIN.plus(Duration.ofDays(1));
    List<String> number = new ArrayList<>();
    Seed seed =
        Seed.into(
            mariaDb.url(database),
            mariaDb.user(),
            mariaDb.password(),
            down,
            (filled, loader, db) -> {
              filled.openShop(loader);
              give(loader, filled, "Crewsheet", "oda", 9);
              give(loader, filled, "Farebox", "oda", 5);
              give(loader, filled, "Tide Table", "nils", 7);
              AccessRequest asked =
                  loader.act(
                      Seed.BEGIN.plus(Duration.ofHours(2)),
                      new Actor.OfPerson(filled.person("oda")),
                      m ->
                          RequestDecisions.ask(
                              m,
                              2001,
                              filled.person("oda"),
                              filled.shop().role("Refund Bench"),
                              FIRST.plusDays(100),
                              "to cover",
                              Map.of(),
                              List.of()));
              number.add(asked.name());
              loader.flush();
              RequestStore.save(db, asked, new Acts.Written(asked.asked(), loader.position()));
            });
    try (ConfigurableApplicationContext context = RunningServer.start(database)) {
      Visitor ines =
          new Visitor(
              "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
      ines.signIn("ines", Seed.PASSWORD).expect(200);
      Visitor.until("done", () -> clockEntries(ines).size() >= 6);
      List<JsonNode> entries = clockEntries(ines);
      List<String> dues = new ArrayList<>();
      List<String> acts = new ArrayList<>();
      for (JsonNode entry : entries) {
        acts.add(entry.path("act").asString());
        JsonNode due = entry.path("details").path("due");
        if (!due.isMissingNode()) {
          dues.add(due.asString());
        }
      }
      assertThat(acts)
          .filteredOn(act -> !act.equals("REQUEST_REMIND"))
          .containsExactly("CLOCK_BOUNDARY", "CLOCK_BOUNDARY", "CLOCK_BOUNDARY", "REQUEST_LAPSE");
      assertThat(acts).as("seven and two days before").contains("REQUEST_REMIND").hasSize(6);
      // Each says for when it was due.
      assertThat(dues).hasSize(6).isSorted();
      assertThat(server(ines, seed, "oda").path("held").findValuesAsString("title"))
          .doesNotContain("Farebox · Seller", "Crewsheet · Viewer");
      assertThat(ines.post("/api/ledger/check", null).json().path("broken").isNull()).isTrue();
    }
    // Again down and up: nothing is done twice.
    try (ConfigurableApplicationContext context = RunningServer.start(database)) {
      Visitor ines =
          new Visitor(
              "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
      ines.signIn("ines", Seed.PASSWORD).expect(200);
      assertThat(clockEntries(ines)).hasSize(6);
    }
  }

  private static JsonNode server(Visitor ines, Seed seed, String userName) {
    return ines.get("/api/people/" + seed.person(userName).value() + "/holdings")
        .expect(200)
        .json();
  }

  private static void give(Loader loader, Seed seed, String app, String userName, int days) {
    loader.act(
        Seed.BEGIN.plus(Duration.ofHours(1)),
        new Actor.Setup(),
        m ->
            GrantDecisions.give(
                m,
                seed.shop().role(app),
                List.of(new FactValue.Subject.OfPerson(seed.person(userName))),
                null,
                FIRST.plusDays(days),
                "until then"));
  }

  /** Oldest first. */
  private static List<JsonNode> clockEntries(Visitor ines) {
    List<JsonNode> found = new ArrayList<>();
    for (JsonNode entry : ines.get("/api/ledger?limit=50").expect(200).json().path("lines")) {
      if (entry.path("actorName").asString().equals("clock")) {
        found.addFirst(entry);
      }
    }
    return found;
  }
}
