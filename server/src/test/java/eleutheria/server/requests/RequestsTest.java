package eleutheria.server.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Asking and deciding over HTTP; a decision can be taken back for a second here. */
class RequestsTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor oda = server.signedIn("oda");
  private final Visitor lena = server.signedIn("lena");
  private final List<Runnable> after = new ArrayList<>();

  @AfterEach
  void leaveNothingOpen() {
    after.forEach(Runnable::run);
  }

  private String role(String app) {
    return seed.shop().role(app).value().toString();
  }

  private static Map<String, Object> form(String role, @Nullable LocalDate until) {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", role);
    form.put("until", until);
    form.put("reason", "for the counter");
    return form;
  }

  private String ask(Visitor who, String app, @Nullable LocalDate until) {
    String id =
        who.post("/api/requests", form(role(app), until))
            .expect(200)
            .json()
            .path("result")
            .asString()
            .replace("request:", "");
    after.add(
        () -> {
          who.post("/api/requests/" + id + "/withdraw", null);
          endAll(app);
        });
    return id;
  }

  private String id(String userName) {
    return server.seed().person(userName).value().toString();
  }

  /** Whatever was given on request is ended again, so that tests do not meet. */
  private void endAll(String app) {
    Visitor ines = server.signedIn("ines");
    for (JsonNode grant : ines.get("/api/entitlements/" + role(app)).json().path("grants")) {
      if (grant.path("source").asString().equals("request")) {
        ines.post(
            "/api/grants/end",
            Map.of(
                "grants",
                List.of(grant.path("id").asString()),
                "memberships",
                List.of(),
                "reason",
                "after a test"));
      }
    }
  }

  private static Visitor.Answer decide(Visitor who, String id, int step, boolean yes) {
    return who.post(
        "/api/requests/" + id + "/answer", Map.of("step", step, "yes", yes, "note", "a word"));
  }

  private static boolean onDocket(Visitor who, String id) {
    return who.get("/api/docket").expect(200).body().contains(id);
  }

  private static boolean shows(Visitor who, String tile, boolean offered) {
    for (JsonNode section : who.get("/api/front").json().path("page").path("sections")) {
      for (JsonNode one : section.path("tiles")) {
        if (one.path("name").asString().equals(tile) && one.path("offered").isNull() != offered) {
          return true;
        }
      }
    }
    return false;
  }

  private static String stage(Visitor who, String id) {
    return who.get("/api/requests/" + id)
        .expect(200)
        .json()
        .path("request")
        .path("stage")
        .asString();
  }

  @Test
  void figuresAreOfWhatOneMayDecideOnSomeoneElsesBehalf() {
    ask(oda, "Tide Table", null);
    // Nils is led by nobody and works on deck; Maren steps in for Ticketing alone.
    Visitor nils = server.signedIn("nils");
    ask(nils, "Farebox", null);
    JsonNode all = server.signedIn("ines").get("/api/requests/figures").expect(200).json();
    JsonNode some = server.signedIn("maren").get("/api/requests/figures").expect(200).json();
    assertThat(sum(some)).isPositive().isLessThan(sum(all));
    assertThat(some.path("deciders").toString()).contains("Lena Aho");
    assertThat(all.at("/deciders/0/waiting").asInt()).isPositive();
    for (String userName : List.of("oda", "lena", "jonas")) {
      assertThat(server.signedIn(userName).get("/api/requests/figures").status())
          .as(userName)
          .isEqualTo(403);
    }
    for (String days : List.of("0", "-1", "731", "x", "99999999999")) {
      assertThat(server.signedIn("ines").get("/api/requests/figures?days=" + days).status())
          .as(days)
          .isIn(400, 422);
    }
  }

  private static int sum(JsonNode figures) {
    int sum = 0;
    for (JsonNode one : figures.path("open")) {
      sum += one.asInt();
    }
    return sum;
  }

  private JsonNode askable(String app) {
    return oda.get("/api/askable/" + role(app)).expect(200).json();
  }

  @Test
  void whoAsksSeesHowLongItTookOnceFiveWereDecidedAndWhatTheySaidBefore() {
    for (int i = 0; i < 5; i++) {
      String id = ask(oda, "Tide Table", null);
      decide(lena, id, 0, false).expect(200);
    }
    JsonNode pace = askable("Tide Table").path("pace");
    assertThat(pace.path("decided").asInt()).isGreaterThanOrEqualTo(5);
    assertThat(pace.path("halfMinutes").asInt()).isBetween(0, 5);
    assertThat(askable("Tide Table").path("earlier").asString()).isEqualTo("for the counter");
    // What waits is not decided.
    String id = ask(oda, "Farebox", LocalDate.now().plusDays(20));
    int before = askable("Farebox").at("/pace/decided").asInt(0);
    decide(lena, id, 0, true).expect(200);
    int after = askable("Farebox").at("/pace/decided").asInt(0);
    assertThat(after == before + 1 || (before == 0 && after <= 5)).isTrue();
    assertThat(askable("Farebox").path("earlier").asString()).isEqualTo("for the counter");
    // Nobody else’s words.
    assertThat(
            server
                .signedIn("jonas")
                .get("/api/askable/" + role("Farebox"))
                .expect(200)
                .json()
                .path("earlier")
                .asString())
        .isEmpty();
  }

  @Test
  void askedDecidedByWhoManagesAndOwnsAndThereInTheOpenBrowser() throws Exception {
    assertThat(shows(oda, "Farebox", true)).as("offered").isTrue();
    BlockingQueue<String> heard = oda.listen("/api/stream");
    assertThat(heard.poll(10, TimeUnit.SECONDS)).contains("hello");
    String id = ask(oda, "Farebox", null);
    Visitor.until("on Lena's docket", () -> onDocket(lena, id));
    JsonNode evidence = lena.get("/api/requests/" + id).expect(200).json();
    assertThat(evidence.path("mine").asBoolean()).isTrue();
    assertThat(evidence.path("tiles").path(0).asString()).isEqualTo("Farebox");
    assertThat(evidence.path("request").path("steps")).as("one step").hasSize(1);
    decide(lena, id, 0, true).expect(200);
    assertThat(shows(oda, "Farebox", false)).as("it can still be taken back").isFalse();
    List<String> topics = new ArrayList<>();
    Visitor.until(
        "told of the front page",
        () -> {
          heard.drainTo(topics);
          return shows(oda, "Farebox", false) && topics.stream().anyMatch(t -> t.contains("front"));
        });
    assertThat(
            oda.get("/go/" + seed.shop().tile("Farebox").value())
                .expect(302)
                .response()
                .headers()
                .firstValue("Location"))
        .contains("https://farebox.x.example/");
    assertThat(onDocket(lena, id)).isFalse();
  }

  @Test
  void twoStepsAndTwoDecidersAtOnce() throws Exception {
    String id = ask(oda, "Crewsheet", LocalDate.now().plusDays(20));
    Visitor nils = server.signedIn("nils");
    Visitor jonas = server.signedIn("jonas");
    assertThat(decide(nils, id, 1, true).expect(409).body()).contains("step before is not decided");
    assertThat(decide(nils, id, 0, true).expect(403).problems()).contains("request.not-yours");
    decide(lena, id, 0, true).expect(200);
    Visitor.until("on the owners' docket", () -> onDocket(nils, id) && onDocket(jonas, id));
    List<Visitor.Answer> answers = new ArrayList<>();
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Callable<Visitor.Answer>> both =
          List.of(() -> decide(nils, id, 1, true), () -> decide(jonas, id, 1, false));
      for (Future<Visitor.Answer> each : pool.invokeAll(both)) {
        answers.add(each.get());
      }
    }
    assertThat(answers.stream().map(Visitor.Answer::status)).containsExactlyInAnyOrder(200, 409);
    Visitor.Answer late = answers.stream().filter(a -> a.status() == 409).findFirst().orElseThrow();
    assertThat(late.body())
        .containsPattern("(Nils Sand approved this|Jonas Weir refused this) at \\d\\d:\\d\\d");
  }

  @Test
  void whatWasHandedBackIsNotSaidToEndLater() {
    String role = OwnApp.open(server, "Handed back").role();
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", role);
    form.put("reason", "for June");
    form.put("until", LocalDate.now().plusDays(20).toString());
    String id = oda.post("/api/requests", form).expect(200).json().path("result").asString();
    decide(lena, id, 0, true).expect(200);
    Visitor jonas = server.signedIn("jonas");
    Visitor.until("on the owner's docket", () -> onDocket(jonas, id));
    decide(jonas, id, 1, true).expect(200);
    String path = "/api/my/holdings/" + role + "/hand-back";
    Visitor.until("it is held", () -> oda.get(path).status() == 200);
    assertThat(own(id).path("endedEarly").asBoolean()).isFalse();
    List<String> grants = new ArrayList<>();
    oda.get(path).json().path("grants").forEach(grant -> grants.add(grant.asString()));
    oda.post(path, Map.of("grants", grants, "groups", List.of())).expect(200);
    assertThat(own(id).path("endedEarly").asBoolean()).isTrue();
  }

  private JsonNode own(String id) {
    for (JsonNode one : oda.get("/api/my/requests").expect(200).json().path("requests")) {
      if (one.path("id").asString().equals(id)) {
        return one;
      }
    }
    throw new AssertionError("no request " + id);
  }

  @Test
  void whatARuleKeepsApartIsAnsweredWithTheYes() {
    Visitor ines = server.signedIn("ines");
    String one = OwnApp.open(server, "Apart").role();
    String other = OwnApp.open(server, "Asked").role();
    ines.post(
            "/api/entitlements/" + one + "/grants",
            Map.of(
                "subjects", List.of(Map.of("kind", "person", "id", id("oda"))), "reason", "has it"))
        .expect(200);
    String rule =
        ines.post(
                "/api/rules",
                Map.of(
                    "wanted",
                    Map.of(
                        "name",
                        "Apart " + UUID.randomUUID(),
                        "why",
                        "One checks the other.",
                        "sides",
                        Map.of("one", List.of(one), "other", List.of(other))),
                    "reason",
                    "tried"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    String id =
        oda.post("/api/requests", Map.of("entitlement", other, "reason", "for June"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    decide(lena, id, 0, true).expect(200);
    Visitor jonas = server.signedIn("jonas");
    Visitor.until("on the owner's docket", () -> onDocket(jonas, id));
    JsonNode apart = jonas.get("/api/requests/" + id).expect(200).json().path("apart");
    assertThat(apart).hasSize(1);
    assertThat(apart.at("/0/rule").asString()).isEqualTo(rule);
    assertThat(apart.at("/0/held/id").asString()).isEqualTo(one);
    assertThat(apart.at("/0/mayAccept").asBoolean()).isFalse();
    assertThat(decide(jonas, id, 1, true).expect(422).problems()).contains("conflict");
    Map<String, Object> answer = new HashMap<>();
    answer.put("step", 1);
    answer.put("yes", true);
    answer.put("note", "she counts nothing in June");
    String until = LocalDate.now().plusDays(30).toString();
    answer.put(
        "accepted", List.of(Map.of("rule", rule, "one", one, "other", other, "until", until)));
    assertThat(jonas.post("/api/requests/" + id + "/answer", answer).expect(403).problems())
        .contains("power");
    // Somebody who keeps rules decides in the owner's place, with this answer.
    ines.post("/api/requests/" + id + "/answer", answer).expect(200);
    ines.post("/api/requests/" + id + "/take-back", null).expect(200);
    JsonNode again = ines.get("/api/requests/" + id).expect(200).json().path("apart");
    assertThat(again.at("/0/acceptedUntil").isNull()).as("taken back with the yes").isTrue();
    ines.post("/api/requests/" + id + "/answer", answer).expect(200);
    Visitor.until(
        "held",
        () ->
            ines.get("/api/people/%s/holdings/%s".formatted(id("oda"), other))
                .json()
                .path("holds")
                .asBoolean());
    JsonNode breach = ines.get("/api/rules/" + rule).expect(200).json().path("breaches").path(0);
    assertThat(breach.path("acceptedUntil").isNull()).isFalse();
    ines.delete("/api/rules/" + rule + "?reason=over").expect(200);
  }

  @Test
  void takenBackNothingHasBegunAndTheCaseIsThereAgain() {
    String id = ask(oda, "Farebox", null);
    decide(lena, id, 0, true).expect(200);
    lena.post("/api/requests/" + id + "/take-back", null).expect(200);
    assertThat(stage(oda, id)).isEqualTo("waiting");
    assertThat(onDocket(lena, id)).isTrue();
    assertThat(shows(oda, "Farebox", false)).isFalse();
    // Once it has begun it is too late.
    decide(lena, id, 0, true).expect(200);
    Visitor.until("given", () -> shows(oda, "Farebox", false));
    assertThat(lena.post("/api/requests/" + id + "/take-back", null).expect(409).problems())
        .contains("changed-meanwhile");
  }

  @Test
  void nobodyDecidesOnTheirOwnAndAStewardDecidesForTheOnlyOwner() {
    String id = ask(oda, "Tide Table", null);
    decide(lena, id, 0, true).expect(200);
    Visitor ines = server.signedIn("ines");
    Visitor.until("on the steward's docket", () -> onDocket(ines, id));
    assertThat(decide(oda, id, 1, true).expect(403).problems()).contains("request.own");
    assertThat(onDocket(oda, id)).isFalse();
    decide(ines, id, 1, true).expect(200);
    assertThat(stage(oda, id)).isEqualTo("given");
  }

  @Test
  void withoutAManagerTheNextOneAboveDecides() {
    Visitor desk = server.signedIn("nils.desk");
    String id = ask(desk, "Farebox", null);
    // The manager has departed; theirs is Jonas.
    assertThat(onDocket(server.signedIn("jonas"), id)).isTrue();
    String alone = ask(server.signedIn("nils"), "Farebox", null);
    assertThat(onDocket(server.signedIn("ines"), alone)).isTrue();
  }

  @Test
  void aRefusalSaysWhyAndWithdrawingEndsIt() {
    String id = ask(oda, "Farebox", null);
    assertThat(
            lena.post("/api/requests/" + id + "/answer", Map.of("step", 0, "yes", false))
                .expect(422)
                .problems())
        .contains("request.no-word");
    decide(lena, id, 0, false).expect(200);
    assertThat(stage(oda, id)).isEqualTo("refused");
    String again = ask(oda, "Farebox", null);
    lena.post("/api/requests/" + again + "/withdraw", null).expect(404);
    oda.post("/api/requests/" + again + "/withdraw", null).expect(200);
    assertThat(decide(lena, again, 0, true).expect(409).body()).contains("withdrawn");
  }

  @Test
  void theAppIsPausedMeanwhile() {
    Visitor ines = server.signedIn("ines");
    String id = ask(oda, "Refund Bench", LocalDate.now().plusDays(30));
    String app =
        ines.get("/api/entitlements/" + role("Refund Bench"))
            .json()
            .path("entitlement")
            .path("app")
            .path("id")
            .asString();
    ines.put("/api/apps/" + app + "/state", Map.of("base", "OPEN", "state", "PAUSED")).expect(200);
    assertThat(lena.get("/api/requests/" + id).json().path("app").asString()).isEqualTo("paused");
    assertThat(
            oda.post("/api/requests", form(role("Refund Bench"), LocalDate.now().plusDays(3)))
                .status())
        .isEqualTo(422);
    ines.put("/api/apps/" + app + "/state", Map.of("base", "PAUSED", "state", "OPEN")).expect(200);
    decide(lena, id, 0, true).expect(200);
  }

  @Test
  void othersDoNotSeeItAndNonsenseChangesNothing() {
    String id = ask(oda, "Farebox", null);
    server.signedIn("nils").get("/api/requests/" + id).expect(404);
    oda.get("/api/requests/" + id).expect(200);
    server.signedIn("ines").get("/api/requests/" + id).expect(200);
    for (Object odd : List.of("BOSS", List.of(0))) {
      assertThat(
              lena.post(
                      "/api/requests/" + id + "/answer",
                      Map.of("step", odd, "yes", true, "note", "a word"))
                  .status())
          .as("step " + odd)
          .isEqualTo(400);
    }
    for (int none : new int[] {-1, 2, Integer.MAX_VALUE}) {
      assertThat(decide(lena, id, none, true).status()).as("step " + none).isEqualTo(409);
    }
    assertThat(oda.post("/api/requests", "{\"entitlement\":\"x\"}").status()).isEqualTo(400);
    assertThat(
            oda.post("/api/requests", form("00000000-0000-7000-8000-00000000ffff", null)).status())
        .isEqualTo(404);
    assertThat(oda.post("/api/requests", form(role("Farebox"), null)).expect(422).problems())
        .contains("request.open");
    Map<String, Object> endless = form(role("Refund Bench"), null);
    assertThat(oda.post("/api/requests", endless).expect(422).problems())
        .contains("request.no-end");
    endless.put("reason", "x".repeat(5000));
    assertThat(oda.post("/api/requests", endless).status()).isIn(400, 422);
  }
}
