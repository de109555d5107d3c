package eleutheria.server.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class GroupsTest {
  private final RunningServer server = RunningServer.shared();
  private final Visitor ines = server.signedIn("ines");

  private String make(String name) {
    return ines.post("/api/groups", Map.of("name", name))
        .expect(200)
        .json()
        .path("result")
        .asString();
  }

  private Map<String, Object> members(String... userNames) {
    List<String> ids = new ArrayList<>();
    for (String userName : userNames) {
      ids.add(server.seed().person(userName).value().toString());
    }
    return Map.of("people", ids, "groups", List.of());
  }

  @Test
  void aFilterIsTriedSavedAndFollowed() {
    JsonNode wrong =
        ines.post("/api/filters/try", Map.of("filter", "unit eq Ticketing")).expect(200).json();
    assertThat(wrong.path("error").asString()).contains("double quotes");
    assertThat(wrong.path("from").asInt()).isEqualTo(8);
    JsonNode right =
        ines.post("/api/filters/try", Map.of("filter", "unit eq \"ticketing\"")).expect(200).json();
    assertThat(right.path("count").asInt()).isEqualTo(3);
    String id =
        ines.post("/api/groups", Map.of("name", "Counter", "filter", "unit eq \"ticketing\""))
            .expect(200)
            .json()
            .path("result")
            .asString();
    assertThat(ines.get("/api/groups/" + id).json().path("people").asInt()).isEqualTo(3);
    assertThat(
            ines.put(
                    "/api/groups/" + id + "/filter",
                    Map.of("base", "something else", "filter", "unit pr"))
                .expect(409)
                .problems())
        .contains("changed-meanwhile");
  }

  @Test
  void twoWhoRenameAtOnceOneIsToldWhatTheOtherDid() throws Exception {
    String id = make("At once");
    Visitor other = server.signedIn("ines");
    List<Integer> statuses = new ArrayList<>();
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Callable<Integer>> both =
          List.of(
              () ->
                  ines.put("/api/groups/" + id + "/name", Map.of("base", "At once", "name", "One"))
                      .status(),
              () ->
                  other
                      .put("/api/groups/" + id + "/name", Map.of("base", "At once", "name", "Two"))
                      .status());
      for (Future<Integer> each : pool.invokeAll(both)) {
        statuses.add(each.get());
      }
    }
    assertThat(statuses).containsExactlyInAnyOrder(200, 409);
  }

  @Test
  void aRepeatIsOneAct() {
    Map<String, Object> form = Map.of("name", "Made once");
    Visitor.Answer first = ines.send("POST", "/api/groups", form, "key-1").expect(200);
    Visitor.Answer again = ines.send("POST", "/api/groups", form, "key-1").expect(200);
    assertThat(again.body()).isEqualTo(first.body());
    assertThat(ines.post("/api/groups", form).expect(422).problems()).contains("group.name-taken");
  }

  @Test
  void anOwnerSeesAndFillsTheirGroupAndNoOther() {
    Visitor lena = server.signedIn("lena");
    String desk = server.seed().desk().value().toString();
    JsonNode listed = lena.get("/api/groups").expect(200).json();
    assertThat(listed.path("lines"))
        .singleElement()
        .extracting(g -> g.path("id").asString())
        .isEqualTo(desk);
    lena.post("/api/groups/" + desk + "/members", members("nils")).expect(200);
    assertThat(
            lena.get("/api/groups/" + desk + "/members")
                .json()
                .path("lines")
                .get(0)
                .path("person")
                .path("displayed")
                .asString())
        .isEqualTo("Nils Sand");
    lena.delete("/api/groups/" + desk + "/members/person/" + server.seed().person("nils").value())
        .expect(200);
    String other = make("Not Lena's");
    lena.get("/api/groups/" + other).expect(404);
    lena.post("/api/groups/" + other + "/members", members("oda")).expect(403);
    lena.put("/api/groups/" + desk + "/name", Map.of("base", "Refund desk", "name", "Mine"))
        .expect(403);
  }

  private static String words(Visitor who, String filter) {
    return who.post("/api/filters/try", Map.of("filter", filter))
        .expect(200)
        .json()
        .path("words")
        .asString();
  }

  @Test
  void aSmallReachSeesCountsFindsAndMovesOnlyItsUnit() {
    Visitor maren = server.signedIn("maren");
    JsonNode people = maren.get("/api/people").expect(200).json();
    assertThat(people.path("of").asInt()).isEqualTo(3);
    assertThat(people.path("limited").asBoolean()).isTrue();
    maren.get("/api/people/" + server.seed().person("nils").value()).expect(404);
    assertThat(maren.get("/api/find?text=nils").json().path("peopleTotal").asInt()).isZero();
    String mixed = make("Mixed");
    ines.post("/api/groups/" + mixed + "/members", members("oda", "nils")).expect(200);
    JsonNode seen = maren.get("/api/groups/" + mixed).json();
    assertThat(seen.path("people").asInt()).isEqualTo(1);
    assertThat(seen.path("unreached").asInt()).isEqualTo(1);
    assertThat(
            maren
                .post("/api/groups/" + mixed + "/members", members("jonas"))
                .expect(403)
                .problems())
        .contains("reach");
    assertThat(
            maren
                .post("/api/filters/try", Map.of("filter", "unit pr"))
                .json()
                .path("count")
                .asInt())
        .isEqualTo(3);
    // Values are counted within reach, and nobody learns of others by them.
    JsonNode units = maren.get("/api/attributes/unit/values").expect(200).json();
    assertThat(units).hasSize(1);
    assertThat(units.path(0).path("people").asInt()).isLessThanOrEqualTo(3);
    assertThat(ines.get("/api/attributes/unit/values").json().size()).isGreaterThan(1);
    maren.get("/api/attributes/none/values").expect(404);
    server.signedIn("oda").get("/api/attributes/unit/values").expect(403);
    // A person is named in a filter's words to those who may see them, and to nobody else.
    String byManager = "manager eq \"" + server.seed().person("nils").value() + "\"";
    assertThat(words(ines, byManager)).isEqualTo("everyone whose manager is Nils Sand");
    assertThat(words(maren, byManager)).isEqualTo("everyone whose manager is a certain person");
    assertThat(words(ines, "manager eq \"nils\""))
        .isEqualTo("everyone whose manager is a certain person");
    JsonNode tried =
        maren
            .post(
                "/api/filters/try", Map.of("filter", "unit eq \"Ticketing\" or unit eq \"Safety\""))
            .json();
    assertThat(tried.path("words").asString())
        .isEqualTo("everyone whose unit is Ticketing or Safety");
    assertThat(tried.path("shape").path("values").toString())
        .isEqualTo("[\"Ticketing\",\"Safety\"]");
    for (JsonNode line : maren.get("/api/ledger").expect(200).json().path("lines")) {
      assertThat(line.path("objects").toString()).doesNotContain("Nils");
    }
    maren.post("/api/ledger/check", null).expect(403);
    maren.post("/api/ledger/export", null).expect(403);
  }

  @Test
  void thePastIsShownAndDoesNotMove() {
    String id = make("With a past");
    ines.post("/api/groups/" + id + "/members", members("oda")).expect(200);
    String then = ines.get("/api/groups/" + id).json().path("at").asString();
    ines.delete("/api/groups/" + id + "/members/person/" + server.seed().person("oda").value())
        .expect(200);
    assertThat(ines.get("/api/groups/" + id).json().path("people").asInt()).isZero();
    JsonNode past = ines.get("/api/groups/" + id + "?asOf=" + then).expect(200).json();
    assertThat(past.path("people").asInt()).isEqualTo(1);
    assertThat(past.path("mayFill").asBoolean()).isFalse();
    assertThat(ines.get("/api/people?asOf=" + Seed.BEGIN.minusSeconds(1)).expect(422).problems())
        .contains("as-of.before-the-first-act");
    ines.get("/api/people?asOf=2999-01-01T00:00:00Z").expect(422);
  }
}
