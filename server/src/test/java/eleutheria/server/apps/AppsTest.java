package eleutheria.server.apps;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Applications and their entitlements over HTTP. */
class AppsTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");

  private static Map<String, Object> profile(String name) {
    Map<String, Object> profile = new HashMap<>();
    profile.put("name", name);
    profile.put("line", "");
    profile.put("picture", "key");
    profile.put("hue", "tide");
    profile.put("sensitivity", "LOW");
    profile.put("contact", "");
    profile.put("nicknames", List.of());
    return profile;
  }

  private static Map<String, Object> role(String name) {
    return Map.of("name", name, "line", "", "sensitivity", "LOW", "requestable", true);
  }

  private String propose(String name, String owner) {
    Map<String, Object> form = new HashMap<>();
    form.put("profile", profile(name));
    form.put("owners", List.of(seed.person(owner).value().toString()));
    form.put("entitlements", List.of());
    return ines.post("/api/apps", form).expect(200).json().path("result").asString();
  }

  private static List<String> told(JsonNode array) {
    List<String> texts = new ArrayList<>();
    array.forEach(one -> texts.add(one.asString()));
    return texts;
  }

  @Test
  void fromProposedToOpenWithWhatItNeeds() {
    String app = propose("Harbour Clock", "jonas");
    JsonNode page = ines.get("/api/apps/" + app).expect(200).json();
    assertThat(told(page.path("missing"))).containsExactlyInAnyOrder("way-in", "entitlement");
    assertThat(
            ines.put("/api/apps/" + app + "/state", Map.of("base", "PROPOSED", "state", "OPEN"))
                .expect(422)
                .problems())
        .contains("app.no-way-in", "app.no-entitlement");
    ines.put("/api/apps/" + app + "/link", Map.of("address", "https://clock.x.example/"))
        .expect(200);
    Visitor jonas = server.signedIn("jonas");
    String entitlement =
        jonas
            .post("/api/apps/" + app + "/entitlements", role("Reader"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    jonas
        .put("/api/apps/" + app + "/state", Map.of("base", "PROPOSED", "state", "OPEN"))
        .expect(200);
    assertThat(ines.get("/api/apps/" + app).json().path("app").path("state").asString())
        .isEqualTo("open");
    // What the owner saw is what they change.
    jonas
        .put(
            "/api/entitlements/" + entitlement,
            Map.of("base", role("Reader"), "wanted", role("Viewer")))
        .expect(200);
    assertThat(
            jonas
                .put(
                    "/api/entitlements/" + entitlement,
                    Map.of("base", role("Reader"), "wanted", role("Mine")))
                .expect(409)
                .problems())
        .contains("changed-meanwhile");
  }

  @Test
  void anOwnerSeesTheirAppsAndChangesNoWayIn() {
    String app = propose("Owned by Nils", "nils");
    Visitor nils = server.signedIn("nils");
    List<String> names = new ArrayList<>();
    nils.get("/api/apps")
        .expect(200)
        .json()
        .path("lines")
        .forEach(line -> names.add(line.path("app").path("name").asString()));
    assertThat(names).containsExactlyInAnyOrder("Crewsheet", "Owned by Nils", "Refund Bench");
    nils.put("/api/apps/" + app + "/link", Map.of("address", "https://x.example/")).expect(403);
    Map<String, Object> base = profile("Owned by Nils");
    Map<String, Object> wanted = profile("Owned by Nils");
    wanted.put("line", "For the deck");
    nils.put("/api/apps/" + app + "/profile", Map.of("base", base, "wanted", wanted)).expect(200);
    nils.put("/api/apps/" + app + "/profile", Map.of("base", base, "wanted", wanted)).expect(409);
    String farebox =
        ines.get("/api/entitlements/" + seed.shop().role("Farebox").value())
            .json()
            .path("entitlement")
            .path("app")
            .path("id")
            .asString();
    nils.get("/api/apps/" + farebox).expect(404);
    nils.post("/api/apps/" + farebox + "/entitlements", role("Mine")).expect(403);
  }

  @Test
  void hostileAndMalformedFormsChangeNothing() {
    long before = ines.get("/api/ledger").json().path("lines").path(0).path("position").asLong();
    Map<String, Object> form = new HashMap<>();
    form.put("owners", List.of());
    form.put("entitlements", List.of(role("A"), role("a")));
    form.put("profile", profile(" "));
    form.put("address", "javascript:alert(1)");
    assertThat(ines.post("/api/apps", form).expect(422).problems())
        .contains("app.no-name", "app.address", "entitlement.name-taken");
    form.put("profile", profile("x".repeat(400)));
    assertThat(ines.post("/api/apps", form).expect(422).problems()).contains("too-long");
    form.put("profile", profile("Farebox"));
    assertThat(ines.post("/api/apps", form).expect(422).problems()).contains("app.name-taken");
    form.put("owners", List.of("00000000-0000-7000-8000-00000000ffff"));
    assertThat(ines.post("/api/apps", form).status()).isIn(404, 422);
    Map<String, Object> odd = profile("Odd");
    odd.put("sensitivity", "ENORMOUS");
    form.put("profile", odd);
    ines.post("/api/apps", form).expect(400);
    server.signedIn("oda").post("/api/apps", form).expect(403);
    assertThat(ines.get("/api/ledger").json().path("lines").path(0).path("position").asLong())
        .isEqualTo(before);
  }

  @Test
  void seatsAreSetByTheOwnerAndChangedOnWhatWasSeen() {
    OwnApp app = OwnApp.open(server, "Seated");
    String path = "/api/apps/" + app.id() + "/seats";
    Map<String, Object> none = new HashMap<>();
    Map<String, Object> ten = Map.of("count", 10, "price", 4_950, "currency", "NOK");
    none.put("base", null);
    none.put("wanted", ten);
    Visitor owner = server.signedIn("jonas");
    owner.put(path, none).expect(200);
    assertThat(owner.get("/api/apps/" + app.id()).expect(200).json().at("/seats/price").asInt())
        .isEqualTo(4_950);
    assertThat(owner.put(path, none).expect(409).problems()).contains("changed-meanwhile");
    Map<String, Object> bad =
        Map.of("base", ten, "wanted", Map.of("count", 0, "price", -1, "currency", "kr"));
    assertThat(owner.put(path, bad).expect(422).problems())
        .contains("app.seats", "app.price", "app.currency");
    assertThat(server.signedIn("oda").put(path, none).status()).isIn(403, 404);
    Map<String, Object> gone = new HashMap<>();
    gone.put("base", ten);
    gone.put("wanted", null);
    owner.put(path, gone).expect(200);
    assertThat(owner.get("/api/apps/" + app.id()).expect(200).json().path("seats").isNull())
        .isTrue();
  }
}
