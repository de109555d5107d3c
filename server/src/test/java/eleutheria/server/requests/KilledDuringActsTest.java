package eleutheria.server.requests;

import static eleutheria.server.tables.Tables.ACCESS_REQUEST;
import static eleutheria.server.tables.Tables.DEPARTURE;
import static eleutheria.server.tables.Tables.DRAFT;
import static eleutheria.server.tables.Tables.GIVEN;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.MEMBERSHIP;
import static eleutheria.server.tables.Tables.REQUEST_ANSWER;
import static eleutheria.server.tables.Tables.STATUS;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Actor;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.ServerProcess;
import eleutheria.server.testing.Visitor;
import eleutheria.server.writing.Acts;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * Power cuts while requests are decided, people depart and drafts are published: the server, and
 * separately the database, are killed at a random moment. Afterwards each act is there whole, with
 * its entry, its facts and its rows, or nothing of it; and what is in memory is what is in the
 * tables.
 */
class KilledDuringActsTest {
  private static final int ROUNDS = Integer.getInteger("kills", 1);
  private static final int STAFF = Math.max(60, ROUNDS * 30);

  private final SplittableRandom random = new SplittableRandom(7);
  private final List<String> requests = new ArrayList<>();
  private final List<String> leavers = new ArrayList<>();
  // Where each of the two was cut off, and goes on.
  private volatile int nextRequest;
  private volatile int nextLeaver;
  private volatile int nextDraft = 1;
  private Seed seed;
  private ServerProcess server;

  @BeforeEach
  void seed() {
    String database = RunningServer.newDatabase();
    seed =
        Seed.into(
            RunningServer.mariaDb().url(database),
            RunningServer.mariaDb().user(),
            RunningServer.mariaDb().password(),
            Instant.now(),
            (filled, loader, db) -> {
              List<PersonId> staff = filled.staff(STAFF);
              filled.openShop(loader);
              Instant asked = Instant.now().minusSeconds(3600);
              for (PersonId person : staff) {
                var request =
                    loader.act(
                        asked,
                        new Actor.OfPerson(person),
                        m ->
                            RequestDecisions.ask(
                                m,
                                2001 + requests.size(),
                                person,
                                filled.shop().role("Farebox"),
                                null,
                                "for the counter",
                                Map.of(),
                                List.of()));
                loader.flush();
                RequestStore.save(
                    db, request, new Acts.Written(request.asked(), loader.position()));
                requests.add(request.id().value().toString());
                leavers.add(person.value().toString());
              }
            });
    server = new ServerProcess(database, "--eleutheria.take-back=0s");
  }

  @AfterEach
  void stop() {
    server.stop();
  }

  /** Lena decides one after the other while Ines lets every third of the rest depart. */
  private CompletableFuture<Void> busy() {
    Visitor lena = server.signedIn("lena");
    Visitor ines = server.signedIn("ines");
    CompletableFuture<Void> deciding =
        CompletableFuture.runAsync(
            () -> {
              for (; nextRequest < requests.size(); nextRequest++) {
                String id = requests.get(nextRequest);
                boolean yes = id.hashCode() % 4 != 0;
                if (cutOff(
                    lena.post(
                        "/api/requests/" + id + "/answer",
                        Map.of("step", 0, "yes", yes, "note", "a word")))) {
                  return;
                }
              }
            });
    CompletableFuture<Void> departing =
        CompletableFuture.runAsync(
            () -> {
              for (; nextLeaver < leavers.size(); nextLeaver += 3) {
                if (cutOff(
                    ines.post(
                        "/api/people/" + leavers.get(nextLeaver) + "/departure",
                        Map.of("reason", "left")))) {
                  return;
                }
              }
            });
    CompletableFuture<Void> publishing =
        CompletableFuture.runAsync(
            () -> {
              Visitor steward = server.signedIn("ines");
              for (; nextDraft < leavers.size(); nextDraft += 3) {
                if (publish(steward, leavers.get(nextDraft))) {
                  return;
                }
              }
            });
    return CompletableFuture.allOf(deciding, departing, publishing);
  }

  /** A draft of two edits for somebody who stays; whether it was cut off. */
  private boolean publish(Visitor steward, String person) {
    steward.gatherInto(null);
    Visitor.Answer opened = steward.post("/api/drafts", Map.of("name", "For " + person));
    if (opened.status() != 200) {
      return true;
    }
    String draft = opened.json().path("result").asString();
    steward.gatherInto(draft);
    if (cutOff(
            steward.post(
                "/api/groups/" + seed.desk().value() + "/members",
                Map.of("people", List.of(person), "groups", List.of(), "reason", "")))
        || cutOff(
            steward.post(
                "/api/entitlements/" + seed.shop().role("Tide Table").value() + "/grants",
                Map.of(
                    "subjects",
                    List.of(Map.of("kind", "person", "id", person)),
                    "reason",
                    "for the tide")))) {
      return true;
    }
    Visitor.Answer seen = steward.get("/api/drafts/" + draft + "/consequences");
    if (seen.status() != 200) {
      return true;
    }
    return cutOff(
        steward.post(
            "/api/drafts/" + draft + "/publish",
            Map.of(
                "reason",
                "tried",
                "tell",
                false,
                "digest",
                seen.json().path("digest").asString())));
  }

  /** No answer, or that the database does not answer. */
  private static boolean cutOff(Visitor.Answer answer) {
    return answer.status() == 0 || answer.status() == 503;
  }

  private int entries(org.jooq.DSLContext db, String act) {
    return db.fetchCount(LEDGER_ENTRY, LEDGER_ENTRY.ACT.eq(act));
  }

  private void everyActIsWholeOrNotThere() throws Exception {
    int[] holders = new int[1];
    server.tables(
        db -> {
          int approved = entries(db, "request.approve");
          int refused = entries(db, "request.refuse");
          int departed = entries(db, "departure.run");
          assertThat(db.fetchCount(REQUEST_ANSWER)).isEqualTo(approved + refused);
          assertThat(db.fetchCount(ACCESS_REQUEST, ACCESS_REQUEST.STAGE.eq("refused")))
              .isEqualTo(refused);
          assertThat(db.fetchCount(ACCESS_REQUEST, ACCESS_REQUEST.STAGE.eq("given")))
              .isEqualTo(approved);
          assertThat(
                  db.select(GIVEN.GRANT_ID)
                      .distinctOn()
                      .from(GIVEN)
                      .where(GIVEN.SOURCE.eq("request"))
                      .groupBy(GIVEN.GRANT_ID)
                      .fetch())
              .hasSize(approved);
          assertThat(db.fetchCount(DEPARTURE)).isEqualTo(departed);
          int published = entries(db, "draft.publish");
          assertThat(db.fetchCount(DRAFT, DRAFT.STAGE.eq("published"))).isEqualTo(published);
          assertThat(db.fetchCount(MEMBERSHIP, MEMBERSHIP.GROUP_ID.eq(seed.desk().value())))
              .isEqualTo(published);
          assertThat(
                  db.fetchCount(
                      GIVEN,
                      GIVEN
                          .SOURCE
                          .eq("hand")
                          .and(GIVEN.ENTITLEMENT_ID.eq(seed.shop().role("Tide Table").value()))))
              .isEqualTo(published);
          // One had departed before the test.
          assertThat(db.fetchCount(STATUS, STATUS.STATUS_.eq("departed"))).isEqualTo(departed + 1);
          holders[0] =
              db.fetchCount(
                  ACCESS_REQUEST,
                  ACCESS_REQUEST
                      .STAGE
                      .eq("given")
                      .and(
                          ACCESS_REQUEST.ASKER_ID.notIn(
                              db.select(DEPARTURE.PERSON_ID).from(DEPARTURE))));
        });
    server.chainIsWhole();
    assertThat(
            server
                .signedIn("ines")
                .get("/api/entitlements/" + seed.shop().role("Farebox").value())
                .expect(200)
                .json()
                .path("holders")
                .asInt())
        .as("what is in memory is what is in the tables")
        .isEqualTo(holders[0]);
  }

  @Test
  void theServerIsKilled() throws Exception {
    for (int round = 1; round <= ROUNDS; round++) {
      CompletableFuture<Void> busy = busy();
      ServerProcess.pause(50 + random.nextLong(700));
      server.kill();
      busy.get(60, TimeUnit.SECONDS);
      server.start();
      everyActIsWholeOrNotThere();
    }
    // What was left is done as if nothing had been.
    nextRequest = 0;
    nextLeaver = 0;
    busy().get(120, TimeUnit.SECONDS);
    everyActIsWholeOrNotThere();
    server.tables(
        db ->
            assertThat(db.fetchCount(ACCESS_REQUEST, ACCESS_REQUEST.STAGE.eq("waiting"))).isZero());
  }

  @Test
  void theDatabaseIsKilled() throws Exception {
    for (int round = 1; round <= ROUNDS; round++) {
      server.awaitReady();
      CompletableFuture<Void> busy = busy();
      ServerProcess.pause(50 + random.nextLong(700));
      RunningServer.mariaDb().kill();
      busy.get(120, TimeUnit.SECONDS);
      RunningServer.mariaDb().again();
      server.awaitReady();
      everyActIsWholeOrNotThere();
    }
  }
}
