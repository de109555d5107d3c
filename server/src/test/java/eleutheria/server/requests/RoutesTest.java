package eleutheria.server.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Setting who decides on requests, and asking by it, over HTTP. */
class RoutesTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor oda = server.signedIn("oda");
  private final Visitor lena = server.signedIn("lena");
  private final Visitor ines = server.signedIn("ines");
  private final Visitor nils = server.signedIn("nils");
  private final Visitor jonas = server.signedIn("jonas");
  private final String crewsheet = seed.shop().role("Crewsheet").value().toString();
  private final String scope = "entitlement:" + crewsheet;
  private final List<Runnable> after = new ArrayList<>();

  @AfterEach
  void leaveNothing() {
    after.forEach(Runnable::run);
    JsonNode now = line(scope);
    if (now.path("set").asBoolean()) {
      ines.post(
              "/api/routes/" + scope + "/clear",
              Map.of("base", forms(now.path("steps")), "reason", "as before"))
          .expect(200);
    }
  }

  private JsonNode line(String of) {
    return ines.get("/api/routes/" + of).expect(200).json().path("route");
  }

  private static Map<String, Object> step(String seat, @Nullable UUID of, int days) {
    Map<String, Object> step = new HashMap<>();
    step.put("seat", seat);
    step.put("of", of);
    step.put("days", days);
    return step;
  }

  /** Steps as they were told, to be sent back. */
  private static List<Map<String, Object>> forms(JsonNode steps) {
    List<Map<String, Object>> forms = new ArrayList<>();
    for (JsonNode step : steps) {
      forms.add(
          step(
              step.path("seat").asString(),
              step.path("of").isNull() ? null : UUID.fromString(step.path("of").asString()),
              step.path("days").asInt()));
    }
    return forms;
  }

  private static Map<String, Object> form(
      @Nullable List<Map<String, Object>> base, List<Map<String, Object>> steps) {
    Map<String, Object> form = new HashMap<>();
    form.put("base", base);
    form.put("steps", steps);
    form.put("reason", "Money leaves by it.");
    return form;
  }

  private void set(List<Map<String, Object>> steps) {
    ines.put("/api/routes/" + scope, form(null, steps)).expect(200);
  }

  private String asks(Visitor who) {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", crewsheet);
    form.put("until", null);
    form.put("reason", "for the counter");
    String id = who.post("/api/requests", form).expect(200).json().path("result").asString();
    after.add(() -> who.post("/api/requests/" + id + "/withdraw", null));
    return id;
  }

  private static Visitor.Answer decides(Visitor who, String request, int step) {
    return who.post(
        "/api/requests/" + request + "/answer", Map.of("step", step, "yes", true, "note", ""));
  }

  @Test
  void whatIsAskedAfterwardsGoesByItAndWhatIsOpenKeepsItsOwn() {
    String before = asks(lena);
    set(
        List.of(
            step("NAMED", seed.person("jonas").value(), 3),
            step("MANAGER", null, 10),
            step("STEWARD", null, 5)));
    JsonNode told = ines.get("/api/routes/" + scope).expect(200).json();
    assertThat(told.path("open").asInt()).isPositive();
    assertThat(told.at("/route/entitlements").asInt()).isEqualTo(1);
    assertThat(told.at("/route/steps").findValuesAsString("seat"))
        .containsExactly("NAMED", "MANAGER", "STEWARD");
    assertThat(told.at("/route/steps/0/name").asString()).isEqualTo("Jonas Weir");
    assertThat(oda.get("/api/askable/" + crewsheet).expect(200).json().at("/whom/0/steps"))
        .extracting(each -> each.path("as").asString() + " " + each.at("/people/0").asString())
        .containsExactly("named Jonas Weir", "manager Lena Aho", "steward Maren Quist");

    String request = asks(oda);
    assertThat(decides(lena, request, 1).status()).as("not her turn").isEqualTo(409);
    decides(jonas, request, 0).expect(200);
    Visitor.until("the step has begun", () -> decides(lena, request, 1).status() == 200);
    Visitor.until("the last has begun", () -> decides(ines, request, 2).status() == 200);
    JsonNode given = oda.get("/api/my/requests").expect(200).json();
    assertThat(given.toString()).contains("\"stage\":\"given\"");
    // Before it is withdrawn: what is taken back waits again.
    after.addFirst(() -> ines.post("/api/requests/" + request + "/take-back", null).expect(200));

    JsonNode kept = ines.get("/api/requests/" + before).expect(200).json();
    assertThat(kept.at("/request/steps")).hasSize(2);
    assertThat(kept.at("/request/steps/1/people").toString()).contains("Jonas Weir", "Nils");
  }

  private static boolean decides(Visitor who) {
    return who.get("/api/session").expect(200).json().at("/signed/decides").asBoolean();
  }

  /** Whoever a route names has the desk, also by one that only something open still goes by. */
  @Test
  void whoeverItNamesHasTheDesk() {
    Visitor namesake = server.signedIn("nils.desk");
    assertThat(decides(namesake)).isFalse();
    List<Map<String, Object>> steps =
        List.of(step("OWNER", null, 3), step("NAMED", seed.person("nils.desk").value(), 3));
    set(steps);
    assertThat(decides(namesake)).isTrue();
    String request = asks(oda);
    ines.put("/api/routes/" + scope, form(steps, List.of(step("OWNER", null, 3)))).expect(200);
    assertThat(decides(namesake)).isTrue();
    oda.post("/api/requests/" + request + "/withdraw", null).expect(200);
    assertThat(decides(namesake)).isFalse();
  }

  @Test
  void itIsDrawnWithThePeopleAndWhatIsWrong() {
    Map<String, Object> form = new HashMap<>();
    form.put("person", seed.person("oda").value());
    form.put("entitlement", crewsheet);
    form.put(
        "steps",
        List.of(
            step("MANAGERS_MANAGER", null, 3),
            step("ANY_OF", seed.desk().value(), 3),
            step("NAMED", seed.person("gone").value(), 3),
            step("ANY_OF", UUID.randomUUID(), 3)));
    JsonNode drawn = ines.post("/api/routes/drawn", form).expect(200).json();
    assertThat(drawn.at("/person/name").asString()).isEqualTo("Oda Brekke");
    assertThat(drawn.path("steps"))
        .extracting(each -> each.path("as").asString() + " " + each.path("elsewhere").asBoolean())
        .containsExactly("managers_manager false", "owner true", "owner true", "owner true");
    assertThat(drawn.at("/steps/2/settled").asBoolean()).isTrue();
    form.put("person", UUID.randomUUID());
    ines.post("/api/routes/drawn", form).expect(404);
  }

  @Test
  void whoeverLacksThePowerSeesAndSetsNothing() {
    Map<String, Object> form = form(null, List.of(step("OWNER", null, 3)));
    Map<String, Object> drawing =
        Map.of("entitlement", crewsheet, "steps", List.of(step("OWNER", null, 3)));
    for (Visitor who : List.of(oda, lena, nils, jonas)) {
      who.get("/api/routes").expect(403);
      who.get("/api/routes/" + scope).expect(403);
      who.put("/api/routes/" + scope, form).expect(403);
      who.post("/api/routes/drawn", drawing).expect(403);
    }
    // All powers, over the people of one unit: a route is not of a unit.
    Visitor maren = server.signedIn("maren");
    for (String wide : List.of("all", "high", scope)) {
      assertThat(maren.put("/api/routes/" + wide, form).status()).as(wide).isEqualTo(403);
    }
    assertThat(line(scope).path("set").asBoolean()).isFalse();
  }

  @Test
  void badInputIsRefusedAndTwoAtOnceAreNoticed() {
    for (String odd : List.of("none", "entitlement:x", "person:" + UUID.randomUUID(), "highest")) {
      assertThat(ines.get("/api/routes/" + odd).status()).as(odd).isEqualTo(404);
      assertThat(
              ines.put("/api/routes/" + odd, form(null, List.of(step("OWNER", null, 3)))).status())
          .as(odd)
          .isEqualTo(404);
    }
    assertThat(
            ines.put("/api/routes/" + scope, form(null, List.of(step("NAMED", null, 3))))
                .expect(422)
                .problems())
        .contains("route.whom");
    assertThat(
            ines.put("/api/routes/" + scope, form(null, List.of(step("OWNER", null, 0))))
                .expect(422)
                .problems())
        .contains("route.days");
    assertThat(
            ines.put("/api/routes/" + scope, form(null, List.of(step("KING", null, 3)))).status())
        .isEqualTo(400);
    set(List.of(step("OWNER", null, 3)));
    assertThat(
            ines.put("/api/routes/" + scope, form(null, List.of(step("MANAGER", null, 3))))
                .expect(409)
                .body())
        .contains("changed this route meanwhile");
    assertThat(line(scope).path("steps").findValuesAsString("seat")).containsExactly("OWNER");
  }

  /** A step that depends on what is answered, told in words before and after. */
  @Test
  void aStepIsNeededWhereTheAnswersSaySo() {
    Map<String, Object> question = new HashMap<>();
    question.put("key", "amount");
    question.put("label", "How much?");
    question.put("help", "");
    question.put("required", true);
    question.put("kind", "NUMBER");
    question.put("choices", List.of());
    question.put("looksLike", "");
    question.put("shownWhen", "");
    Map<String, Object> asked =
        Map.of(
            "questions", List.of(question), "term", Map.of("choices", List.of(), "endless", true));
    Map<String, Object> setting = new HashMap<>();
    setting.put("base", null);
    setting.put("wanted", asked);
    setting.put("reason", "Refunds differ.");
    ines.put("/api/forms/" + scope, setting).expect(200);
    after.add(
        () ->
            ines.post(
                    "/api/forms/" + scope + "/clear",
                    Map.of(
                        "base",
                        ines.get("/api/forms/" + scope).expect(200).json().path("form"),
                        "reason",
                        "as before"))
                .expect(200));
    Map<String, Object> large = new HashMap<>(step("STEWARD", null, 5));
    large.put("onlyIf", "amount gt 500");
    Map<String, Object> wrong = new HashMap<>(large);
    wrong.put("onlyIf", "sum gt 500");
    List<Map<String, Object>> steps = List.of(step("MANAGER", null, 5), large);
    assertThat(
            ines.put("/api/routes/" + scope, form(null, List.of(steps.getFirst(), wrong)))
                .expect(422)
                .json()
                .at("/problems/0/field")
                .asString())
        .isEqualTo("steps.1.onlyIf");
    set(steps);
    JsonNode told = line(scope).path("steps");
    assertThat(told.at("/1/condition/words").asString()).isEqualTo("“How much?” is over 500");
    assertThat(told.at("/0/condition/shape").isNull()).isTrue();
    assertThat(oda.get("/api/askable/" + crewsheet).expect(200).json().at("/whom/0/steps"))
        .extracting(each -> each.path("as").asString() + " " + each.path("maybe").asBoolean())
        .containsExactly("manager false", "steward true");
    for (String amount : List.of("500", "501")) {
      Map<String, Object> form = new HashMap<>();
      form.put("entitlement", crewsheet);
      form.put("reason", "for the counter");
      form.put("answers", Map.of("amount", List.of(amount)));
      String id = oda.post("/api/requests", form).expect(200).json().path("result").asString();
      assertThat(lena.get("/api/requests/" + id).expect(200).json().at("/request/steps").size())
          .isEqualTo(amount.equals("500") ? 1 : 2);
      oda.post("/api/requests/" + id + "/withdraw", null).expect(200);
    }
    ines.post(
            "/api/routes/" + scope + "/clear",
            form(steps, List.of()).entrySet().stream()
                .filter(each -> !each.getKey().equals("steps"))
                .collect(java.util.stream.Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)))
        .expect(200);
  }

  /** In a draft it waits until it is published, and is told in words. */
  @Test
  void aDraftGathersIt() {
    String draft =
        ines.post("/api/drafts", Map.of("name", "Another way"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    after.add(() -> ines.delete("/api/drafts/" + draft));
    ines.gatherInto(draft);
    ines.put(
            "/api/routes/" + scope,
            form(null, List.of(step("ANY_OF", seed.desk().value(), 1), step("OWNER", null, 3))))
        .expect(200);
    ines.gatherInto(null);
    assertThat(line(scope).path("set").asBoolean()).isFalse();
    assertThat(ines.get("/api/drafts/" + draft).expect(200).body())
        .contains("ROUTE", "requests for Crewsheet · Viewer")
        .contains("anyone in “Refund desk” (1 day), then owner of the app (3 days)");
  }
}
