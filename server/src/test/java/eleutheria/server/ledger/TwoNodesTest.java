package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.GIVEN;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.state.World;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.DriverManager;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;

/** Two servers on one database: each follows what the other does, and says how far it is. */
class TwoNodesTest {
  private static String database;
  private static Seed seed;
  private static ConfigurableApplicationContext one;

  @BeforeAll
  static void start() {
    database = RunningServer.newDatabase();
    var mariaDb = RunningServer.mariaDb();
    seed = Seed.shop(mariaDb.url(database), mariaDb.user(), mariaDb.password());
    one = RunningServer.start(database);
  }

  @AfterAll
  static void stop() {
    one.close();
  }

  private static String base(ConfigurableApplicationContext node) {
    return "http://127.0.0.1:" + node.getEnvironment().getProperty("local.server.port");
  }

  private static Visitor ines(ConfigurableApplicationContext node) {
    Visitor ines = new Visitor(base(node));
    ines.signIn("ines", Seed.PASSWORD).expect(200);
    return ines;
  }

  private static HttpResponse<String> ask(
      ConfigurableApplicationContext node, String path, String notOlder) throws Exception {
    return HttpClient.newHttpClient()
        .send(
            HttpRequest.newBuilder(URI.create(base(node) + path))
                .header("Not-Older-Than", notOlder)
                .build(),
            HttpResponse.BodyHandlers.ofString());
  }

  private static String give(Visitor ines, String app, String userName) {
    ines.post(
            "/api/entitlements/" + seed.shop().role(app).value() + "/grants",
            Map.of(
                "subjects",
                List.of(Map.of("kind", "person", "id", seed.person(userName).value().toString())),
                "reason",
                "for two nodes"))
        .expect(200);
    return seed.person(userName).value().toString();
  }

  @Test
  void whoWroteToOneNodeReadsItFromTheOther() throws Exception {
    try (ConfigurableApplicationContext other = RunningServer.start(database)) {
      Visitor there = ines(other);
      Visitor.Answer written =
          there.post(
              "/api/entitlements/" + seed.shop().role("Farebox").value() + "/grants",
              Map.of(
                  "subjects",
                  List.of(Map.of("kind", "person", "id", seed.person("jonas").value().toString())),
                  "reason",
                  "for two nodes"));
      String position = written.expect(200).json().path("position").asString();
      HttpResponse<String> read = ask(one, "/api/session", position);
      assertThat(read.statusCode()).isEqualTo(200);
      assertThat(Long.parseLong(read.headers().firstValue("Ledger-Position").orElseThrow()))
          .isGreaterThanOrEqualTo(Long.parseLong(position));
      assertThat(
              ines(one)
                  .get("/api/people/" + seed.person("jonas").value() + "/holdings")
                  .json()
                  .path("held")
                  .findValuesAsString("title"))
          .contains("Farebox · Seller");
    }
  }

  @Test
  void whatIsStillToComeIsNotAnsweredAndNonsenseIsRefused() throws Exception {
    HttpResponse<String> early = ask(one, "/api/session", "999999999");
    assertThat(early.statusCode()).isEqualTo(503);
    assertThat(early.headers().firstValue("Retry-After")).hasValue("1");
    assertThat(early.body()).contains("urn:eleutheria:problem:behind");
    for (String nonsense : List.of("-1", "soon", "1; drop table given", "9".repeat(30))) {
      assertThat(ask(one, "/api/session", nonsense).statusCode()).as(nonsense).isEqualTo(400);
    }
  }

  /** The state in memory and the database differ, so that an entry does not follow from it. */
  @Test
  void anEntryThatCannotBeTakenUpMakesTheNodeReadEverythingAnew() throws Exception {
    String oda = give(ines(one), "Crewsheet", "oda");
    var mariaDb = RunningServer.mariaDb();
    Instant other = Instant.parse("2099-01-01T00:00:00Z");
    try (var connection =
        DriverManager.getConnection(mariaDb.url(database), mariaDb.user(), mariaDb.password())) {
      DSLContext db = DSL.using(connection, SQLDialect.MARIADB);
      int changed =
          db.update(GIVEN)
              .set(GIVEN.VALID_UNTIL, other)
              .where(
                  GIVEN.PERSON_ID.eq(seed.person("oda").value()),
                  GIVEN.ENTITLEMENT_ID.eq(seed.shop().role("Crewsheet").value()),
                  GIVEN.VALID_UNTIL.gt(Instant.now()))
              .execute();
      assertThat(changed).isEqualTo(1);
    }
    try (ConfigurableApplicationContext node = RunningServer.start(database)) {
      Visitor there = ines(node);
      String grant =
          there
              .get("/api/people/" + oda + "/holdings/" + seed.shop().role("Crewsheet").value())
              .expect(200)
              .json()
              .path("grounds")
              .get(0)
              .path("grant")
              .asString();
      there
          .post(
              "/api/grants/end",
              Map.of("grants", List.of(grant), "memberships", List.of(), "reason", "over"))
          .expect(200);
    }
    Visitor here = ines(one);
    Visitor.until(
        "the first node has read everything anew",
        () ->
            here
                .get("/api/people/" + oda + "/holdings")
                .json()
                .path("held")
                .findValuesAsString("title")
                .stream()
                .noneMatch(title -> title.startsWith("Crewsheet")));
    assertThat(one.getBean(World.class).sound()).isTrue();
    assertThat(one.getBean(World.class).rebuilt()).isEqualTo(1);
    // And it acts on from there.
    give(here, "Crewsheet", "oda");
    // What was written past the ledger shows where an act began from it.
    assertThat(here.post("/api/ledger/check", null).json().path("why").asString())
        .contains("does not follow from the facts before it");
  }
}
