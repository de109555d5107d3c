package eleutheria.server.signon;

import static eleutheria.server.tables.Tables.ONE_TIME_LINK;
import static eleutheria.server.tables.Tables.OUTBOX;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jooq.DSLContext;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class SignInTest {
  private final RunningServer server = RunningServer.shared();
  private final DSLContext db = server.context().getBean(DSLContext.class);

  @BeforeEach
  void nobodyHasFailed() {
    db.deleteFrom(SIGNIN_EVENT).execute();
  }

  @Test
  void byNameOrMailInAnyCase() {
    server.nobody().signIn("ODA", Seed.PASSWORD).expect(200);
    Visitor visitor = server.nobody();
    assertThat(
            visitor
                .signIn("Oda@x.example", Seed.PASSWORD)
                .expect(200)
                .json()
                .at("/signed/displayed")
                .asString())
        .isEqualTo("Oda Brekke");
    visitor.get("/api/me").expect(200);
    visitor.post("/api/sign-out", null).expect(200);
    visitor.get("/api/me").expect(401);
  }

  @Test
  void oneMailWithTwoAccountsAsksWhich() {
    Visitor visitor = server.nobody();
    Visitor.Answer which = visitor.signIn("sand@x.example", Seed.PASSWORD).expect(409);
    assertThat(which.body()).contains("nils.desk").contains("\"nils\"");
    Visitor.Answer chosen =
        visitor.post(
            "/api/sign-in",
            Map.of("name", "sand@x.example", "password", Seed.PASSWORD, "account", "nils.desk"));
    assertThat(chosen.expect(200).json().at("/signed/person").asString())
        .isEqualTo(server.seed().person("nils.desk").value().toString());
    visitor
        .post(
            "/api/sign-in",
            Map.of("name", "sand@x.example", "password", Seed.PASSWORD, "account", "ines"))
        .expect(409);
  }

  @Test
  void neitherTheDepartedNorTheExpectedComeInAndNobodyLearnsWhichAccountsThereAre() {
    server.nobody().signIn("gone", Seed.PASSWORD).expect(403);
    server.nobody().signIn("new", Seed.PASSWORD).expect(403);
    Visitor.Answer wrong = server.nobody().signIn("oda", "not this").expect(401);
    Visitor.Answer unknown = server.nobody().signIn("no.such.person", "not this").expect(401);
    assertThat(wrong.body()).isEqualTo(unknown.body());
  }

  @Test
  void afterFiveFailuresOneWaitsButAColleagueAtTheUsualPlaceDoesNot() {
    server.nobody().signIn("lena", Seed.PASSWORD).expect(200);
    for (int i = 0; i < 5; i++) {
      server.nobody().signIn("oda", "guess " + i).expect(401);
    }
    Visitor.Answer sixth = server.nobody().signIn("oda", Seed.PASSWORD).expect(429);
    assertThat(sixth.response().headers().firstValue("Retry-After")).isPresent();
    server.nobody().signIn("lena", Seed.PASSWORD).expect(200);
  }

  @Test
  void manyAtOnceAreServedOrToldThatManyWait() throws Exception {
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Callable<Integer>> calls = new ArrayList<>();
      for (int i = 0; i < 120; i++) {
        calls.add(() -> server.nobody().signIn("jonas", Seed.PASSWORD).status());
      }
      for (Future<Integer> call : pool.invokeAll(calls)) {
        assertThat(call.get()).isIn(200, 503);
      }
    }
  }

  @Test
  void aChangedPasswordEndsOtherSessionsAndTheOldOneIsWorthless() {
    Visitor before = server.signedIn("nils");
    before.post("/api/me/sign-out-everywhere", null).expect(200);
    before.post("/api/sign-out", null).expect(200);
    Visitor here = server.signedIn("nils");
    Visitor there = server.signedIn("nils");
    assertThat(
            here.post(
                    "/api/me/password", Map.of("current", "wrong", "wanted", "the tide is turning"))
                .problems())
        .contains("password.wrong");
    assertThat(
            here.post("/api/me/password", Map.of("current", Seed.PASSWORD, "wanted", "short"))
                .problems())
        .contains("password");
    assertThat(
            here.post(
                    "/api/me/password",
                    Map.of("current", Seed.PASSWORD, "wanted", "the tide is turning"))
                .expect(200)
                .json()
                .path("ended")
                .asInt())
        .isEqualTo(1);
    here.get("/api/me").expect(200);
    there.get("/api/me").expect(401);
    server.nobody().signIn("nils", Seed.PASSWORD).expect(401);
    Visitor again = server.nobody();
    again.signIn("nils", "the tide is turning").expect(200);
    again
        .post("/api/me/password", Map.of("current", "the tide is turning", "wanted", Seed.PASSWORD))
        .expect(200);
  }

  @Test
  void signOutEverywhereLeavesOnlyThisBrowser() {
    Visitor here = server.signedIn("oda");
    Visitor there = server.signedIn("oda");
    here.post("/api/me/sign-out-everywhere", null).expect(200);
    there.get("/api/me").expect(401);
    assertThat(here.get("/api/me").expect(200).json().path("sessions")).hasSize(1);
  }

  @Test
  void anInvitationWorksOnceAndOnlyTheNewestOne() {
    OneTimeLinks links = server.context().getBean(OneTimeLinks.class);
    String first = links.make(OneTimeLinks.RESET, server.seed().person("oda"), null).getFragment();
    String token = links.make(OneTimeLinks.RESET, server.seed().person("oda"), null).getFragment();
    Visitor visitor = server.nobody();
    visitor.post("/api/links/look", Map.of("token", first)).expect(404);
    assertThat(
            visitor
                .post("/api/links/look", Map.of("token", token))
                .expect(200)
                .json()
                .path("displayed")
                .asString())
        .isEqualTo("Oda Brekke");
    assertThat(
            visitor
                .post("/api/links/use", Map.of("token", token, "password", "oda brekke!!"))
                .expect(422)
                .problems())
        .contains("password");
    visitor.post("/api/links/use", Map.of("token", token, "password", Seed.PASSWORD)).expect(200);
    visitor.get("/api/me").expect(200);
    server
        .nobody()
        .post("/api/links/use", Map.of("token", token, "password", Seed.PASSWORD))
        .expect(404);
    assertThat(db.fetchCount(ONE_TIME_LINK, ONE_TIME_LINK.TOKEN_HASH.eq(token))).isZero();
  }

  @Test
  void aMailThatCannotBeSentIsTriedAgain() throws Exception {
    Visitor ines = server.signedIn("ines");
    String path = "/api/people/" + server.seed().person("oda").value() + "/password-reset";
    Visitor.Answer once = ines.send("POST", path, null, "same").expect(200);
    Visitor.Answer twice = ines.send("POST", path, null, "same").expect(200);
    assertThat(twice.body()).isEqualTo(once.body());
    long position = once.json().path("position").asLong();
    // The mail server of these tests refuses, so the errand must be waiting for its next try.
    Instant end = Instant.now().plusSeconds(20);
    Integer attempts = 0;
    while (attempts == 0 && Instant.now().isBefore(end)) {
      attempts =
          db.select(OUTBOX.ATTEMPTS)
              .from(OUTBOX)
              .where(OUTBOX.POSITION.eq(position))
              .fetchSingle()
              .value1();
    }
    assertThat(attempts).isEqualTo(1);
    assertThat(db.fetchCount(OUTBOX, OUTBOX.POSITION.eq(position))).isEqualTo(1);
  }
}
