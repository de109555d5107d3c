package eleutheria.server.drafts;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Looking ahead at one act over HTTP, and reverting any entry. */
class ForesightTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");
  private final OwnApp app = OwnApp.open(server, "Foresight");

  private String id(String userName) {
    return seed.person(userName).value().toString();
  }

  private Map<String, Object> giving(String kind, String id) {
    return Map.of("subjects", List.of(Map.of("kind", kind, "id", id)), "reason", "for the season");
  }

  private String grants() {
    return "/api/entitlements/" + app.role() + "/grants";
  }

  private String group() {
    String made =
        ines.post("/api/groups", Map.of("name", "Ahead " + UUID.randomUUID(), "reason", ""))
            .expect(200)
            .json()
            .path("result")
            .asString();
    ines.post(
            "/api/groups/" + made + "/members",
            Map.of("people", List.of(id("oda"), id("nils")), "groups", List.of(), "reason", ""))
        .expect(200);
    return made;
  }

  private boolean holds(String userName) {
    return ines.get("/api/people/%s/holdings/%s".formatted(id(userName), app.role()))
        .expect(200)
        .json()
        .path("holds")
        .asBoolean();
  }

  private static JsonNode foreseen(Visitor.Answer answer) {
    return answer.expect(200).json().path("foreseen");
  }

  @Test
  void leavingAGroupTellsWhatIsLostAndWhatIsKept() {
    String group = group();
    ines.post(grants(), giving("group", group)).expect(200);
    ines.post(grants(), giving("person", id("nils"))).expect(200);
    String out = "/api/groups/" + group + "/members/person/";
    JsonNode oda = foreseen(ines.foresee("DELETE", out + id("oda"), Map.of()));
    assertThat(oda.at("/moments/0/rows/0/sign").asString()).isEqualTo("lose");
    assertThat(oda.at("/moments/0/rows/0/named/0/displayed").asString()).isEqualTo("Oda Brekke");
    JsonNode nils = foreseen(ines.foresee("DELETE", out + id("nils"), Map.of()));
    assertThat(nils.at("/moments/0/counts/lose").asInt()).isZero();
    assertThat(nils.at("/moments/0/rows/0/sign").asString()).isEqualTo("keep");
    assertThat(nils.at("/moments/0/rows/0/rest/sources/0").asString()).isEqualTo("hand");
    assertThat(holds("oda")).as("nothing has happened").isTrue();
    ines.agree("DELETE", out + id("oda"), Map.of(), "something else").expect(409);
    assertThat(holds("oda")).isTrue();
    ines.agree("DELETE", out + id("oda"), Map.of(), oda.path("digest").asString()).expect(200);
    assertThat(holds("oda")).isFalse();
  }

  @Test
  void aDepartureIsForeseenAndAgreedTo() {
    String path = "/api/people/" + id("lena") + "/departure";
    Map<String, Object> form = Map.of("reason", "moves away");
    ines.post(grants(), giving("person", id("lena"))).expect(200);
    JsonNode seen = foreseen(ines.foresee("POST", path, form));
    assertThat(seen.at("/moments/0/rows").findValuesAsString("title")).contains(app.title());
    assertThat(ines.agree("POST", path, form, "something else").expect(409).problems())
        .contains("changed-meanwhile");
    assertThat(holds("lena")).isTrue();
  }

  @Test
  void aFileTellsWhoseAccessItMovesBeforeItIsBroughtIn() {
    String unit = "Unit " + UUID.randomUUID();
    ines.post(
            grants(),
            Map.of(
                "subjects",
                List.of(Map.of("kind", "filter", "filter", "unit eq \"" + unit + "\"")),
                "reason",
                "comes with the unit"))
        .expect(200);
    String key = UUID.randomUUID().toString();
    JsonNode dropped =
        ines.drop(
                Map.of("sourceName", "Source " + key),
                "staff no,given,family,unit\n%s,Ada,Foreseen,%s\n"
                    .formatted(key, unit)
                    .getBytes(StandardCharsets.UTF_8))
            .expect(200)
            .json();
    String path = "/api/deliveries/" + dropped.path("id").asString();
    JsonNode preview = ines.get(path + "/preview").expect(200).json();
    Map<String, Object> form =
        Map.of("digest", preview.path("digest").asString(), "leaveOutBad", true, "invite", false);
    JsonNode seen = foreseen(ines.foresee("POST", path + "/import", form));
    JsonNode row = seen.at("/moments/0/rows/0");
    assertThat(row.path("sign").asString()).isEqualTo("gain");
    assertThat(row.path("title").asString()).isEqualTo(app.title());
    assertThat(row.at("/named/0/displayed").asString()).isEqualTo("Ada Foreseen");
    assertThat(ines.get("/api/people?find=" + key).json().path("lines"))
        .as("nothing has happened")
        .isEmpty();
    ines.delete(path).expect(200);
  }

  @Test
  void aReaderOfSmallReachLearnsOfNobodyElse() {
    String group = group();
    ines.post(grants(), giving("group", group)).expect(200);
    Visitor maren = server.signedIn("maren");
    JsonNode seen =
        foreseen(maren.foresee("POST", grants(), giving("group", seed.desk().value().toString())));
    assertThat(seen.toString()).doesNotContain("Nils");
    JsonNode ways =
        maren
            .get("/api/people/%s/holdings/%s/ways-out".formatted(id("oda"), app.role()))
            .expect(200)
            .json()
            .path("ways");
    assertThat(ways).isNotEmpty();
    ways.forEach(way -> assertThat(way.path("others").isNull()).as(way.toString()).isTrue());
    maren.get("/api/people/%s/holdings/%s/ways-out".formatted(id("nils"), app.role())).expect(404);
  }

  @Test
  void whatOnlyTheDraftMakesPossibleIsSaidToBeSo() {
    String draft =
        ines.post("/api/drafts", Map.of("name", "Ahead"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    ines.gatherInto(draft);
    String group =
        ines.post("/api/groups", Map.of("name", "Only drafted " + draft, "reason", ""))
            .expect(200)
            .json()
            .path("result")
            .asString();
    JsonNode seen = foreseen(ines.foresee("POST", grants(), giving("group", group)));
    assertThat(seen.path("inDraft").asBoolean()).isTrue();
    assertThat(seen.path("problems")).isEmpty();
    JsonNode absent =
        foreseen(ines.foresee("POST", grants(), giving("group", UUID.randomUUID().toString())));
    assertThat(absent.path("inDraft").asBoolean()).isFalse();
    assertThat(absent.path("problems")).isNotEmpty();
    assertThat(ines.get("/api/drafts/" + draft).json().path("edits")).hasSize(1);
    ines.delete("/api/drafts/" + draft).expect(200);
    ines.gatherInto(null);
  }

  @Test
  void anyEntryIsRevertByADraft() {
    long entry =
        ines.post(grants(), giving("person", id("oda")))
            .expect(200)
            .json()
            .path("position")
            .asLong();
    assertThat(holds("oda")).isTrue();
    String path = "/api/ledger/" + entry + "/revert";
    server.signedIn("oda").post(path, Map.of("name", "Back")).expect(403);
    String draft =
        ines.post(path, Map.of("name", "Back")).expect(200).json().path("result").asString();
    JsonNode told = ines.get("/api/drafts/" + draft + "/consequences").expect(200).json();
    assertThat(told.at("/moments/0/rows/0/sign").asString()).isEqualTo("lose");
    ines.post(
            "/api/drafts/" + draft + "/publish",
            Map.of("reason", "a slip", "tell", false, "digest", told.path("digest").asString()))
        .expect(200);
    assertThat(holds("oda")).isFalse();
    ines.post("/api/ledger/999999999/revert", Map.of("name", "Back")).expect(404);
    // What has changed nothing cannot be reverted.
    ines.post("/api/ledger/export", Map.of()).expect(200);
    long export = ines.get("/api/ledger?act=LEDGER_EXPORT").json().at("/lines/0/position").asLong();
    ines.post("/api/ledger/" + export + "/revert", Map.of("name", "Back")).expect(422);
  }

  /** Ines alone could give it to her; so her fresh sign-in is enough, and the entry says so. */
  @Test
  void whoAloneCouldSayYesIsOnRecordAsAlone() {
    long entry =
        ines.post(grants(), giving("person", id("ines")))
            .expect(200)
            .json()
            .path("position")
            .asLong();
    assertThat(ines.get("/api/ledger/" + entry).json().at("/entry/details/alone").asString())
        .isEqualTo("fresh sign-in");
    long other =
        ines.post(grants(), giving("person", id("oda")))
            .expect(200)
            .json()
            .path("position")
            .asLong();
    assertThat(ines.get("/api/ledger/" + other).json().at("/entry/details/alone").isMissingNode())
        .isTrue();
  }

  /** Whoever only wants to look has never done anything. */
  @Test
  void whatCannotBeLookedAtAheadIsNotDoneEither() {
    assertThat(ines.foresee("POST", "/api/drafts", Map.of("name", "Looked")).expect(422).problems())
        .contains("foresee.unknown");
    assertThat(ines.get("/api/drafts").json().toString()).doesNotContain("Looked");
    Map<String, Object> asked = Map.of("entitlement", app.role(), "reason", "looked");
    server.signedIn("oda").foresee("POST", "/api/requests", asked).expect(422);
    assertThat(server.signedIn("oda").get("/api/my/requests").json().toString())
        .doesNotContain("looked");
  }
}
