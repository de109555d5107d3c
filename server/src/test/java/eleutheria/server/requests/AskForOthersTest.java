package eleutheria.server.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.StreamSupport;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Asking for somebody else over HTTP: Lena leads Oda, and is led by Ines. */
class AskForOthersTest {
  private final RunningServer server = RunningServer.shop();
  private final Visitor oda = server.signedIn("oda");
  private final Visitor lena = server.signedIn("lena");
  private final Visitor ines = server.signedIn("ines");
  private final OwnApp app = OwnApp.open(server, "Asked");

  private UUID id(String userName) {
    return server.seed().person(userName).value();
  }

  private Map<String, Object> form(@Nullable UUID person, @Nullable LocalDate until) {
    Map<String, Object> form = new HashMap<>();
    form.put("person", person);
    form.put("entitlement", app.role());
    form.put("until", until);
    form.put("reason", "for the counter");
    return form;
  }

  private String ask(Visitor who, UUID person) {
    return who.post("/api/requests", form(person, null))
        .expect(200)
        .json()
        .path("result")
        .asString()
        .replace("request:", "");
  }

  private static List<String> names(JsonNode lines) {
    return StreamSupport.stream(lines.spliterator(), false)
        .map(line -> line.at("/person/name").asString())
        .toList();
  }

  private JsonNode sheet(Visitor who, String... lines) {
    String text = "person,entitlement,last day,reason\n" + String.join("\n", lines);
    return who.upload("/api/requests/sheet", text.getBytes(StandardCharsets.UTF_8))
        .expect(200)
        .json()
        .path("lines");
  }

  @Test
  void aManagerAsksTheOneAboveDecidesAndBothSeeIt() {
    String request = ask(lena, id("oda"));
    for (Visitor one : List.of(lena, oda)) {
      JsonNode mine = one.get("/api/my/requests").expect(200).json().at("/requests/0");
      assertThat(mine.path("id").asString()).isEqualTo(request);
      assertThat(mine.at("/asker/name").asString()).isEqualTo("Lena Aho");
      assertThat(mine.at("/person/name").asString()).isEqualTo("Oda Brekke");
      assertThat(mine.at("/steps/0/people").toString()).isEqualTo("[\"Ines Roth\"]");
      // Neither decides it, also not where the powers or the place would let them.
      one.post("/api/requests/" + request + "/answer", Map.of("step", 0, "yes", true)).expect(403);
    }
    JsonNode shown = ines.get("/api/requests/" + request).expect(200).json();
    assertThat(shown.at("/person/displayed").asString()).isEqualTo("Oda Brekke");
    assertThat(shown.path("mine").asBoolean()).isTrue();
    assertThat(ines.get("/api/docket").expect(200).body()).contains(request);
    ines.post("/api/requests/" + request + "/answer", Map.of("step", 0, "yes", true)).expect(200);
    // Whom it is for may say that they do not need it.
    oda.post("/api/requests/" + request + "/withdraw", null).expect(200);
    assertThat(lena.get("/api/my/requests").json().at("/requests/0/stage").asString())
        .isEqualTo("withdrawn");
  }

  @Test
  void nobodyAsksForThoseWhomTheyDoNotSee() {
    for (UUID person : List.of(id("lena"), id("nils"), UUID.randomUUID())) {
      Visitor.Answer answer = oda.post("/api/requests", form(person, null));
      assertThat(answer.status()).isEqualTo(403);
      assertThat(answer.body()).contains("You cannot ask for this person.");
      oda.get("/api/askable/" + app.role() + "?person=" + person).expect(404);
    }
    assertThat(oda.get("/api/askable/" + app.role() + "/people").expect(200).json().path("total"))
        .hasToString("0");
    assertThat(oda.get("/api/askable/" + app.role()).json().path("forOthers").asBoolean())
        .isFalse();
    JsonNode page = lena.get("/api/askable/" + app.role() + "/people").expect(200).json();
    assertThat(names(page.path("lines"))).containsExactly("Oda Brekke");
    assertThat(page.at("/lines/0/team").asBoolean()).isTrue();
    // Whose powers end at a unit asks within it.
    assertThat(
            names(
                server
                    .signedIn("maren")
                    .get("/api/askable/" + app.role() + "/people")
                    .expect(200)
                    .json()
                    .path("lines")))
        .doesNotContain("Nils Sand");
    assertThat(
            names(
                ines.get("/api/askable/" + app.role() + "/people?find=brek&limit=5")
                    .json()
                    .path("lines")))
        .containsExactly("Oda Brekke");
  }

  @Test
  void whatItWouldComeToIsToldForEachPerson() {
    String path = "/api/askable/" + app.role() + "?person=" + id("oda") + "&person=" + id("lena");
    JsonNode before = lena.get(path).expect(200).json();
    assertThat(names(before.path("whom"))).containsExactly("Oda Brekke", "Lena Aho");
    assertThat(before.at("/whom/0/steps/0/people").toString()).isEqualTo("[\"Ines Roth\"]");
    assertThat(before.at("/whom/1/self").asBoolean()).isTrue();
    ask(lena, id("oda"));
    JsonNode after = lena.get(path).expect(200).json();
    assertThat(after.at("/whom/0/why").asString()).startsWith("You have asked for Oda Brekke");
    assertThat(after.at("/whom/1/askable").asBoolean()).isTrue();
    assertThat(oda.get("/api/askable/" + app.role()).json().at("/whom/0/why").asString())
        .startsWith("Someone has asked for it for you already");
    String many = "/api/askable/" + app.role() + "?person=" + id("oda");
    lena.get(many + ("&person=" + id("oda")).repeat(50)).expect(422);
  }

  @Test
  void manyAreAskedForEachByItselfAndARepeatDoesNothingMore() {
    List<Map<String, Object>> wanted =
        List.of(
            form(id("oda"), null),
            form(id("nils"), null),
            form(null, null),
            form(id("oda"), LocalDate.of(2001, 1, 1)));
    Visitor.Answer first =
        lena.send("POST", "/api/requests/many", Map.of("requests", wanted), "many-1").expect(200);
    JsonNode lines = first.json().path("lines");
    assertThat(lines.at("/0/problems").isEmpty()).isTrue();
    assertThat(lines.at("/1/problems/0/code").asString()).isEqualTo("request.not-for");
    assertThat(lines.at("/2/request").asString()).isNotEmpty();
    assertThat(lines.at("/3/request").isNull()).isTrue();
    int before = lena.get("/api/my/requests").json().path("requests").size();
    JsonNode again =
        lena.send("POST", "/api/requests/many", Map.of("requests", wanted), "many-1")
            .expect(200)
            .json()
            .path("lines");
    assertThat(again.at("/0/request")).isEqualTo(lines.at("/0/request"));
    assertThat(again.at("/2/request")).isEqualTo(lines.at("/2/request"));
    assertThat(lena.get("/api/my/requests").json().path("requests").size()).isEqualTo(before);
    lena.post("/api/requests/many", Map.of("requests", List.of())).expect(400);
    List<Map<String, Object>> tooMany = new ArrayList<>();
    for (int i = 0; i < 201; i++) {
      tooMany.add(form(id("oda"), null));
    }
    lena.post("/api/requests/many", Map.of("requests", tooMany)).expect(400);
  }

  @Test
  void aSheetIsReadAndNothingIsDoneYet() {
    long position = lena.get("/api/session").json().path("position").asLong();
    JsonNode lines =
        sheet(
            lena,
            "oda," + app.title() + ",,counter",
            "oda," + app.title() + ",,again",
            "Nils Sand," + app.title() + ",,x",
            "<script>alert(1)</script>," + app.title() + ",,x",
            "oda,Nothing · User,,=1+1");
    assertThat(lines.at("/0/person/name").asString()).isEqualTo("Oda Brekke");
    assertThat(lines.at("/0/entitlement/title").asString()).isEqualTo(app.title());
    assertThat(lines.at("/0/wrong").isEmpty()).isTrue();
    assertThat(lines.at("/1/wrong/0").asString()).isEqualTo("An earlier line asks for the same.");
    assertThat(lines.at("/2/person").isNull()).isTrue();
    assertThat(lines.at("/3/wrong/0").asString()).startsWith("You cannot ask for");
    assertThat(lines.at("/4/wrong").size()).isEqualTo(2);
    assertThat(lena.get("/api/session").json().path("position").asLong()).isEqualTo(position);
    for (String bad : List.of("", "person\nx\n", "PK\u0003\u0004", "\"open")) {
      lena.upload("/api/requests/sheet", bad.getBytes(StandardCharsets.UTF_8)).expect(422);
    }
    assertThat(lena.upload("/api/requests/sheet", new byte[2 * 1024 * 1024 + 1]).expect(422).body())
        .contains("larger than 2 MB");
  }
}
