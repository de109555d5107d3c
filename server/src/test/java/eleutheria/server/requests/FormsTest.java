package eleutheria.server.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Setting what whoever asks is asked, and answering it, over HTTP. */
class FormsTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor oda = server.signedIn("oda");
  private final Visitor lena = server.signedIn("lena");
  private final Visitor ines = server.signedIn("ines");
  private final String crewsheet = seed.shop().role("Crewsheet").value().toString();
  private final String scope = "entitlement:" + crewsheet;
  private final List<Runnable> after = new ArrayList<>();

  @AfterEach
  void leaveNothing() {
    after.forEach(Runnable::run);
    JsonNode now = ines.get("/api/forms/" + scope).expect(200).json();
    if (now.at("/line/set").asBoolean()) {
      ines.post(
              "/api/forms/" + scope + "/clear",
              Map.of("base", now.path("form"), "reason", "as before"))
          .expect(200);
    }
  }

  private static Map<String, Object> question(
      String key, String kind, List<String> choices, String shownWhen) {
    Map<String, Object> question = new HashMap<>();
    question.put("key", key);
    question.put("label", "What is " + key + "?");
    question.put("help", "");
    question.put("required", true);
    question.put("kind", kind);
    question.put("choices", choices);
    question.put("looksLike", "");
    question.put("least", null);
    question.put("most", null);
    question.put("earliest", null);
    question.put("latest", null);
    question.put("shownWhen", shownWhen);
    return question;
  }

  @SafeVarargs
  private static Map<String, Object> shape(Map<String, Object>... questions) {
    Map<String, Object> term = new HashMap<>();
    term.put("choices", List.of(7, 30));
    term.put("most", 60);
    term.put("endless", true);
    return Map.of("questions", List.of(questions), "term", term);
  }

  private static Map<String, Object> covering() {
    return shape(
        question("need", "ONE_OF", List.of("Covering", "My work"), ""),
        question("whom", "COLLEAGUE", List.of(), "need eq \"Covering\""),
        question("note", "LONG", List.of(), "need eq \"My work\" and unit eq \"Nowhere\""));
  }

  private static Map<String, Object> form(@Nullable Object base, Object wanted) {
    Map<String, Object> form = new HashMap<>();
    form.put("base", base);
    form.put("wanted", wanted);
    form.put("reason", "Owners always ask.");
    return form;
  }

  private void set(Map<String, Object> wanted) {
    ines.put("/api/forms/" + scope, form(null, wanted)).expect(200);
  }

  private Map<String, Object> asking(Map<String, List<String>> answers) {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", crewsheet);
    form.put("until", null);
    form.put("reason", "for the counter");
    form.put("answers", answers);
    return form;
  }

  private Visitor.Answer asks(Visitor who, Map<String, Object> form) {
    Visitor.Answer answer = who.post("/api/requests", form);
    if (answer.status() == 200) {
      String id = answer.json().path("result").asString();
      after.add(() -> who.post("/api/requests/" + id + "/withdraw", null));
    }
    return answer;
  }

  private static List<String> fields(Visitor.Answer answer) {
    return answer.json().path("problems").findValuesAsString("field");
  }

  @Test
  void theFormIsAskedAnsweredAndReadByWhoeverDecides() {
    set(covering());
    JsonNode ask = oda.get("/api/askable/" + crewsheet).expect(200).json();
    // What is settled by her own attributes is not sent, nor what they are.
    assertThat(ask.path("questions").findValuesAsString("key")).containsExactly("need", "whom");
    assertThat(ask.at("/questions/1/shownWhen/attribute").asString()).isEqualTo("need");
    assertThat(ask.toString()).doesNotContain("Nowhere");
    assertThat(ask.path("days")).extracting(JsonNode::asInt).containsExactly(7, 30);
    assertThat(ask.path("mostDays").asInt()).isEqualTo(60);
    String colleague = ask.at("/colleagues/0/id").asString();

    assertThat(fields(asks(oda, asking(Map.of())).expect(422))).containsExactly("answers.need");
    assertThat(fields(asks(oda, asking(Map.of("need", List.of("Covering")))).expect(422)))
        .containsExactly("answers.whom");
    Map<String, Object> good =
        asking(
            Map.of("need", List.of("Covering"), "whom", List.of(colleague), "note", List.of("x")));
    String id = asks(oda, good).expect(200).json().path("result").asString();
    JsonNode read = lena.get("/api/requests/" + id).expect(200).json().at("/request/answers");
    assertThat(read.findValuesAsString("key")).containsExactly("need", "whom");
    assertThat(read.at("/1/values/0").asString())
        .isEqualTo(ask.at("/colleagues/0/name").asString());
    // The form changes; the request says what was asked, and the next one begins with it.
    JsonNode now = ines.get("/api/forms/" + scope).expect(200).json().path("form");
    ines.put("/api/forms/" + scope, form(now, shape(question("else", "SHORT", List.of(), ""))))
        .expect(200);
    assertThat(lena.get("/api/requests/" + id).expect(200).json().at("/request/answers"))
        .isEqualTo(read);
    assertThat(
            oda.get("/api/askable/" + crewsheet)
                .expect(200)
                .json()
                .at("/earlierAnswers/need/0")
                .asString())
        .isEqualTo("Covering");
  }

  @Test
  void aFormThatHasChangedMeanwhileIsNoticed() {
    String before = oda.get("/api/askable/" + crewsheet).expect(200).json().path("form").asString();
    Map<String, Object> asking = asking(Map.of());
    asking.put("form", before);
    set(shape(question("need", "YES_NO", List.of(), "")));
    assertThat(asks(oda, asking).expect(409).json().at("/problems/0/field").asString())
        .isEqualTo("form");
    asking.put(
        "form", oda.get("/api/askable/" + crewsheet).expect(200).json().path("form").asString());
    asking.put("answers", Map.of("need", List.of("true")));
    asks(oda, asking).expect(200);
  }

  @Test
  void itIsGivenForNoLongerThanTheFormAllows() {
    set(shape());
    Map<String, Object> asking = asking(Map.of());
    asking.put("until", LocalDate.now(ZoneOffset.UTC).plusDays(70).toString());
    assertThat(fields(asks(oda, asking).expect(422))).containsExactly("until");
  }

  @Test
  void hostileAnswersAreRefusedOrKeptAsTheyAre() {
    set(shape(question("note", "LONG", List.of(), "")));
    assertThat(fields(asks(oda, asking(Map.of("note", List.of("x".repeat(4_001))))).expect(422)))
        .containsExactly("answers.note");
    asks(oda, asking(Map.of("note", List.of("x".repeat(1_000_000))))).expect(400);
    Map<String, List<String>> many = new HashMap<>();
    for (int i = 0; i < 151; i++) {
      many.put("k" + i, List.of("x"));
    }
    asks(oda, asking(many)).expect(400);
    Map<String, Object> nothing = asking(Map.of());
    nothing.put("answers", Map.of("note", java.util.Collections.singletonList(null)));
    asks(oda, nothing).expect(400);
    assertThat(
            fields(asks(oda, asking(Map.of("note", List.of("turned \u202e round")))).expect(422)))
        .containsExactly("answers");
    String script = "<script>alert(1)</script> =HYPERLINK(\"x\") ../../etc\nnext line";
    String id =
        asks(oda, asking(Map.of("note", List.of(script))))
            .expect(200)
            .json()
            .path("result")
            .asString();
    assertThat(
            lena.get("/api/requests/" + id)
                .expect(200)
                .json()
                .at("/request/answers/0/values/0")
                .asString())
        .isEqualTo(script);
  }

  @Test
  void aFormIsTriedAsAPersonWhomOneMaySee() {
    JsonNode tried =
        ines.post(
                "/api/forms/tried",
                Map.of("person", seed.person("oda").value(), "form", covering()))
            .expect(200)
            .json();
    assertThat(tried.path("questions").findValuesAsString("key")).containsExactly("need", "whom");
    assertThat(tried.at("/conditions/1/words").asString()).isEqualTo("“What is need?” is Covering");
    assertThat(tried.path("problems")).isEmpty();
    JsonNode wrong =
        ines.post(
                "/api/forms/tried",
                Map.of("form", shape(question("a", "SHORT", List.of(), "b pr"))))
            .expect(200)
            .json();
    assertThat(wrong.path("problems").findValuesAsString("field"))
        .containsExactly("questions.0.shownWhen");
    assertThat(wrong.path("questions")).isEmpty();
    ines.post("/api/forms/tried", Map.of("person", java.util.UUID.randomUUID(), "form", covering()))
        .expect(404);
    lena.post("/api/forms/tried", Map.of("form", covering())).expect(403);
  }

  @Test
  void whatIsWrongIsSaidWhereItStandsAndChangesNothing() {
    Visitor.Answer wrong =
        ines.put(
            "/api/forms/" + scope,
            form(
                null,
                shape(
                    question("unit", "ONE_OF", List.of("One"), ""),
                    question("b", "SHORT", List.of(), "c pr"))));
    assertThat(fields(wrong.expect(422)))
        .containsExactly("questions.0.key", "questions.0.choices", "questions.1.shownWhen");
    Map<String, Object> number = question("n", "NUMBER", List.of(), "");
    number.put("least", "1e999999999");
    ines.put("/api/forms/" + scope, form(null, shape(number))).expect(400);
    ines.put("/api/forms/nonsense", form(null, shape())).expect(404);
    assertThat(ines.get("/api/forms/" + scope).expect(200).json().at("/line/set").asBoolean())
        .isFalse();
    set(covering());
    // Of two who change it at once the second is told.
    ines.put("/api/forms/" + scope, form(null, shape())).expect(409);
    for (Visitor other : List.of(oda, lena)) {
      other.get("/api/forms/" + scope).expect(403);
      other.put("/api/forms/" + scope, form(null, shape())).expect(403);
    }
  }

  @Test
  void aFormGoesIntoADraftAndIsToldInWords() {
    String draft =
        ines.post("/api/drafts", Map.of("name", "Ask for the till"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    after.add(() -> ines.delete("/api/drafts/" + draft));
    ines.gatherInto(draft);
    ines.put("/api/forms/" + scope, form(null, covering())).expect(200);
    ines.gatherInto(null);
    assertThat(ines.get("/api/forms/" + scope).expect(200).json().at("/line/set").asBoolean())
        .isFalse();
    assertThat(ines.get("/api/drafts/" + draft).expect(200).json().toString())
        .contains("REQUEST_FORM")
        .contains("“What is need?”, “What is whom?”");
  }
}
