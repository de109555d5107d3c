package eleutheria.server.portal;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What a person does with their own portal over HTTP. */
class OwnPortalTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");
  private final Visitor oda = server.signedIn("oda");

  private String tile(String app) {
    return seed.shop().tile(app).value().toString();
  }

  private String role(String app) {
    return seed.shop().role(app).value().toString();
  }

  private static JsonNode page(Visitor who) {
    return who.get("/api/front").expect(200).json().path("page");
  }

  private static List<String> texts(JsonNode array) {
    List<String> found = new ArrayList<>();
    array.forEach(each -> found.add(each.asString()));
    return found;
  }

  private static JsonNode tile(JsonNode page, String id) {
    for (JsonNode section : page.path("sections")) {
      for (JsonNode tile : section.path("tiles")) {
        if (tile.path("id").asString().equals(id)) {
          return tile;
        }
      }
    }
    throw new AssertionError("no tile " + id + " on " + page);
  }

  private static Map<String, Object> behind(String tile) {
    Map<String, Object> form = new HashMap<>();
    form.put("behind", tile);
    return form;
  }

  private String give(String app, String person, String until) {
    Map<String, Object> form = new HashMap<>();
    form.put(
        "subjects",
        List.of(Map.of("kind", "person", "id", seed.person(person).value().toString())));
    form.put("from", null);
    form.put("until", until);
    form.put("reason", "for a while");
    return ines.post("/api/entitlements/" + role(app) + "/grants", form)
        .expect(200)
        .json()
        .path("result")
        .asString();
  }

  @Test
  void whatIsKeptCloseIsThereAtOnceEverywhereAndForNobodyElse() {
    Visitor phone = server.signedIn("oda");
    page(oda);
    page(phone);
    oda.put("/api/my/portal/pinned/" + tile("Quaynotes"), behind(null)).expect(200);
    oda.put("/api/my/portal/pinned/" + tile("Tide Table"), behind(tile("Quaynotes"))).expect(200);
    JsonNode own =
        oda.put("/api/my/portal/pinned/" + tile("Tide Table"), behind(null)).expect(200).json();
    assertThat(texts(own.path("pinned"))).containsExactly(tile("Tide Table"), tile("Quaynotes"));
    assertThat(texts(page(phone).path("own").path("pinned"))).isEqualTo(texts(own.path("pinned")));
    assertThat(texts(page(server.signedIn("lena")).path("own").path("pinned"))).isEmpty();
    oda.delete("/api/my/portal/pinned/" + tile("Tide Table")).expect(200);
    oda.delete("/api/my/portal/pinned/" + tile("Tide Table")).expect(200);
    assertThat(texts(page(oda).path("own").path("pinned"))).containsExactly(tile("Quaynotes"));
    oda.delete("/api/my/portal/pinned/" + tile("Quaynotes")).expect(200);
  }

  @Test
  void sectionsFormsAndTipsAreOnesOwn() {
    String counter = seed.shop().counter().value().toString();
    oda.put("/api/my/portal/hidden/" + counter, Map.of()).expect(200);
    oda.post("/api/my/portal/form", Map.of("device", "PHONE", "form", "marks")).expect(200);
    oda.put("/api/my/portal/tips/MENU", Map.of()).expect(200);
    JsonNode own = page(oda).path("own");
    assertThat(texts(own.path("hidden"))).containsExactly(counter);
    assertThat(own.path("forms").path("phone").asString()).isEqualTo("marks");
    assertThat(own.path("forms").path("wide").isMissingNode()).isTrue();
    assertThat(texts(own.path("tips"))).containsExactly("menu");
    assertThat(
            oda.post("/api/my/portal/form", Map.of("device", "PHONE", "form", "cubes"))
                .expect(422)
                .problems())
        .containsOnly("brand.form");
    oda.post("/api/my/portal/form", Map.of("device", "WATCH", "form", "tiles")).expect(400);
    oda.put("/api/my/portal/tips/DANCE", Map.of()).expect(400);
    oda.post("/api/my/portal/hushed", Map.of("word", "x".repeat(101))).expect(400);
    oda.delete("/api/my/portal/hidden/" + counter).expect(200);
    assertThat(texts(page(oda).path("own").path("hidden"))).isEmpty();
  }

  @Test
  void whatIsGivenIsNewUntilItIsOpenedAndThenItIsRecent() {
    Visitor lena = server.signedIn("lena");
    give("Tide Table", "lena", null);
    assertThat(tile(page(lena), tile("Tide Table")).path("tidings").asString()).isEqualTo("new");
    lena.get("/go/" + tile("Tide Table")).expect(302);
    JsonNode after = page(lena);
    assertThat(tile(after, tile("Tide Table")).path("tidings").asString()).isEmpty();
    assertThat(texts(after.path("recent"))).startsWith(tile("Tide Table"));
    // Given back: gone, and what was there says since when and whom to ask.
    JsonNode would =
        lena.get("/api/my/holdings/" + role("Tide Table") + "/hand-back").expect(200).json();
    assertThat(would.path("gone").asBoolean()).isTrue();
    assertThat(texts(would.path("tiles"))).containsExactly("Tide Table");
    lena.post(
            "/api/my/holdings/" + role("Tide Table") + "/hand-back",
            Map.of("grants", texts(would.path("grants")), "groups", List.of()))
        .expect(200);
    lena.get("/api/my/holdings/" + role("Tide Table") + "/hand-back").expect(404);
    assertThat(
            lena.get("/go/" + tile("Tide Table"))
                .expect(302)
                .response()
                .headers()
                .firstValue("Location"))
        .hasValue("/closed/" + tile("Tide Table"));
    JsonNode closed = lena.get("/api/closed/" + tile("Tide Table")).expect(200).json();
    assertThat(closed.path("heldUntil").isNull()).isFalse();
    assertThat(texts(closed.path("owners"))).containsExactly("Oda Brekke");
    assertThat(closed.path("contact").asString()).isEqualTo("ext. 4400");
  }

  /** Leaves the shop as it was. */
  private void back(Visitor who, String app) {
    String path = "/api/my/holdings/" + role(app) + "/hand-back";
    JsonNode would = who.get(path).expect(200).json();
    who.post(path, Map.of("grants", texts(would.path("grants")), "groups", List.of())).expect(200);
  }

  @Test
  void handingBackIsForOneselfAndForWhatWasSeen() {
    Visitor nils = server.signedIn("nils");
    String gangway = "/api/my/holdings/" + role("Quaynotes") + "/hand-back";
    JsonNode would = nils.get(gangway).expect(200).json();
    assertThat(would.path("gone").asBoolean()).isFalse();
    assertThat(would.path("remains")).hasSize(1);
    assertThat(
            nils.post(gangway, Map.of("grants", List.of(), "groups", List.of()))
                .expect(422)
                .problems())
        .containsOnly("hand-back.none");
    give("Tide Table", "nils", null);
    assertThat(
            nils.post(
                    "/api/my/holdings/" + role("Tide Table") + "/hand-back",
                    Map.of("grants", List.of(UUID.randomUUID()), "groups", List.of()))
                .expect(409)
                .problems())
        .containsOnly("changed-meanwhile");
    assertThat(
            nils.post(
                    "/api/my/holdings/" + role("Farebox") + "/hand-back",
                    Map.of("grants", List.of(), "groups", List.of()))
                .expect(404)
                .problems())
        .containsOnly("absent");
    back(nils, "Tide Table");
    server.nobody().post(gangway, Map.of("grants", List.of(), "groups", List.of())).expect(401);
  }

  @Test
  void whatEndsSoonSaysWhatGoesAndIsReadOnce() {
    Visitor jonas = server.signedIn("jonas");
    give(
        "Tide Table",
        "jonas",
        java.time.LocalDate.now(java.time.ZoneId.of("Europe/Oslo")).plusDays(2).toString());
    JsonNode ends = page(jonas).path("ends");
    assertThat(ends).hasSize(1);
    assertThat(texts(ends.get(0).path("goes"))).containsExactly("Tide Table");
    assertThat(tile(page(jonas), tile("Tide Table")).path("ends").isNull()).isFalse();
    String word = ends.get(0).path("word").asString();
    jonas.post("/api/my/portal/hushed", Map.of("word", word)).expect(200);
    assertThat(texts(page(jonas).path("own").path("hushed"))).containsExactly(word);
    JsonNode held = jonas.get("/api/my/holdings").expect(200).json().path("holdings");
    JsonNode table = null;
    for (JsonNode one : held) {
      table =
          one.path("entitlement").path("id").asString().equals(role("Tide Table")) ? one : table;
    }
    assertThat(table).isNotNull();
    assertThat(table.path("since").isNull()).isFalse();
    assertThat(table.path("until").isNull()).isFalse();
    assertThat(table.path("lastOpened").isNull()).isTrue();
    assertThat(table.path("askable").asBoolean()).isTrue();
    back(jonas, "Tide Table");
  }

  private static Map<String, Object> link(String name, String address) {
    return Map.of("name", name, "address", address, "picture", "wind", "hue", "tide");
  }

  @Test
  void aLinkOfOnesOwnFollowsThePolicyAndIsNobodyElses() {
    String id = UUID.randomUUID().toString();
    assertThat(
            oda.put("/api/my/links/" + id, link("Wind", "https://wind.example/x"))
                .expect(422)
                .problems())
        .containsOnly("link.not-approved");
    String listing =
        ines.post(
                "/api/approved-list",
                Map.of(
                    "listing",
                    Map.of(
                        "name",
                        "Wind",
                        "address",
                        "https://wind.example/",
                        "line",
                        "",
                        "category",
                        "Weather",
                        "picture",
                        "wind",
                        "hue",
                        "tide"),
                    "keepers",
                    List.of(seed.person("nils").value())))
            .expect(200)
            .json()
            .path("result")
            .asString();
    oda.put("/api/my/links/" + id, link("Wind", "https://wind.example/x")).expect(200);
    oda.put("/api/my/links/" + id, link("Wind", "https://wind.example/x")).expect(200);
    assertThat(page(oda).path("own").path("links")).hasSize(1);
    // The same id of somebody else is another link.
    Visitor lena = server.signedIn("lena");
    lena.put("/api/my/links/" + id, link("Hers", "https://wind.example/y")).expect(200);
    lena.delete("/api/my/links/" + id).expect(200);
    assertThat(page(oda).path("own").path("links").get(0).path("name").asString())
        .isEqualTo("Wind");
    // Whoever looks at somebody's portal is told nothing of it.
    String preview =
        ines.post("/api/previews", Map.of("as", "person", "person", seed.person("oda").value()))
            .expect(200)
            .body();
    assertThat(preview).doesNotContain("wind.example");
    for (String wrong :
        List.of("javascript:alert(1)", "https://a:b@wind.example/", "https://wind.example.x/")) {
      oda.put("/api/my/links/" + UUID.randomUUID(), link("Bad", wrong)).expect(422);
    }
    // Taken off the list, it does not open any more; who keeps the entry may do that.
    server.signedIn("nils").delete("/api/approved-list/" + listing).expect(200);
    assertThat(page(oda).path("own").path("links").get(0).path("allowed").asBoolean()).isFalse();
    oda.delete("/api/my/links/" + id).expect(200);
    assertThat(page(oda).path("own").path("links")).isEmpty();
  }

  @Test
  void aProblemGoesToTheOwnerAndTheAnswerComesBack() {
    Visitor lena = server.signedIn("lena");
    Map<String, Object> form = Map.of("tile", tile("Farebox"), "text", "The price is wrong.");
    assertThat(
            oda.post("/api/my/complaints", Map.of("tile", tile("Farebox"), "text", " "))
                .expect(422)
                .problems())
        .containsOnly("complaint.no-text");
    String id =
        oda.send("POST", "/api/my/complaints", form, "once")
            .expect(200)
            .json()
            .path("result")
            .asString();
    assertThat(
            oda.send("POST", "/api/my/complaints", form, "once").json().path("result").asString())
        .as("a repeat is the same complaint")
        .isEqualTo(id);
    String complaint = id.substring(id.indexOf(':') + 1);
    assertThat(lena.get("/api/docket").expect(200).body()).contains(complaint);
    assertThat(ines.get("/api/docket").expect(200).body()).doesNotContain(complaint);
    JsonNode found = lena.get("/api/complaints/" + complaint).expect(200).json();
    assertThat(found.path("complaint").path("text").asString()).isEqualTo("The price is wrong.");
    server.signedIn("nils").get("/api/complaints/" + complaint).expect(404);
    server
        .signedIn("nils")
        .post("/api/complaints/" + complaint + "/answer", Map.of("text", "x"))
        .expect(404);
    assertThat(
            lena.post("/api/complaints/" + complaint + "/answer", Map.of("text", ""))
                .expect(422)
                .problems())
        .containsOnly("complaint.no-answer");
    lena.post("/api/complaints/" + complaint + "/answer", Map.of("text", "Mended.")).expect(200);
    lena.post("/api/complaints/" + complaint + "/answer", Map.of("text", "Again.")).expect(409);
    assertThat(oda.get("/api/my/complaints").expect(200).body()).contains("Mended.");
    // A tile that one is not shown cannot be reported.
    server
        .signedIn("jonas")
        .post("/api/my/complaints", Map.of("tile", tile("Refund Bench"), "text", "?"))
        .expect(404);
  }

  @Test
  void halfFilledFormsAreKeptForTheirPersonAlone() {
    String path = "/api/my/unsent/put%20forward";
    oda.put(path, Map.of("fields", Map.of("name", "Queue Minder", "why", "κύμα 波"))).expect(200);
    assertThat(
            server
                .signedIn("oda")
                .get(path)
                .expect(200)
                .json()
                .path("fields")
                .path("why")
                .asString())
        .isEqualTo("κύμα 波");
    assertThat(server.signedIn("lena").get(path).expect(200).json().path("fields")).isEmpty();
    oda.put(path, Map.of("fields", Map.of("why", "x".repeat(64_001)))).expect(400);
    oda.put("/api/my/unsent/" + "x".repeat(81), Map.of("fields", Map.of("a", "b"))).expect(400);
    oda.delete(path).expect(200);
    assertThat(oda.get(path).expect(200).json().path("fields")).isEmpty();
    for (int i = 0; i < 22; i++) {
      oda.put("/api/my/unsent/form%20" + i, Map.of("fields", Map.of("a", "b"))).expect(200);
    }
    assertThat(oda.get("/api/my/unsent/form%200").json().path("fields")).as("the oldest").isEmpty();
    assertThat(oda.get("/api/my/unsent/form%2021").json().path("fields")).hasSize(1);
  }

  @Test
  void theManifestIsEverybodys() {
    JsonNode manifest = server.nobody().get("/manifest.webmanifest").expect(200).json();
    assertThat(manifest.path("display").asString()).isEqualTo("standalone");
    assertThat(manifest.path("start_url").asString()).isEqualTo("/");
    assertThat(manifest.path("icons")).hasSizeGreaterThan(1);
  }
}
