package eleutheria.server.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Naming who decides for somebody, and deciding for them, over HTTP. */
class DeputiesTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor oda = server.signedIn("oda");
  private final Visitor lena = server.signedIn("lena");
  private final Visitor ines = server.signedIn("ines");
  private final Visitor nils = server.signedIn("nils");
  private final LocalDate today = LocalDate.now(ZoneId.of("Europe/Oslo"));
  private final List<Runnable> after = new ArrayList<>();

  @AfterEach
  void leaveNothing() {
    after.forEach(Runnable::run);
  }

  private String id(String userName) {
    return seed.person(userName).value().toString();
  }

  private String path(String person) {
    return "/api/people/" + id(person) + "/deputies";
  }

  private Map<String, Object> form(
      String deputy, @Nullable LocalDate from, LocalDate until, String... duties) {
    Map<String, Object> form = new HashMap<>();
    form.put("deputy", id(deputy));
    form.put("from", from == null ? null : from.toString());
    form.put("until", until.toString());
    form.put("duties", List.of(duties));
    return form;
  }

  private void named(Visitor who, String person, String deputy) {
    who.post(path(person), form(deputy, null, today.plusDays(3), "TEAM", "APPS")).expect(200);
    after.add(() -> ines.delete(path(person) + "/" + id(deputy)));
  }

  private String asks(Visitor who, String app) {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", seed.shop().role(app).value().toString());
    form.put("until", null);
    form.put("reason", "for the counter");
    String request =
        who.post("/api/requests", form)
            .expect(200)
            .json()
            .path("result")
            .asString()
            .replace("request:", "");
    after.addFirst(() -> who.post("/api/requests/" + request + "/withdraw", null));
    return request;
  }

  private static Visitor.Answer approves(Visitor who, String request, int step) {
    Map<String, Object> form = new HashMap<>();
    form.put("step", step);
    form.put("yes", true);
    form.put("until", null);
    form.put("note", "");
    form.put("accepted", List.of());
    return who.post("/api/requests/" + request + "/answer", form);
  }

  @Test
  void oneSeesWhomOneMayNameAndTheOtherSeesForWhom() {
    JsonNode before = lena.get(path("lena")).expect(200).json();
    assertThat(before.path("candidates").findValuesAsString("name"))
        .contains("Oda Brekke", "Ines Roth")
        .doesNotContain("Jonas Weir", "Lena Aho");
    assertThat(before.path("team").asBoolean()).isTrue();
    assertThat(before.path("apps").asBoolean()).isTrue();

    named(lena, "lena", "oda");
    JsonNode line = lena.get(path("lena")).expect(200).json().at("/deputies/0");
    assertThat(line.at("/who/name").asString()).isEqualTo("Oda Brekke");
    assertThat(line.path("until").asString()).isEqualTo(today.plusDays(3).toString());
    assertThat(line.path("begun").asBoolean()).isTrue();
    JsonNode hers = oda.get(path("oda")).expect(200).json();
    assertThat(hers.at("/standsInFor/0/who/name").asString()).isEqualTo("Lena Aho");
    assertThat(hers.path("team").asBoolean()).isFalse();
    // Either of the two ends it.
    oda.delete(path("lena") + "/" + id("oda")).expect(200);
    assertThat(lena.get(path("lena")).expect(200).json().path("deputies")).isEmpty();
    assertThat(oda.delete(path("lena") + "/" + id("oda")).status()).isEqualTo(404);
  }

  @Test
  void othersSeeAndDoNothing() {
    named(lena, "lena", "oda");
    // Maren may step in for one unit alone; Jonas reads everything.
    for (String userName : List.of("maren", "jonas", "nils")) {
      Visitor other = server.signedIn(userName);
      assertThat(other.get(path("lena")).status()).as(userName).isEqualTo(404);
      assertThat(other.post(path("lena"), form(userName, null, today, "TEAM")).status())
          .as(userName)
          .isEqualTo(404);
      assertThat(other.delete(path("lena") + "/" + id("oda")).status()).as(userName).isEqualTo(404);
    }
    assertThat(server.nobody().get(path("lena")).status()).isEqualTo(401);
    assertThat(ines.get("/api/people/" + UUID.randomUUID() + "/deputies").status()).isEqualTo(404);
    assertThat(lena.get(path("lena")).expect(200).json().path("deputies")).hasSize(1);
  }

  @Test
  void whatMakesNoSenseIsRefusedAndNothingChanges() {
    for (Map<String, Object> wrong :
        List.of(
            form("jonas", null, today, "TEAM"),
            form("lena", null, today, "TEAM"),
            form("oda", today.minusDays(1), today, "TEAM"),
            form("oda", today.plusDays(2), today.plusDays(1), "TEAM"),
            form("oda", null, today.plusDays(400), "TEAM"),
            form("oda", null, LocalDate.of(9999, 12, 31), "TEAM"),
            form("oda", null, today))) {
      int status = lena.post(path("lena"), wrong).status();
      assertThat(status).as("%s", wrong).isIn(400, 403, 422);
    }
    Map<String, Object> unknown = form("oda", null, today, "EVERYTHING");
    assertThat(lena.post(path("lena"), unknown).status()).isEqualTo(400);
    Map<String, Object> nothing = form("oda", null, today, "TEAM");
    nothing.put("duties", null);
    assertThat(lena.post(path("lena"), nothing).status()).isEqualTo(400);
    assertThat(ines.post(path("lena"), form("ines", null, today, "TEAM")).status())
        .as("an administrator does not name themselves")
        .isEqualTo(403);
    assertThat(lena.get(path("lena")).expect(200).json().path("deputies")).isEmpty();
  }

  @Test
  void theDeputyFindsItOnTheDocketDecidesItAndItSaysForWhom() {
    named(ines, "lena", "nils");
    String request = asks(oda, "Farebox");
    // Lena manages Oda and owns Farebox; Nils has no part in it but this.
    assertThat(nils.get("/api/session").expect(200).json().at("/signed/decides").asBoolean())
        .isTrue();
    JsonNode line = onDocket(nils, request);
    assertThat(line.path("mine").asBoolean()).isTrue();
    assertThat(line.path("behalf").asString()).isEqualTo("Lena Aho");
    JsonNode shown = nils.get("/api/requests/" + request).expect(200).json();
    assertThat(shown.path("behalf").asString()).isEqualTo("Lena Aho");
    assertThat(shown.path("evidence").asBoolean()).isTrue();
    assertThat(shown.at("/request/steps/0/deputies/0/name").asString()).isEqualTo("Nils Sand");
    assertThat(shown.at("/request/steps/0/deputies/0/of").asString()).isEqualTo("Lena Aho");
    JsonNode thread = nils.get("/api/requests/" + request + "/thread").expect(200).json();
    assertThat(thread.path("mayAsk").asBoolean()).isTrue();
    assertThat(thread.path("passOn")).as("a deputy passes nothing on").isEmpty();

    approves(nils, request, 0).expect(200);
    this.after.addFirst(() -> nils.post("/api/requests/" + request + "/take-back", null));
    JsonNode after = oda.get("/api/my/requests").expect(200).json();
    String told = after.toString();
    assertThat(told).contains("\"by\":\"Nils Sand\",\"behalf\":\"Lena Aho\"");
    // Lena manages and owns, so her deputy has decided both as she would.
    assertThat(approves(nils, request, 1).status()).isEqualTo(409);
    assertThat(server.signedIn("jonas").get("/api/requests/" + request + "/thread").status())
        .isEqualTo(404);
  }

  @Test
  void whoIsNoDeputyAnyMoreReadsNothingMore() {
    named(ines, "lena", "nils");
    String request = asks(oda, "Tide Table");
    assertThat(nils.get("/api/requests/" + request).status()).isEqualTo(200);
    nils.delete(path("lena") + "/" + id("nils")).expect(200);
    assertThat(nils.get("/api/requests/" + request).status()).isEqualTo(404);
    assertThat(approves(nils, request, 0).status()).isIn(403, 404);
  }

  @Test
  void bothAreToldByMailAndTheLedgerSaysIt() {
    named(ines, "lena", "nils");
    DSLContext db = server.context().getBean(DSLContext.class);
    List<String> tales =
        db
            .fetchValues(
                "select tale from outbox where kind = 'deputy' and person_id in (uuid_to_bin_of(?), uuid_to_bin_of(?)) order by id desc limit 2"
                    .replace("uuid_to_bin_of(?)", "unhex(replace(?, '-', ''))"),
                id("lena"),
                id("nils"))
            .stream()
            .map(String::valueOf)
            .toList();
    assertThat(tales).containsExactlyInAnyOrder("deputy", "given");
    assertThat(ines.get("/api/ledger?act=DEPUTY_NAME").expect(200).body())
        .contains("DEPUTY_NAME", "Nils Sand");
  }

  private JsonNode onDocket(Visitor who, String request) {
    for (JsonNode fold : who.get("/api/docket").expect(200).json().path("folds")) {
      for (JsonNode one : fold.path("cases")) {
        if (one.path("id").asString().equals(request)) {
          return one;
        }
      }
    }
    throw new AssertionError("not on the docket: " + request);
  }
}
