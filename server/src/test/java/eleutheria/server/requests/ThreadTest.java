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
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is said about a request, asking back, and deciding many at once, over HTTP. */
class ThreadTest {
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor oda = server.signedIn("oda");
  private final Visitor lena = server.signedIn("lena");
  private final List<Runnable> after = new ArrayList<>();

  @AfterEach
  void leaveNothingOpen() {
    after.forEach(Runnable::run);
  }

  private String ask(Visitor who, String app) {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", seed.shop().role(app).value().toString());
    form.put("until", null);
    form.put("reason", "for the counter");
    String id =
        who.post("/api/requests", form)
            .expect(200)
            .json()
            .path("result")
            .asString()
            .replace("request:", "");
    after.add(() -> who.post("/api/requests/" + id + "/withdraw", null));
    return id;
  }

  private static Visitor.Answer write(Visitor who, String id, String text, boolean asks) {
    return who.post("/api/requests/" + id + "/thread", Map.of("text", text, "asks", asks));
  }

  private static JsonNode thread(Visitor who, String id) {
    return who.get("/api/requests/" + id + "/thread").expect(200).json();
  }

  private static String stage(Visitor who, String id) {
    return who.get("/api/requests/" + id).expect(200).json().at("/request/stage").asString();
  }

  private static List<String> texts(JsonNode thread) {
    return thread.path("messages").findValuesAsString("text");
  }

  @Test
  void whoDecidesAsksAndWhoAskedAnswersBothSeeItRead() throws Exception {
    String id = ask(oda, "Farebox");
    BlockingQueue<String> heard = oda.listen("/api/stream");
    write(lena, id, "Which till?", true).expect(200);
    assertThat(stage(lena, id)).isEqualTo("asked_back");
    // The asker's browser is told, and shows whose answer is wanted.
    String event = heard.poll(10, TimeUnit.SECONDS);
    while (event != null && !event.contains("requests")) {
      event = heard.poll(10, TimeUnit.SECONDS);
    }
    assertThat(event).contains("requests");
    JsonNode mine = thread(oda, id);
    assertThat(mine.at("/waits/mine").asBoolean()).isTrue();
    assertThat(mine.at("/waits/by").asString()).isEqualTo("Lena Aho");
    assertThat(mine.path("mayAsk").asBoolean()).isFalse();
    assertThat(mine.at("/messages/0/kind").asString()).isEqualTo("ASKED");
    assertThat(mine.at("/messages/0/readBy")).isEmpty();
    oda.put("/api/requests/" + id + "/thread/read", Map.of("messages", 1)).expect(200);
    JsonNode hers = thread(lena, id);
    assertThat(hers.at("/messages/0/readBy/0").asString()).isEqualTo("Oda Brekke");
    assertThat(hers.path("mayWithdraw").asBoolean()).isTrue();
    write(oda, id, "The second one, on Harrow Quay.", false).expect(200);
    assertThat(stage(lena, id)).isEqualTo("waiting");
    hers = thread(lena, id);
    assertThat(hers.path("waits").isNull()).isTrue();
    assertThat(hers.at("/messages/1/kind").asString()).isEqualTo("ANSWERED");
    assertThat(hers.at("/messages/1/part").asString()).isEqualTo("asker");
    assertThat(hers.at("/people/0").asString()).isEqualTo("Oda Brekke");
    // How far somebody has read goes forwards only, and not beyond what there is.
    lena.put("/api/requests/" + id + "/thread/read", Map.of("messages", 400)).expect(200);
    lena.put("/api/requests/" + id + "/thread/read", Map.of("messages", 0)).expect(200);
    assertThat(thread(oda, id).at("/messages/1/readBy/0").asString()).isEqualTo("Lena Aho");
  }

  @Test
  void whatIsWrittenStandsInTheThreadAndNotInTheLedger() {
    String id = ask(oda, "Farebox");
    write(lena, id, "Said between us alone.", false).expect(200);
    Visitor ines = server.signedIn("ines");
    assertThat(ines.get("/api/ledger?act=REQUEST_SAY").expect(200).body())
        .contains("REQUEST_SAY")
        .doesNotContain("Said between us alone.");
  }

  @Test
  void whoHasNoPartInItFindsNothing() {
    String id = ask(oda, "Farebox");
    write(lena, id, "Which till?", true).expect(200);
    // Jonas reads all holdings and the ledger; that is no part in it. Nils has none at all.
    for (String userName : List.of("jonas", "nils.desk")) {
      Visitor other = server.signedIn(userName);
      String path = "/api/requests/" + id;
      assertThat(other.get(path + "/thread").status()).as(userName).isEqualTo(404);
      assertThat(write(other, id, "Hello", false).status()).as(userName).isEqualTo(404);
      assertThat(write(other, id, "Hello?", true).status()).as(userName).isEqualTo(404);
      assertThat(other.put(path + "/thread/read", Map.of("messages", 1)).status())
          .as(userName)
          .isEqualTo(404);
      assertThat(other.delete(path + "/question").status()).as(userName).isEqualTo(404);
      assertThat(passOn(other, id, idOf("ines")).status()).as(userName).isEqualTo(404);
    }
    assertThat(texts(thread(oda, id))).containsExactly("Which till?");
  }

  private String idOf(String name) {
    return seed.person(name).value().toString();
  }

  private static Visitor.Answer passOn(Visitor who, String id, String to) {
    return who.post(
        "/api/requests/" + id + "/pass-on", Map.of("to", to, "text", "You know the till better."));
  }

  @Test
  void aStepIsPassedOnToOneOfThosePeopleWhoAreNamedAndLiesOnTheirDocket() {
    String id = ask(oda, "Farebox");
    Visitor ines = server.signedIn("ines");
    assertThat(thread(oda, id).path("passOn")).isEmpty();
    JsonNode may = thread(lena, id).path("passOn");
    assertThat(may.findValuesAsString("name")).contains("Ines Roth").doesNotContain("Oda Brekke");
    // To nobody else, whoever it may be: no person is found by trying ids.
    for (String other : List.of(idOf("oda"), idOf("lena"), idOf("jonas"), id)) {
      Visitor.Answer refused = passOn(lena, id, other);
      assertThat(refused.status()).isEqualTo(422);
      assertThat(refused.body()).contains("It cannot be passed on to this person.");
    }
    assertThat(passOn(oda, id, idOf("ines")).status()).isEqualTo(403);
    Map<String, Object> nobody = new HashMap<>();
    nobody.put("to", null);
    nobody.put("text", "Yours.");
    assertThat(lena.post("/api/requests/" + id + "/pass-on", nobody).status()).isEqualTo(400);
    assertThat(thread(lena, id).path("messages")).isEmpty();

    passOn(lena, id, idOf("ines")).expect(200);
    JsonNode hers = thread(ines, id);
    assertThat(hers.at("/messages/0/kind").asString()).isEqualTo("PASSED");
    assertThat(hers.at("/messages/0/to").asString()).isEqualTo("Ines Roth");
    assertThat(ines.get("/api/docket").expect(200).body()).contains(id);
    assertThat(lena.get("/api/docket").expect(200).body()).doesNotContain(id);
    JsonNode steps = oda.get("/api/requests/" + id).expect(200).json().at("/request/steps");
    assertThat(steps.at("/0/as").asString()).isEqualTo("passed_on");
    assertThat(steps.at("/0/people/0").asString()).isEqualTo("Ines Roth");
    assertThat(passOn(lena, id, idOf("ines")).status()).isEqualTo(403);
    // She sees what becomes of it, without the evidence: that is for whoever decides.
    JsonNode still = lena.get("/api/requests/" + id).expect(200).json();
    assertThat(still.path("evidence").asBoolean()).isFalse();
    assertThat(still.path("holds")).isEmpty();
    // Neither the words nor whom it was for come to the ledger's reason.
    assertThat(server.signedIn("jonas").get("/api/ledger").expect(200).body())
        .contains("REQUEST_PASS_ON")
        .doesNotContain("You know the till better.");
    passOn(ines, id, idOf("lena")).expect(200);
    assertThat(lena.get("/api/docket").expect(200).body()).contains(id);
  }

  @Test
  void hostileWordsAreWordsAndTooManyAreRefused() {
    String id = ask(oda, "Farebox");
    String script = "<script>alert(1)</script> =HYPERLINK(\"x\") ' -- ";
    write(oda, id, script, false).expect(200);
    assertThat(texts(thread(lena, id))).containsExactly(script.strip());
    assertThat(write(oda, id, " ", false).expect(422).problems()).containsOnly("request.no-text");
    // What reverses the direction of text could make words say something else.
    assertThat(write(oda, id, "a\u202eb", false).expect(422).problems())
        .containsOnly("hidden-characters");
    assertThat(write(oda, id, "x".repeat(2001), false).expect(422).problems())
        .containsOnly("too-long");
    assertThat(write(oda, id, "x".repeat(1 << 20), false).status()).isIn(400, 413);
    assertThat(write(oda, id, "Why me?", true).expect(403).problems())
        .containsOnly("request.not-yours");
    assertThat(oda.put("/api/requests/" + id + "/thread/read", Map.of("messages", -1)).status())
        .isEqualTo(400);
    assertThat(texts(thread(lena, id))).hasSize(1);
  }

  @Test
  void onlyWhoAskedWithdrawsTheQuestion() {
    String id = ask(oda, "Farebox");
    write(lena, id, "Which till?", true).expect(200);
    Visitor ines = server.signedIn("ines");
    assertThat(ines.delete("/api/requests/" + id + "/question").expect(403).problems())
        .containsOnly("request.not-asked");
    assertThat(write(ines, id, "And why?", true).expect(422).problems())
        .containsOnly("request.asked-back");
    lena.delete("/api/requests/" + id + "/question").expect(200);
    assertThat(stage(lena, id)).isEqualTo("waiting");
    assertThat(lena.delete("/api/requests/" + id + "/question").status()).isEqualTo(409);
  }

  /**
   * Nobody answers: once its time comes, the clock goes on, also after it was decided elsewhere.
   */
  @Test
  void theClockGoesOnByItself() {
    String id = ask(oda, "Farebox");
    write(lena, id, "Which till?", true).expect(200);
    DSLContext db = server.context().getBean(DSLContext.class);
    byte[] key = bytes(id);
    db.execute(
        "update access_request set goes_on_at = utc_timestamp(6) - interval 1 second,"
            + " lapses_at = utc_timestamp(6) + interval 3 day where id = ?",
        key);
    db.execute(
        "update due set due_at = utc_timestamp(6) where kind = 'request-go-on' and subject = ?",
        id);
    Visitor.until("the clock goes on", () -> stage(lena, id).equals("waiting"));
    // What is left of its time is what was left.
    Long left =
        db.fetchValue(
                    "select timestampdiff(hour, utc_timestamp(6), lapses_at) from access_request"
                        + " where id = ?",
                    (Object) key)
                instanceof Number hours
            ? hours.longValue()
            : null;
    assertThat(left).isBetween(70L, 72L);
    assertThat(texts(thread(oda, id))).containsExactly("Which till?");
  }

  /**
   * However much is written, each reminder is sent once; who decides gets it, and the ledger says
   * it.
   */
  @Test
  void whoDecidesIsRemindedOnce() {
    String id = ask(oda, "Farebox");
    for (String text : List.of("One.", "Two.", "Three.")) {
      write(oda, id, text, false).expect(200);
    }
    DSLContext db = server.context().getBean(DSLContext.class);
    assertThat(count(db, "due where kind = 'request-remind' and subject = ?", id)).isEqualTo(2);
    // Seven days before it lapses is now.
    db.execute(
        "update access_request set lapses_at = timestampadd(day, 7, (select min(due_at) from due"
            + " where kind = 'request-remind' and subject = ?) - interval 7 day) where id = ?",
        id,
        bytes(id));
    db.execute(
        "update due set due_at = due_at - interval 7 day where kind = 'request-remind' and"
            + " subject = ? order by due_at limit 1",
        id);
    String reminded = "outbox where tale = 'remind' and hex(subject_id) = ?";
    String hex = id.replace("-", "").toUpperCase(java.util.Locale.ROOT);
    Visitor.until("it is reminded of", () -> count(db, reminded, hex) > 0);
    assertThat(count(db, reminded, hex)).as("Lena manages and owns").isEqualTo(1);
    assertThat(stage(lena, id)).isEqualTo("waiting");
    assertThat(server.signedIn("ines").get("/api/ledger?act=REQUEST_REMIND").expect(200).body())
        .contains("REQUEST_REMIND");
  }

  private static int count(DSLContext db, String of, String value) {
    return ((Number) db.fetchValue("select count(*) from " + of, value)).intValue();
  }

  private static byte[] bytes(String id) {
    UUID uuid = UUID.fromString(id);
    return java.nio.ByteBuffer.allocate(16)
        .putLong(uuid.getMostSignificantBits())
        .putLong(uuid.getLeastSignificantBits())
        .array();
  }

  @Test
  void aDecisionWithoutAnAnswerIsTakenBackToTheQuestion() {
    String id = ask(oda, "Farebox");
    write(lena, id, "Which till?", true).expect(200);
    lena.post(
            "/api/requests/" + id + "/answer",
            Map.of("step", 0, "yes", false, "note", "not needed"))
        .expect(200);
    assertThat(stage(lena, id)).isEqualTo("refused");
    assertThat(write(oda, id, "But I do", false).status()).isEqualTo(409);
    lena.post("/api/requests/" + id + "/take-back", null).expect(200);
    assertThat(stage(lena, id)).isEqualTo("asked_back");
    assertThat(thread(oda, id).at("/waits/by").asString()).isEqualTo("Lena Aho");
  }

  @Test
  void writtenTwiceWithOneKeyItStandsOnce() {
    String id = ask(oda, "Farebox");
    Map<String, Object> word = Map.of("text", "Once", "asks", false);
    String key = UUID.randomUUID().toString();
    for (int i = 0; i < 2; i++) {
      oda.send("POST", "/api/requests/" + id + "/thread", word, key).expect(200);
    }
    assertThat(texts(thread(oda, id))).containsExactly("Once");
  }

  // ---- many at once

  private static Map<String, Object> answers(List<String> requests, boolean yes) {
    return Map.of(
        "requests", requests, "answer", Map.of("step", 0, "yes", yes, "note", "all of them"));
  }

  @Test
  void alikeOnesAreDecidedInOneRequestEachWithItsOwnOutcome() {
    String farebox = ask(oda, "Farebox");
    String crewsheet = ask(oda, "Crewsheet");
    String foreign = ask(lena, "Crewsheet");
    String nothing = UUID.randomUUID().toString();
    String key = UUID.randomUUID().toString();
    List<String> all = List.of(farebox, foreign, nothing, crewsheet, farebox);
    JsonNode first =
        lena.send("POST", "/api/requests/answers", answers(all, false), key).expect(200).json();
    JsonNode lines = first.path("lines");
    assertThat(lines.findValuesAsString("request"))
        .containsExactly(farebox, foreign, nothing, crewsheet);
    assertThat(lines.path(0).path("problems")).isEmpty();
    assertThat(lines.path(1).at("/problems/0/code").asString()).isEqualTo("request.own");
    assertThat(lines.path(2).at("/problems/0/code").asString()).isEqualTo("absent");
    assertThat(lines.path(3).path("position").asLong())
        .isGreaterThan(lines.path(0).path("position").asLong());
    // Sent again, it is the same.
    assertThat(
            lena.send("POST", "/api/requests/answers", answers(all, false), key).expect(200).json())
        .isEqualTo(first);
    assertThat(stage(lena, foreign)).isEqualTo("waiting");
    JsonNode back =
        lena.post("/api/requests/take-backs", Map.of("requests", List.of(farebox, crewsheet)))
            .expect(200)
            .json();
    assertThat(back.findValues("position")).allMatch(one -> one.asLong() > 0);
    assertThat(stage(lena, farebox)).isEqualTo("waiting");
    assertThat(stage(lena, crewsheet)).isEqualTo("waiting");
  }

  @Test
  void nobodyDecidesForOthersByNamingMany() {
    String farebox = ask(oda, "Farebox");
    Visitor jonas = server.signedIn("jonas");
    JsonNode line =
        jonas
            .post("/api/requests/answers", answers(List.of(farebox), true))
            .expect(200)
            .json()
            .path("lines")
            .path(0);
    assertThat(line.path("position").isNull()).isTrue();
    assertThat(line.at("/problems/0/code").asString()).isEqualTo("request.not-yours");
    assertThat(stage(lena, farebox)).isEqualTo("waiting");
    assertThat(lena.post("/api/requests/answers", answers(List.of(), true)).status())
        .isEqualTo(400);
    List<String> many = new ArrayList<>();
    for (int i = 0; i <= 1000; i++) {
      many.add(UUID.randomUUID().toString());
    }
    assertThat(lena.post("/api/requests/answers", answers(many, true)).status()).isEqualTo(400);
  }
}
