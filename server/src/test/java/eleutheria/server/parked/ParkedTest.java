package eleutheria.server.parked;

import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.OUTBOX;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import eleutheria.server.writing.Later;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What fails holds up nothing else, and lies on the docket when it has been given up. */
class ParkedTest {
  /** Nobody is told of a suggestion that is not there, so the errand is done at once. */
  private static final String HARMLESS = "suggestion";

  /**
   * The draft that it tells of is not there, which is a fault of ours and not of the mail server.
   */
  private static final String POISON = "draft-each";

  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final DSLContext db = server.context().getBean(DSLContext.class);
  private final Visitor ines = server.signedIn("ines");

  private long errand(String kind, @Nullable UUID subject, int attempts, Instant next) {
    return db.insertInto(OUTBOX)
        .set(OUTBOX.POSITION, 1L)
        .set(OUTBOX.KIND, kind)
        .set(OUTBOX.PERSON_ID, seed.person("oda").value())
        .set(OUTBOX.SUBJECT_ID, subject)
        .set(OUTBOX.ATTEMPTS, attempts)
        .set(OUTBOX.NEXT_AT, next)
        .returning(OUTBOX.ID)
        .fetchSingle()
        .getId();
  }

  private long due(String kind, String subject, Instant at, int attempts) {
    return db.insertInto(DUE)
        .set(DUE.DUE_AT, at)
        .set(DUE.KIND, kind)
        .set(DUE.SUBJECT, subject)
        .set(DUE.POSITION, 1L)
        .set(DUE.ATTEMPTS, attempts)
        .returning(DUE.ID)
        .fetchSingle()
        .getId();
  }

  private boolean done(long errand) {
    return db.fetchExists(OUTBOX, OUTBOX.ID.eq(errand), OUTBOX.DONE_AT.isNotNull());
  }

  private @Nullable JsonNode onDocket(Visitor visitor, String id) {
    for (JsonNode fold : visitor.get("/api/docket").expect(200).json().path("folds")) {
      if (fold.at("/cases/0/id").asString().equals(id)) {
        assertThat(fold.path("cases").path(0).path("kind").asString()).isEqualTo("PARKED");
        return fold.at("/cases/0");
      }
    }
    return null;
  }

  @AfterEach
  void leaveNothingBehind() {
    db.deleteFrom(OUTBOX).where(OUTBOX.POSITION.eq(1L), OUTBOX.DONE_AT.isNull()).execute();
    db.deleteFrom(DUE).where(DUE.POSITION.eq(1L)).execute();
  }

  @Test
  void aPoisonousErrandInTheMiddleStopsNoOther() {
    Instant past = Instant.now().minusSeconds(60);
    UUID thing = UUID.randomUUID();
    long first = errand(HARMLESS, UUID.randomUUID(), 0, past);
    long poison = errand(POISON, thing, 0, past);
    long unknown = errand("newer", null, 0, past);
    long last = errand(HARMLESS, UUID.randomUUID(), 0, past);
    Visitor.until("the others are done", () -> done(first) && done(last));
    Visitor.until(
        "it has failed once",
        () -> db.fetchExists(OUTBOX, OUTBOX.ID.eq(poison), OUTBOX.ATTEMPTS.eq(1)));
    var failed = db.selectFrom(OUTBOX).where(OUTBOX.ID.eq(poison)).fetchSingle();
    assertThat(failed.getFailedAt()).isNull();
    assertThat(failed.getLastError()).isNotBlank();
    assertThat(Duration.between(Instant.now(), failed.getNextAt()))
        .isBetween(Duration.ofSeconds(-5), Duration.ofMillis(12_500));
    // What is told to the same person about the same thing waits for it; a newer node's is left.
    long behind = errand(HARMLESS, thing, 0, past);
    long other = errand(HARMLESS, UUID.randomUUID(), 0, past);
    Visitor.until("what came after is done", () -> done(other));
    assertThat(done(behind)).isFalse();
    assertThat(done(unknown)).isFalse();
    assertThat(db.fetchExists(OUTBOX, OUTBOX.ID.eq(unknown), OUTBOX.ATTEMPTS.eq(0))).isTrue();
  }

  @Test
  void afterTwelveTriesItLiesOnTheDocket() {
    Instant past = Instant.now().minusSeconds(60);
    UUID thing = UUID.randomUUID();
    long poison = errand(POISON, thing, 11, past);
    long behind = errand(HARMLESS, thing, 0, past);
    String id = "e" + poison;
    Visitor.until("it is given up, and what waited goes on", () -> done(behind));
    JsonNode line = onDocket(ines, id);
    assertThat(line).isNotNull();
    assertThat(line.at("/who/displayed").asString()).isEqualTo("Oda Brekke");
    assertThat(line.path("attempts").asInt()).isEqualTo(12);
    JsonNode told = ines.get("/api/parked/" + id).expect(200).json();
    assertThat(told.path("kind").asString()).isEqualTo(POISON);
    assertThat(told.path("error").asString()).isNotBlank();
    // Only who answers for all of it: it may be about anybody.
    for (String who : List.of("oda", "lena", "jonas", "maren")) {
      Visitor visitor = server.signedIn(who);
      assertThat(visitor.get("/api/parked/" + id).status()).as(who).isIn(403, 404);
      assertThat(visitor.post("/api/parked/" + id + "/retry", Map.of()).status())
          .as(who)
          .isIn(403, 404);
      assertThat(visitor.get("/api/docket").body()).as(who).doesNotContain("PARKED");
    }
    for (String wrong : List.of("e0", "c" + poison, "x1", "e99999999999999999999", "e1'--")) {
      assertThat(ines.get("/api/parked/" + wrong.replace("'", "%27")).status())
          .as(wrong)
          .isEqualTo(404);
    }

    // Tried again, it fails again, as if for the first time.
    ines.send("POST", "/api/parked/" + id + "/retry", null, "once more").expect(200);
    ines.send("POST", "/api/parked/" + id + "/retry", null, "once more").expect(200);
    assertThat(onDocket(ines, id)).isNull();
    Visitor.until(
        "it was tried", () -> db.fetchExists(OUTBOX, OUTBOX.ID.eq(poison), OUTBOX.ATTEMPTS.eq(1)));
    ines.post("/api/parked/" + id + "/drop", Map.of("reason", "too soon")).expect(404);

    db.update(OUTBOX)
        .set(OUTBOX.ATTEMPTS, 11)
        .set(OUTBOX.NEXT_AT, past)
        .where(OUTBOX.ID.eq(poison))
        .execute();
    Visitor.until("it is given up again", () -> onDocket(ines, id) != null);
    assertThat(
            ines.post("/api/parked/" + id + "/drop", Map.of("reason", " ")).expect(422).problems())
        .contains("parked.no-reason");
    ines.post("/api/parked/" + id + "/drop", Map.of("reason", "The address is gone")).expect(200);
    ines.post("/api/parked/" + id + "/drop", Map.of("reason", "twice")).expect(404);
    assertThat(onDocket(ines, id)).isNull();
    assertThat(done(poison)).isTrue();
    List<String> acts = new ArrayList<>();
    ines.get("/api/ledger")
        .expect(200)
        .json()
        .path("lines")
        .forEach(entry -> acts.add(entry.path("act").asString()));
    assertThat(acts.subList(0, 2)).containsExactly("PARKED_DROP", "PARKED_RETRY");
  }

  @Test
  void theClockGoesOnPastWhatItCannotDo() {
    Instant now = Instant.now();
    String nothing = UUID.randomUUID().toString();
    long poison = due(Later.REQUEST_LAPSE, "no such thing", now.minusSeconds(50), 11);
    long unknown = due("newer", nothing, now.minusSeconds(40), 0);
    long good = due(Later.REQUEST_LAPSE, nothing, now.minusSeconds(30), 0);
    Visitor.until("the good one is done", () -> !db.fetchExists(DUE, DUE.ID.eq(good)));
    Visitor.until("the other is given up", () -> onDocket(ines, "c" + poison) != null);
    assertThat(db.fetchExists(DUE, DUE.ID.eq(unknown), DUE.ATTEMPTS.eq(0))).isTrue();
    JsonNode told = ines.get("/api/parked/c" + poison).expect(200).json();
    assertThat(told.path("byTheClock").asBoolean()).isTrue();
    assertThat(told.path("person").isNull()).isTrue();
    // Neither makes the server say that it is behind.
    assertThat(server.nobody().get("/actuator/health/readiness").status()).isEqualTo(200);
    ines.post("/api/parked/c" + poison + "/retry", Map.of()).expect(200);
    Visitor.until("it was tried", () -> db.fetchExists(DUE, DUE.ID.eq(poison), DUE.ATTEMPTS.eq(1)));
    db.update(DUE).set(DUE.ATTEMPTS, 11).setNull(DUE.NEXT_AT).where(DUE.ID.eq(poison)).execute();
    Visitor.until("it is given up again", () -> onDocket(ines, "c" + poison) != null);
    ines.post("/api/parked/c" + poison + "/drop", Map.of("reason", "It never was")).expect(200);
    assertThat(db.fetchExists(DUE, DUE.ID.eq(poison))).isFalse();
  }
}
