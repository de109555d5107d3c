package eleutheria.server.use;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.OPENING_DAY;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.StreamSupport;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Openings: counted by day, told by week, and to whom. */
class UseTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");
  private final DSLContext db = server.context().getBean(DSLContext.class);

  private static LocalDate today() {
    return LocalDate.now(ZONE);
  }

  private void opened(UUID tile, LocalDate day, String... userNames) {
    for (String who : userNames) {
      db.insertInto(OPENING)
          .set(OPENING.HAPPENED_AT, day.atTime(9, 0).atZone(ZONE).toInstant())
          .set(OPENING.PERSON_ID, seed.person(who).value())
          .set(OPENING.TILE_ID, tile)
          .execute();
    }
  }

  private void grant(OwnApp app, String... userNames) {
    List<Map<String, Object>> subjects =
        Arrays.stream(userNames)
            .map(
                name ->
                    Map.<String, Object>of(
                        "kind", "person", "id", seed.person(name).value().toString()))
            .toList();
    ines.post(
            "/api/entitlements/" + app.role() + "/grants",
            Map.of("subjects", subjects, "reason", "for the test"))
        .expect(200);
  }

  private static JsonNode line(Visitor visitor, String app, String query) {
    return StreamSupport.stream(
            visitor.get("/api/apps" + query).expect(200).json().path("lines").spliterator(), false)
        .filter(line -> line.at("/app/id").asString().equals(app))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void eventsGoAndCountsStay() {
    UUID tile = seed.shop().tile("Quaynotes").value();
    LocalDate day = today().minusDays(300);
    opened(tile, day, "oda", "oda", "lena");
    UseDays.count(db, ZONE, day);
    server.context().getBean(UseDays.class).work();
    var counted =
        db.selectFrom(OPENING_DAY)
            .where(OPENING_DAY.TILE_ID.eq(tile), OPENING_DAY.ON_DAY.eq(day))
            .fetchSingle();
    assertThat(counted.getOpenings()).isEqualTo(3);
    assertThat(counted.getPeople()).isEqualTo(2);
    assertThat(
            db.fetchCount(
                OPENING,
                OPENING.HAPPENED_AT.lt(today().minusDays(200).atStartOfDay(ZONE).toInstant())))
        .isZero();
  }

  @Test
  void anAppWithFewHoldersTellsItsOwnerNothingOfTheirUse() {
    OwnApp app = OwnApp.open(server, "Few");
    ines.put(
            "/api/apps/" + app.id() + "/owners",
            Map.of(
                "base", List.of(seed.person("jonas").value().toString()),
                "owners", List.of(seed.person("nils").value().toString())))
        .expect(200);
    grant(app, "oda", "lena", "maren", "nils.desk");
    Visitor nils = server.signedIn("nils");
    Visitor auditor = server.signedIn("jonas");
    assertThat(line(nils, app.id(), "").path("openings").isNull()).isTrue();
    assertThat(nils.get("/api/use").expect(200).json().findValuesAsString("id"))
        .doesNotContain(app.id());
    assertThat(line(auditor, app.id(), "").path("openings")).hasSize(26);
    grant(app, "ines");
    assertThat(line(nils, app.id(), "").path("openings")).hasSize(26);
    assertThat(nils.get("/api/use").expect(200).json().findValuesAsString("id")).contains(app.id());
    // Who of them has left it unused is for whoever may see everyone's use.
    assertThat(line(nils, app.id(), "").path("unused").isNull()).isTrue();
    // A past day knows nothing of use.
    String past = "?asOf=" + java.time.Instant.now();
    assertThat(line(auditor, app.id(), past).path("openings").isNull()).isTrue();
    assertThat(line(auditor, app.id(), past).path("holders").asInt()).isEqualTo(5);
  }

  @Test
  void appsAreToldInOrderOfWhatIsCompared() {
    OwnApp one = OwnApp.open(server, "Compared A");
    OwnApp two = OwnApp.open(server, "Compared B");
    grant(one, "oda");
    grant(two, "oda", "lena");
    String find = "?find=Compared";
    assertThat(names(ines, find)).containsExactly(name(one), name(two));
    assertThat(names(ines, find + "&descending=true")).containsExactly(name(two), name(one));
    assertThat(names(ines, find + "&sort=holders&descending=true"))
        .containsExactly(name(two), name(one));
    assertThat(names(ines, find + "&sort=openings")).containsExactly(name(one), name(two));
    assertThat(names(ines, find + "&sort=holders&offset=1")).containsExactly(name(two));
    JsonNode page = ines.get("/api/apps" + find).expect(200).json();
    assertThat(page.path("total").asInt()).isEqualTo(2);
    // The figures are of all that can be seen, not of what was looked for.
    assertThat(page.path("open").asInt()).isGreaterThan(2);
    assertThat(page.path("most").asInt()).isGreaterThanOrEqualTo(2);
    assertThat(page.path("weeks")).hasSize(26);
  }

  private static String name(OwnApp app) {
    return app.title().substring(0, app.title().indexOf(" · "));
  }

  private static List<String> names(Visitor visitor, String query) {
    return visitor
        .get("/api/apps" + query)
        .expect(200)
        .json()
        .path("lines")
        .findValuesAsString("name");
  }
}
