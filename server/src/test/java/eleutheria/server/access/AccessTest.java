package eleutheria.server.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Giving, ending, and seeing who holds what, over HTTP. */
class AccessTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");

  private String id(String userName) {
    return seed.person(userName).value().toString();
  }

  /** A role of its own for each test. */
  private String role(String app) {
    return OwnApp.open(server, app).role();
  }

  private static Map<String, Object> to(String kind, @Nullable String id, @Nullable String filter) {
    Map<String, Object> subject = new HashMap<>();
    subject.put("kind", kind);
    subject.put("id", id);
    subject.put("filter", filter);
    return subject;
  }

  @SafeVarargs
  private static Map<String, Object> giving(Map<String, Object>... subjects) {
    Map<String, Object> form = new HashMap<>();
    form.put("subjects", Arrays.asList(subjects));
    form.put("reason", "for the season");
    return form;
  }

  private static Map<String, Object> ending(List<String> grants, List<Object> memberships) {
    return Map.of("grants", grants, "memberships", memberships, "reason", "not needed");
  }

  private JsonNode holding(String userName, String role) {
    return ines.get("/api/people/" + id(userName) + "/holdings/" + role).expect(200).json();
  }

  private boolean holds(String userName, String role) {
    return holding(userName, role).path("holds").asBoolean();
  }

  @Test
  void whoGainsIsSeenBeforeAndAgreedToWithTheAct() {
    String role = role("Before");
    String path = "/api/entitlements/" + role + "/grants";
    Map<String, Object> ticketing = giving(to("filter", null, "unit eq \"Ticketing\""));
    JsonNode seen = foreseen(path, ticketing);
    JsonNode row = seen.path("moments").path(0).path("rows").path(0);
    assertThat(row.path("sign").asString()).isEqualTo("gain");
    assertThat(row.path("people").asInt()).isEqualTo(3);
    assertThat(seen.path("to").asInt()).isEqualTo(3);
    assertThat(row.path("named").path(0).path("displayed").asString()).isEqualTo("Lena Aho");
    assertThat(holds("oda", role)).as("nothing has happened").isFalse();
    // Someone else was quicker: what was seen is not what would happen.
    ines.post(path, giving(to("person", id("oda"), null))).expect(200);
    assertThat(
            ines.agree("POST", path, ticketing, seen.path("digest").asString())
                .expect(409)
                .problems())
        .contains("changed-meanwhile");
    assertThat(holds("lena", role)).isFalse();
    JsonNode again = foreseen(path, ticketing);
    assertThat(again.path("already").asInt()).isEqualTo(1);
    ines.agree("POST", path, ticketing, again.path("digest").asString()).expect(200);
    assertThat(holds("lena", role)).isTrue();
    JsonNode nobody = foreseen(path, giving(to("person", id("lena"), null)));
    assertThat(nobody.path("moments")).isEmpty();
    assertThat(nobody.path("already").asInt()).isEqualTo(1);
    // What is wrong is told ahead too, and a grant of a week tells its end.
    Map<String, Object> week = giving(to("person", id("nils"), null));
    week.put("until", LocalDate.now().plusDays(7).toString());
    JsonNode told = foreseen(path, week).path("moments");
    assertThat(told).hasSize(2);
    assertThat(told.path(1).path("rows").path(0).path("sign").asString()).isEqualTo("ends");
    week.put("until", LocalDate.now().minusDays(7).toString());
    assertThat(foreseen(path, week).path("problems").path(0).path("code").asString())
        .isEqualTo("grant.over");
  }

  private JsonNode foreseen(String path, Map<String, Object> form) {
    return ines.foresee("POST", path, form).expect(200).json().path("foreseen");
  }

  @Test
  void everyGroundIsNamedAndAHoldingEndsWithTheLast() {
    String role = role("Grounds");
    ines.post(
            "/api/groups/" + seed.desk().value() + "/members",
            Map.of("people", List.of(id("nils")), "groups", List.of()))
        .expect(200);
    Instant between = Instant.now();
    ines.post(
            "/api/entitlements/" + role + "/grants",
            giving(
                to("person", id("nils"), null),
                to("group", seed.desk().value().toString(), null),
                to("filter", null, "unit eq \"Deck crew\"")))
        .expect(200);
    JsonNode grounds = holding("nils", role).path("grounds");
    assertThat(grounds).hasSize(3);
    List<String> by = new ArrayList<>();
    grounds.forEach(ground -> by.add(ground.path("by").asString()));
    assertThat(by).containsExactlyInAnyOrder("person", "group", "filter");
    String own = null;
    for (JsonNode ground : grounds) {
      assertThat(ground.path("mayEndGrant").asBoolean()).isTrue();
      assertThat(ground.path("mayTakeOut").asBoolean())
          .isEqualTo(ground.path("by").asString().equals("group"));
      assertThat(ground.path("givenBy").asString()).isEqualTo("Ines Roth");
      assertThat(ground.path("reason").asString()).isEqualTo("for the season");
      own = ground.path("by").asString().equals("person") ? ground.path("grant").asString() : own;
    }
    List<Object> inDesk =
        List.of(
            Map.of(
                "group", seed.desk().value().toString(), "kind", "person", "member", id("nils")));
    JsonNode ways =
        ines.get("/api/people/%s/holdings/%s/ways-out".formatted(id("nils"), role))
            .expect(200)
            .json()
            .path("ways");
    Map<String, Integer> cuts = new TreeMap<>();
    for (JsonNode way : ways) {
      cuts.merge(way.path("cut").asString(), 1, Integer::sum);
      assertThat(way.path("enough").asBoolean()).as("two grounds are left").isFalse();
      assertThat(way.path("may").asBoolean())
          .isEqualTo(!way.path("cut").asString().equals("attributes"));
    }
    assertThat(cuts).isEqualTo(Map.of("grant", 3, "nearest_the_person", 1, "attributes", 1));
    JsonNode preview = foreseen("/api/grants/end", ending(List.of(own), inDesk)).path("moments");
    assertThat(preview).hasSize(1);
    assertThat(preview.path(0).path("counts").path("lose").asInt()).as("a ground is left").isZero();
    assertThat(preview.path(0).path("counts").path("keep").asInt()).isEqualTo(1);
    ines.post("/api/grants/end", ending(List.of(own), inDesk)).expect(200);
    JsonNode left = holding("nils", role);
    assertThat(left.path("holds").asBoolean()).isTrue();
    assertThat(left.path("grounds")).hasSize(1);
    JsonNode filter = left.path("grounds").path(0);
    assertThat(filter.path("matched").path("Unit").asString("")).isEqualTo("Deck crew");
    ines.post("/api/grants/end", ending(List.of(filter.path("grant").asString()), List.of()))
        .expect(200);
    assertThat(holds("nils", role)).isFalse();
    // As of a past moment it is as it was then.
    assertThat(
            ines.get(
                    "/api/people/%s/holdings/%s?asOf=%s"
                        .formatted(id("nils"), role, between.minusSeconds(3600)))
                .json()
                .path("grounds"))
        .isEmpty();
  }

  @Test
  void twoWhoEndTheSameGrantAtOnceOneIsToldWhoDidIt() throws Exception {
    String role = role("Two enders");
    ines.post("/api/entitlements/" + role + "/grants", giving(to("person", id("oda"), null)))
        .expect(200);
    String grant = holding("oda", role).path("grounds").path(0).path("grant").asString();
    Visitor other = server.signedIn("ines");
    List<Visitor.Answer> answers = new ArrayList<>();
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Callable<Visitor.Answer>> both =
          List.of(
              () -> ines.post("/api/grants/end", ending(List.of(grant), List.of())),
              () -> other.post("/api/grants/end", ending(List.of(grant), List.of())));
      for (Future<Visitor.Answer> each : pool.invokeAll(both)) {
        answers.add(each.get());
      }
    }
    assertThat(answers.stream().map(Visitor.Answer::status)).containsExactlyInAnyOrder(200, 409);
    Visitor.Answer late = answers.stream().filter(a -> a.status() == 409).findFirst().orElseThrow();
    assertThat(late.body()).contains("Ines Roth ended it already");
    assertThat(
            ines.get("/api/ledger?act=ACCESS_END&find=" + grant).expect(200).json().path("lines"))
        .isNotNull();
  }

  @Test
  void aRepeatOfTheSameActIsDoneOnce() {
    String role = role("Repeat");
    Map<String, Object> form = giving(to("person", id("oda"), null));
    long first =
        ines.send("POST", "/api/entitlements/" + role + "/grants", form, "a-repeat-key-1")
            .expect(200)
            .json()
            .path("position")
            .asLong();
    long second =
        ines.send("POST", "/api/entitlements/" + role + "/grants", form, "a-repeat-key-1")
            .expect(200)
            .json()
            .path("position")
            .asLong();
    assertThat(second).isEqualTo(first);
    assertThat(holding("oda", role).path("grounds")).hasSize(1);
  }

  @Test
  void powerReachesAsFarAsTheEffect() {
    String role = role("Reach");
    Visitor maren = server.signedIn("maren");
    assertThat(
            maren
                .post(
                    "/api/entitlements/" + role + "/grants",
                    giving(to("filter", null, "userName pr")))
                .expect(403)
                .problems())
        .contains("effect");
    assertThat(holds("nils", role)).isFalse();
    maren
        .post(
            "/api/entitlements/" + role + "/grants",
            giving(to("filter", null, "unit eq \"Ticketing\" and userName ne \"maren\"")))
        .expect(200);
    assertThat(holds("oda", role)).isTrue();
    // Nobody gains by their own act.
    assertThat(
            maren
                .post(
                    "/api/entitlements/" + role + "/grants",
                    giving(to("person", id("maren"), null)))
                .expect(403)
                .problems())
        .contains("own-gain");
    // The lead of a person sees what that person holds; a colleague does not.
    server.signedIn("lena").get("/api/people/" + id("oda") + "/holdings/" + role).expect(200);
    server.signedIn("nils").get("/api/people/" + id("oda") + "/holdings").expect(404);
    server.signedIn("oda").get("/api/people/" + id("oda") + "/holdings").expect(200);
  }

  @Test
  void whatMakesNoSenseChangesNothing() {
    String role = role("Hostile");
    long before = ines.get("/api/ledger").json().path("lines").path(0).path("position").asLong();
    String path = "/api/entitlements/" + role + "/grants";
    List<Map<String, Object>> wrong =
        List.of(
            giving(),
            giving(to("planet", id("oda"), null)),
            giving(to("person", "00000000-0000-7000-8000-00000000ffff", null)),
            giving(to("filter", null, "unit eq")),
            giving(to("filter", null, "x".repeat(9000))),
            giving(to("filter", null, "(".repeat(5000))));
    for (Map<String, Object> form : wrong) {
      assertThat(ines.post(path, form).status()).as(form.toString()).isIn(400, 404, 422);
    }
    for (String body :
        List.of("{", "[]", "{\"subjects\":null}", "{\"subjects\":[null]}", "1e999")) {
      assertThat(ines.post(path, body).status()).as(body).isIn(400, 422);
    }
    Map<String, Object> past = giving(to("person", id("oda"), null));
    past.put("until", LocalDate.now().minusYears(3).toString());
    assertThat(ines.post(path, past).expect(422).problems()).contains("grant.over");
    past.put("until", "+999999-01-01");
    assertThat(ines.post(path, past).status()).isIn(400, 422);
    ines.post("/api/grants/end", ending(List.of("not-a-uuid"), List.of())).expect(400);
    assertThat(ines.post("/api/grants/end", ending(List.of(), List.of())).expect(422).problems())
        .contains("grant.none");
    assertThat(ines.get("/api/ledger").json().path("lines").path(0).path("position").asLong())
        .isEqualTo(before);
  }
}
