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

/** Tiles and collections over HTTP, and the way through a tile. */
class PortalTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");

  private static Map<String, Object> face(String name) {
    return Map.of("name", name, "line", "");
  }

  private String collection(String name, Map<String, Object> audience) {
    return ines.post("/api/collections", Map.of("face", face(name), "audience", audience))
        .expect(200)
        .json()
        .path("result")
        .asString();
  }

  private static Map<String, Object> everyone() {
    return Map.of("everyone", true, "subjects", List.of());
  }

  private String tile(String app) {
    return seed.shop().tile(app).value().toString();
  }

  private static Map<String, Object> place(String tile) {
    return Map.of("tile", tile, "offered", false);
  }

  private JsonNode view(String collection) {
    for (JsonNode one : ines.get("/api/portal").expect(200).json().path("collections")) {
      if (one.path("id").asString().equals(collection)) {
        return one;
      }
    }
    throw new AssertionError("no collection " + collection);
  }

  private static List<String> told(Visitor who) {
    List<String> lines = new ArrayList<>();
    for (JsonNode section :
        who.get("/api/front").expect(200).json().path("page").path("sections")) {
      for (JsonNode one : section.path("tiles")) {
        lines.add(section.path("name").asString() + ": " + one.path("name").asString());
      }
    }
    return lines;
  }

  @Test
  void whatIsArrangedIsMetInThatOrder() {
    String id = collection("Arranged", everyone());
    String gangway = tile("Gangway");
    String tide = tile("Tide Table");
    ines.put(
            "/api/collections/" + id + "/tiles",
            Map.of("base", List.of(), "tiles", List.of(place(tide), place(gangway))))
        .expect(200);
    Visitor nils = server.signedIn("nils");
    assertThat(told(nils)).as("shown, never given").contains("Arranged: Gangway");
    assertThat(told(nils)).doesNotContain("Arranged: Tide Table", ": Gangway");
    // Someone has arranged it meanwhile: theirs is not overwritten.
    assertThat(
            ines.put(
                    "/api/collections/" + id + "/tiles",
                    Map.of("base", List.of(), "tiles", List.of()))
                .expect(409)
                .problems())
        .contains("changed-meanwhile");
    assertThat(view(id).path("places").path(0).path("tile").asString()).isEqualTo(tide);
    ines.put(
            "/api/collections/" + id + "/audience",
            Map.of("base", everyone(), "wanted", Map.of("everyone", false, "subjects", List.of())))
        .expect(200);
    assertThat(told(nils)).contains(": Gangway").doesNotContain("Arranged: Gangway");
    ines.delete("/api/collections/" + id).expect(200);
    ines.delete("/api/collections/" + id).expect(404);
  }

  @Test
  void anOwnerArrangesTheirCollectionOnly() {
    String own = collection("Lena's", everyone());
    String other = collection("Not Lena's", everyone());
    ines.put(
            "/api/collections/" + own + "/owners",
            Map.of("base", List.of(), "owners", List.of(seed.person("lena").value().toString())))
        .expect(200);
    Visitor lena = server.signedIn("lena");
    Map<String, Object> wanted =
        Map.of("base", List.of(), "tiles", List.of(place(tile("Gangway"))));
    lena.put("/api/collections/" + own + "/tiles", wanted).expect(200);
    assertThat(lena.put("/api/collections/" + other + "/tiles", wanted).status()).isIn(403, 404);
    lena.put(
            "/api/collections/" + own + "/audience",
            Map.of("base", everyone(), "wanted", everyone()))
        .expect(403);
    assertThat(lena.get("/api/portal").expect(200).json().path("collections")).hasSize(1);
    ines.delete("/api/collections/" + own).expect(200);
    ines.delete("/api/collections/" + other).expect(200);
  }

  @Test
  void aTileOpensForWhomItIsHeldAndNobodyElse() {
    Visitor nils = server.signedIn("nils");
    String gangway = tile("Gangway");
    Visitor.Answer opened = nils.get("/go/" + gangway).expect(302);
    assertThat(opened.response().headers().firstValue("Location"))
        .contains("https://gangway.x.example/");
    assertThat(opened.response().headers().firstValue("Cache-Control").orElse(""))
        .contains("no-store");
    int count = openings(gangway);
    nils.get("/go/" + gangway).expect(302);
    assertThat(openings(gangway)).as("an opening is an event").isEqualTo(count + 1);
    assertThat(
            nils.get("/go/" + tile("Tide Table"))
                .expect(302)
                .response()
                .headers()
                .firstValue("Location"))
        .contains("/closed/" + tile("Tide Table"));
    assertThat(
            server
                .nobody()
                .get("/go/" + gangway)
                .expect(302)
                .response()
                .headers()
                .firstValue("Location"))
        .contains("/sign-in?to=%2Fgo%2F" + gangway);
    // Nothing typed into the address leads anywhere else.
    for (String bad : List.of("x", UUID.randomUUID().toString(), "%2F%2Fevil.example", "..")) {
      String to = nils.get("/go/" + bad).response().headers().firstValue("Location").orElse("/");
      assertThat(to).as(bad).startsWith("/").doesNotStartWith("//");
    }
    JsonNode closed = nils.get("/api/closed/" + tile("Tide Table")).expect(200).json();
    assertThat(closed.path("owners").path(0).asString()).isEqualTo("Oda Brekke");
    assertThat(nils.get("/api/closed/nothing").expect(200).json().path("name").isNull()).isTrue();
  }

  private int openings(String tile) {
    for (JsonNode one : ines.get("/api/portal").json().path("tiles")) {
      if (one.path("id").asString().equals(tile)) {
        return one.path("openings").asInt();
      }
    }
    return 0;
  }

  @Test
  void aTileNeedsWhatItsAppOffersAndAPictureOfTheSet() {
    Map<String, Object> form = new HashMap<>();
    JsonNode gangway = ines.get("/api/apps?find=gangway").json().path("lines").path(0).path("app");
    form.put("name", "Second");
    form.put("line", "");
    form.put("picture", "waves");
    form.put("hue", "tide");
    form.put("application", gangway.path("id").asString());
    form.put("needs", List.of(seed.shop().role("Farebox").value().toString()));
    assertThat(ines.post("/api/tiles", form).expect(422).problems()).contains("tile.needs");
    form.put("needs", List.of(seed.shop().role("Gangway").value().toString()));
    form.put("picture", "../../x");
    assertThat(ines.post("/api/tiles", form).expect(422).problems()).contains("tile.picture");
    form.put("picture", "waves");
    form.put("name", "<img src=x onerror=alert(1)>");
    String id = ines.post("/api/tiles", form).expect(200).json().path("result").asString();
    assertThat(told(server.signedIn("nils"))).contains(": <img src=x onerror=alert(1)>");
    Map<String, Object> wanted = new HashMap<>(form);
    wanted.put("name", "Renamed");
    ines.put("/api/tiles/" + id, Map.of("base", wanted, "wanted", form)).expect(409);
    ines.put("/api/tiles/" + id, Map.of("base", form, "wanted", wanted)).expect(200);
    ines.delete("/api/tiles/" + id).expect(200);
    assertThat(told(server.signedIn("nils"))).doesNotContain(": Renamed");
  }
}
