package eleutheria.server.portal;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** How the organisation shows itself, how the portal is used, and a person's tiles elsewhere. */
class LookAndUseTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");

  private static Map<String, Object> brand(String name, String band) {
    Map<String, Object> form = new HashMap<>();
    form.put("name", name);
    form.put("mark", "");
    form.put("band", band);
    form.put("welcome", "Good to see you.");
    form.put("door", "");
    form.put("help", "ext. 4400");
    form.put("form", "lines");
    form.put("tight", true);
    return form;
  }

  private Map<String, Object> now() {
    JsonNode seen = ines.get("/api/brand").expect(200).json().path("brand");
    Map<String, Object> form = new HashMap<>();
    seen.properties()
        .forEach(
            e ->
                form.put(
                    e.getKey(),
                    e.getValue().isBoolean() ? e.getValue().asBoolean() : e.getValue().asString()));
    return form;
  }

  private Visitor.Answer set(Visitor who, Map<String, Object> wanted) {
    return who.put("/api/brand", Map.of("base", now(), "wanted", wanted));
  }

  @Test
  void theBrandIsSeenBeforeSignInAndIsLegibleByConstruction() {
    Map<String, Object> before = now();
    for (String bad : List.of("#ffffff", "#e6c200", "red", "#17504", "url(x)", "#777777")) {
      assertThat(set(ines, brand("Tern", bad)).expect(422).problems())
          .as(bad)
          .containsAnyOf("brand.contrast", "brand.colour");
    }
    Map<String, Object> missing = brand("Tern", "#17504a");
    missing.put("mark", "own:" + "0".repeat(64));
    assertThat(set(ines, missing).expect(422).problems()).contains("tile.picture");
    set(ines, brand("Tern & <b>Sons</b>", "#1B3A6B")).expect(200);
    JsonNode told = server.nobody().get("/api/session").expect(200).json();
    assertThat(told.path("organisation").asString()).isEqualTo("Tern & <b>Sons</b>");
    assertThat(told.path("brand").path("band").asString()).isEqualTo("#1b3a6b");
    assertThat(
            ines.put("/api/brand", Map.of("base", before, "wanted", before)).expect(409).problems())
        .contains("changed-meanwhile");
    set(server.signedIn("nils"), before).expect(403);
    assertThat(set(server.signedIn("maren"), before).expect(403).problems()).contains("power");
    set(ines, before).expect(200);
  }

  @Test
  void whatIsTypedInVainIsToldWithoutAName() {
    Visitor oda = server.signedIn("oda");
    for (int i = 0; i < 2; i++) {
      oda.post("/api/front/sought", Map.of("words", "  Crow's  nest ")).expect(200);
      oda.post("/api/front/sought", Map.of("words", "Crow nest")).expect(200);
      // What may be anything is not kept.
      oda.post("/api/front/sought", Map.of("words", "oda@ternsound.example")).expect(200);
      oda.post("/api/front/sought", Map.of("words", "hunter2 secret")).expect(200);
    }
    oda.post("/api/front/sought", Map.of("words", "only once")).expect(200);
    JsonNode use = ines.get("/api/portal/use").expect(200).json();
    assertThat(use.path("sought").findValuesAsString("words")).containsExactly("crow nest");
    assertThat(use.path("weeks")).hasSize(26);
    server.nobody().post("/api/front/sought", Map.of("words", "x")).expect(401);
  }

  @Test
  void openingsAreCountedByWeekAndCutToWhatOneOwns() {
    String gangway = seed.shop().tile("Quaynotes").value().toString();
    int before = thisWeek(gangway);
    server.signedIn("nils").get("/go/" + gangway).expect(302);
    // Counts are worked out at most once a minute.
    assertThat(thisWeek(gangway)).isBetween(before, before + 1);
    server.signedIn("nils").get("/api/portal/use").expect(403);
  }

  private int thisWeek(String tile) {
    for (JsonNode one : ines.get("/api/portal/use").expect(200).json().path("tiles")) {
      if (one.path("id").asString().equals(tile)) {
        assertThat(one.path("openings")).hasSize(26);
        return one.path("openings").path(25).asInt();
      }
    }
    throw new AssertionError("no such tile");
  }

  @Test
  void aFeedIsReadWithItsOwnTokenUntilItIsEnded() {
    Visitor nils = server.signedIn("nils");
    assertThat(nils.get("/api/my/feed").expect(200).json().path("made").isNull()).isTrue();
    String token = nils.post("/api/my/feed", null).expect(200).json().path("token").asString();
    Visitor page = server.nobody();
    JsonNode fed = page.get("/api/feed", "Authorization", "Bearer " + token).expect(200).json();
    assertThat(fed.path("tiles").findValuesAsString("name")).contains("Quaynotes");
    assertThat(fed.path("tiles").path(0).path("address").asString()).contains("/go/");
    // It opens nothing else, and nothing else opens it.
    page.get("/api/me", "Authorization", "Bearer " + token).expect(401);
    page.get("/api/feed").expect(403);
    nils.get("/api/feed").expect(403);
    page.get("/api/feed", "Authorization", "Bearer x").expect(403);
    String other = nils.post("/api/my/feed", null).expect(200).json().path("token").asString();
    page.get("/api/feed", "Authorization", "Bearer " + token).expect(403);
    nils.delete("/api/my/feed").expect(200);
    page.get("/api/feed", "Authorization", "Bearer " + other).expect(403);
  }

  @Test
  void whoHasMetAPageSinceItChangedIsCounted() {
    Map<String, Object> form = new HashMap<>();
    form.put("name", "Watched");
    form.put("only", false);
    form.put(
        "audience",
        Map.of(
            "everyone",
            false,
            "firstDays",
            0,
            "subjects",
            List.of(
                Map.of("kind", "person", "id", seed.person("oda").value().toString()),
                Map.of("kind", "person", "id", seed.person("nils").value().toString()))));
    form.put("waves", List.of());
    String page = ines.post("/api/front-pages", form).expect(200).json().path("result").asString();
    assertThat(seen(page)).isEqualTo("0 of 2");
    server.signedIn("oda").get("/api/front").expect(200);
    server.signedIn("oda").get("/api/front").expect(200);
    server.signedIn("lena").get("/api/front").expect(200);
    assertThat(seen(page)).isEqualTo("1 of 2");
    Map<String, Object> wanted = new HashMap<>(form);
    wanted.put("notice", Map.of("text", "Look."));
    ines.put("/api/front-pages/" + page, Map.of("base", form, "wanted", wanted)).expect(200);
    assertThat(seen(page)).as("changed since").isEqualTo("0 of 2");
    ines.delete("/api/front-pages/" + page).expect(200);
  }

  private String seen(String page) {
    JsonNode told = ines.get("/api/front-pages/" + page + "/seen").expect(200).json();
    return told.path("seen").asInt() + " of " + told.path("of").asInt();
  }

  @Test
  void theNamesBehindHowMuchTheyCanOpenAreCutToReach() {
    String counter = seed.shop().counter().value().toString();
    JsonNode told = null;
    for (JsonNode one : ines.get("/api/portal").expect(200).json().path("collections")) {
      if (one.path("id").asString().equals(counter)) {
        told = one;
      }
    }
    assertThat(told).isNotNull();
    for (String part : List.of("none", "some", "all")) {
      JsonNode names =
          ines.get("/api/collections/" + counter + "/people?opens=" + part).expect(200).json();
      assertThat(names.path("total").asInt()).as(part).isEqualTo(told.path(part).asInt());
      assertThat(names.path("lines")).hasSize(names.path("seen").asInt());
    }
    JsonNode without =
        ines.get(
                "/api/collections/"
                    + counter
                    + "/people?tile="
                    + seed.shop().tile("Crewsheet").value())
            .expect(200)
            .json();
    assertThat(without.path("total").asInt())
        .isEqualTo(told.path("places").path(1).path("without").asInt());
    ines.get("/api/collections/" + counter + "/people?opens=half").expect(422);
    server.signedIn("nils").get("/api/collections/" + counter + "/people?opens=all").expect(403);
  }
}
