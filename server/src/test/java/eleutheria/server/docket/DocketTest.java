package eleutheria.server.docket;

import static eleutheria.server.tables.Tables.OUTBOX;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The docket over HTTP: whose case it is, its evidence, and which mails it sends. */
class DocketTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor nils = server.signedIn("nils");
  private final Visitor ines = server.signedIn("ines");

  private String ask(Visitor who, String app) {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", seed.shop().role(app).value().toString());
    form.put("until", LocalDate.now().plusDays(40).toString());
    form.put("reason", "for the winter");
    return who.post("/api/requests", form).expect(200).json().path("result").asString();
  }

  /** What waits in the outbox or was sent about a request, by whom it goes to. */
  private List<String> mails(String request) {
    List<String> told = new ArrayList<>();
    server
        .context()
        .getBean(DSLContext.class)
        .selectFrom(OUTBOX)
        .where(OUTBOX.SUBJECT_ID.eq(UUID.fromString(request)))
        .orderBy(OUTBOX.ID)
        .fetch()
        .forEach(
            row ->
                told.add(
                    row.get(OUTBOX.TALE)
                        + " "
                        + ines.get("/api/people/" + row.get(OUTBOX.PERSON_ID))
                            .json()
                            .path("person")
                            .path("displayed")
                            .asString()));
    return told;
  }

  @Test
  void theEvidenceIsCountedExactly() {
    // Nils has no manager: a steward decides the first step.
    String id = ask(nils, "Tide Table");
    JsonNode found = ines.get("/api/requests/" + id).expect(200).json();
    assertThat(found.path("mine").asBoolean()).isTrue();
    assertThat(found.path("as").asString()).isEqualTo("steward");
    assertThat(found.path("manager").isNull()).isTrue();
    assertThat(found.path("person").path("displayed").asString()).isEqualTo("Nils Sand");
    assertThat(found.path("holdsNow").asBoolean()).isFalse();
    assertThat(found.path("tiles").path(0).asString()).isEqualTo("Tide Table");
    int people = 0;
    int holders = 0;
    for (JsonNode line : found.path("others")) {
      people += line.path("people").asInt();
      holders += line.path("holders").asInt();
    }
    // Seven of the nine are active.
    assertThat(people).isEqualTo(7);
    assertThat(holders)
        .isEqualTo(
            ines.get("/api/entitlements/" + seed.shop().role("Tide Table").value())
                .json()
                .path("holders")
                .asInt());
    assertThat(mails(id)).containsExactly("to_decide Ines Roth");
    nils.post("/api/requests/" + id + "/withdraw", null).expect(200);
  }

  @Test
  void aDecisionThatIsTakenBackSendsNoMail() {
    String id = ask(nils, "Farebox");
    JsonNode asked = request(id);
    ines.post(
            "/api/requests/" + id + "/answer", Map.of("step", 0, "yes", false, "note", "not yours"))
        .expect(200);
    assertThat(mails(id)).contains("refused Nils Sand");
    ines.post("/api/requests/" + id + "/take-back", null).expect(200);
    assertThat(mails(id)).containsExactly("to_decide Ines Roth");
    // By when it must be decided has not moved either.
    assertThat(request(id).path("lapses")).isEqualTo(asked.path("lapses"));
    nils.post("/api/requests/" + id + "/withdraw", null).expect(200);
    assertThat(ines.post("/api/requests/" + id + "/take-back", null).status()).isIn(403, 409);
  }

  private JsonNode request(String id) {
    return ines.get("/api/requests/" + id).expect(200).json().path("request");
  }

  @Test
  void aRequestIsFoundByItsNumberByWhoeverMayReadIt() {
    String id = ask(nils, "Farebox");
    String number = request(id).path("number").asString();
    String path = "/api/requests/numbered/" + number.replaceAll("\\D", "");
    assertThat(ines.get(path).expect(200).json().path("id").asString()).isEqualTo(id);
    assertThat(server.signedIn("lena").get(path).expect(200).json().path("person").asString())
        .isEqualTo("Nils Sand");
    // Whoever may not read it does not learn that it is there.
    List<Integer> found = new ArrayList<>();
    for (String name : List.of("oda", "nils", "maren", "jonas", "lena")) {
      Visitor visitor = server.signedIn(name);
      int read = visitor.get("/api/requests/" + id).status();
      assertThat(visitor.get(path).status()).as(name).isEqualTo(read);
      found.add(read);
    }
    assertThat(found).contains(200, 404);
    ines.get("/api/requests/numbered/999999").expect(404);
    ines.get("/api/requests/numbered/R-1").expect(400);
    server.nobody().get(path).expect(401);
    nils.post("/api/requests/" + id + "/withdraw", null).expect(200);
  }

  @Test
  void whoMayStepInSeesAllThatWaitsAndOthersTheirs() {
    Visitor oda = server.signedIn("oda");
    String id = ask(oda, "Crewsheet");
    JsonNode own = ines.get("/api/docket").expect(200).json();
    JsonNode all = ines.get("/api/docket?all=true").expect(200).json();
    assertThat(own.path("mayStepIn").asBoolean()).isTrue();
    assertThat(own.toString()).doesNotContain(id);
    assertThat(all.toString()).contains(id);
    assertThat(all.path("all").asInt()).isGreaterThan(own.path("forMe").asInt());
    Visitor lena = server.signedIn("lena");
    assertThat(lena.get("/api/docket?all=true").json().path("mayStepIn").asBoolean()).isFalse();
    assertThat(lena.get("/api/docket").body()).contains(id);
    assertThat(oda.get("/api/docket?all=true").body()).doesNotContain(id);
    oda.post("/api/requests/" + id + "/withdraw", null).expect(200);
  }
}
