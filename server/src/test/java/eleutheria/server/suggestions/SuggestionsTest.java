package eleutheria.server.suggestions;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Suggested apps, and who may keep links and suggest apps, over HTTP. */
class SuggestionsTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");

  private static String suggest(Visitor who, String name, String address) {
    String id =
        who.post(
                "/api/my/suggestions",
                Map.of("name", name, "address", address, "whom", "The counters", "why", "Paper"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    return id.substring(id.indexOf(':') + 1);
  }

  private Map<String, Object> accepting(String name, String address, List<String> suggestions) {
    Map<String, Object> form = new HashMap<>();
    form.put("suggestions", suggestions);
    form.put("name", name);
    form.put("line", "Who is next");
    form.put("picture", "users");
    form.put("hue", "plum");
    form.put("sensitivity", "LOW");
    form.put("address", address);
    form.put("owner", seed.person("lena").value());
    form.put("role", "User");
    form.put("requestable", true);
    form.put("also", null);
    form.put("answer", "Good idea.");
    return form;
  }

  private static boolean has(Visitor who, String tile) {
    return who.get("/api/front").expect(200).body().contains("\"name\":\"" + tile + "\"");
  }

  @Test
  void twoWhoPutTheSameForwardAreAnsweredTogetherAndHaveItsTile() {
    Visitor oda = server.signedIn("oda");
    Visitor nils = server.signedIn("nils");
    String address = "https://queue.example/app";
    String one = suggest(oda, "Queue Minder", address);
    String other = suggest(nils, "QueueMinder", "https://QUEUE.example/app/");
    JsonNode fold = null;
    for (JsonNode each : ines.get("/api/docket").expect(200).json().path("folds")) {
      fold = each.path("cases").path(0).path("kind").asString().equals("SUGGESTION") ? each : fold;
    }
    assertThat(fold).isNotNull();
    assertThat(fold.path("cases")).hasSize(2);
    JsonNode found = ines.get("/api/suggestions/" + one).expect(200).json();
    assertThat(found.path("suggestions")).hasSize(2);
    // Who may not make applications decides nothing, nor reads what others wrote.
    oda.get("/api/suggestions/" + one).expect(403);
    oda.post("/api/suggestions/accept", accepting("Queue Minder", address, List.of(one)))
        .expect(403);
    server
        .signedIn("maren")
        .post("/api/suggestions/accept", accepting("Queue Minder", address, List.of(one)))
        .expect(403);
    // What cannot be right changes nothing.
    assertThat(
            ines.post("/api/suggestions/accept", accepting("", "ftp://x", List.of(one, other)))
                .expect(422)
                .problems())
        .contains("app.no-name", "app.address");
    assertThat(has(oda, "Queue Minder")).isFalse();
    Map<String, Object> form = accepting("Queue Minder", address, List.of(one, other));
    ines.send("POST", "/api/suggestions/accept", form, "accept once").expect(200);
    ines.send("POST", "/api/suggestions/accept", form, "accept once").expect(200);
    assertThat(has(oda, "Queue Minder")).isTrue();
    assertThat(has(nils, "Queue Minder")).isTrue();
    assertThat(has(server.signedIn("jonas"), "Queue Minder")).isFalse();
    assertThat(oda.get("/api/my/suggestions").expect(200).body())
        .contains("accepted", "Good idea.", "Ines Roth");
    assertThat(ines.post("/api/suggestions/accept", form).expect(409).problems())
        .contains("changed-meanwhile");
    JsonNode week = ines.get("/api/self-service").expect(200).json().path("letIn");
    assertThat(week.get(0).path("name").asString()).isEqualTo("Queue Minder");
    assertThat(week.get(0).path("askers").asInt()).isEqualTo(2);
    String app = week.get(0).path("app").asString();
    ines.put(
            "/api/apps/" + app + "/state",
            Map.of("base", "OPEN", "state", "RETIRED", "reason", "The test is over."))
        .expect(200);
  }

  @Test
  void aNoSaysWhyAndWhoPutItForwardCanWithdrawBefore() {
    Visitor oda = server.signedIn("oda");
    String no = suggest(oda, "Coin Toss", "https://coin.example/");
    assertThat(
            ines.post("/api/suggestions/decline", Map.of("suggestions", List.of(no), "answer", ""))
                .expect(422)
                .problems())
        .containsOnly("suggestion.no-answer");
    ines.post(
            "/api/suggestions/decline",
            Map.of("suggestions", List.of(no), "answer", "We roll dice."))
        .expect(200);
    assertThat(oda.get("/api/my/suggestions").expect(200).body()).contains("We roll dice.");
    String other = suggest(oda, "Dice", "https://dice.example/");
    server.signedIn("lena").post("/api/my/suggestions/" + other + "/withdraw", null).expect(404);
    oda.post("/api/my/suggestions/" + other + "/withdraw", null).expect(200);
    oda.post("/api/my/suggestions/" + other + "/withdraw", null).expect(409);
    // Nobody decides on their own.
    String own = suggest(ines, "Mine", "https://mine.example/");
    assertThat(
            ines.post(
                    "/api/suggestions/decline",
                    Map.of("suggestions", List.of(own), "answer", "No."))
                .expect(403)
                .problems())
        .containsOnly("own-suggestion");
    ines.post("/api/my/suggestions/" + own + "/withdraw", null).expect(200);
  }

  private static Map<String, Object> rule(String filter, String links, boolean suggest) {
    Map<String, Object> subject = new HashMap<>();
    subject.put("kind", "filter");
    subject.put("id", null);
    subject.put("filter", filter);
    return Map.of(
        "audience",
        Map.of("everyone", false, "firstDays", 0, "subjects", List.of(subject)),
        "links",
        links,
        "suggest",
        suggest);
  }

  @Test
  void thePolicyIsChangedOnWhatWasSeenAndTellsEachWhatTheyMay() {
    Map<String, Object> narrow = rule("unit eq \"Finance\"", "NOTHING", false);
    assertThat(
            ines.put(
                    "/api/self-service/lines",
                    Map.of("base", List.of(), "wanted", List.of(rule("unit eq", "NOTHING", true))))
                .expect(422)
                .problems())
        .containsOnly("filter.wrong");
    ines.put("/api/self-service/lines", Map.of("base", List.of(), "wanted", List.of(narrow)))
        .expect(200);
    assertThat(
            ines.put("/api/self-service/lines", Map.of("base", List.of(), "wanted", List.of()))
                .expect(409)
                .problems())
        .containsOnly("changed-meanwhile");
    Visitor jonas = server.signedIn("jonas");
    JsonNode may = jonas.get("/api/my/self-service").expect(200).json();
    assertThat(may.path("links").asString()).isEqualTo("nothing");
    assertThat(may.path("suggest").asBoolean()).isFalse();
    assertThat(
            jonas
                .post(
                    "/api/my/suggestions",
                    Map.of("name", "X", "address", "https://x.example/", "whom", "me", "why", "y"))
                .expect(403)
                .problems())
        .containsOnly("suggestion.none");
    assertThat(
            server
                .signedIn("oda")
                .get("/api/my/self-service")
                .expect(200)
                .json()
                .path("links")
                .asString())
        .isEqualTo("approved");
    ines.put("/api/self-service/lines", Map.of("base", List.of(narrow), "wanted", List.of()))
        .expect(200);
  }
}
