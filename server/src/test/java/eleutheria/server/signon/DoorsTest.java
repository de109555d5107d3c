package eleutheria.server.signon;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/** Who can become whom, and that one act shuts every door. */
class DoorsTest {
  private static ConfigurableApplicationContext context;
  private static Seed seed;

  @BeforeAll
  static void start() {
    String database = RunningServer.newDatabase();
    var maria = RunningServer.mariaDb();
    seed =
        Seed.into(
            maria.url(database),
            maria.user(),
            maria.password(),
            Instant.now(),
            (seed, loader, db) ->
                loader.act(
                    Seed.BEGIN.plusSeconds(90),
                    new Actor.Setup(),
                    m -> {
                      var edits = m.edits();
                      edits.put(
                          new FactKey.MandateHeld(
                              ShippedMandate.JOINERS_AND_LEAVERS.id(), seed.person("nils.desk")),
                          FactValue.Present.PRESENT);
                      edits.put(
                          new FactKey.MandateHeld(
                              ShippedMandate.HELP_DESK.id(), seed.person("oda")),
                          FactValue.Present.PRESENT);
                      for (String name : new String[] {"ines", "nils"}) {
                        edits.put(
                            new FactKey.Link(
                                new eleutheria.core.facts.SourceId(new java.util.UUID(9, 9)),
                                eleutheria.core.facts.ObjectKind.PERSON,
                                "K-" + name),
                            new FactValue.Ref(seed.person(name)));
                      }
                      edits.put(
                          new FactKey.Source(
                              new eleutheria.core.facts.SourceId(new java.util.UUID(9, 9))),
                          new FactValue.Delivery("Register", Map.of("no", "key")));
                      return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
                    }));
    context = RunningServer.start(database);
  }

  @AfterAll
  static void stop() {
    context.close();
  }

  private static Visitor nobody() {
    return new Visitor(
        "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
  }

  private static Visitor signedIn(String name) {
    Visitor visitor = nobody();
    visitor.signIn(name, Seed.PASSWORD).expect(200);
    return visitor;
  }

  private static String person(String name) {
    return "/api/people/" + seed.person(name).value();
  }

  private static String resetLink(String name, String askedBy) {
    return context
        .getBean(OneTimeLinks.class)
        .make(OneTimeLinks.RESET, seed.person(name), seed.person(askedBy))
        .getFragment();
  }

  /** Drops a file of five columns, and gives the address under which it lies. */
  private static String dropped(Visitor visitor, String rows) {
    String path =
        "/api/deliveries/"
            + visitor
                .drop(
                    Map.of("source", new java.util.UUID(9, 9).toString()),
                    ("no,given,family,login,mail\n" + rows).getBytes(StandardCharsets.UTF_8))
                .expect(200)
                .json()
                .path("id")
                .asString();
    visitor
        .put(
            path,
            Map.of(
                "columns",
                Map.of(
                    "no", "key",
                    "given", "given",
                    "family", "family",
                    "login", "attribute:userName",
                    "mail", "attribute:mail"),
                "scope",
                "THESE_ROWS"))
        .expect(200);
    return path;
  }

  @Test
  void whoeverImportsPeopleCannotBecomeTheSteward() {
    Visitor importer = signedIn("nils.desk");
    String path =
        dropped(
            importer,
            "K-ines,Ines,Roth,ines,thief@x.example\nK-nils,Nils,Sand,nils,other@x.example\n");
    JsonNode seen = importer.get(path + "/preview?verdict=bad").expect(200).json();
    assertThat(seen.path("lines").toString())
        .contains("Ines Roth holds powers or owns things beyond your own")
        .doesNotContain("Nils Sand holds");
    // Nor by a link: she has a password, and he has not her powers.
    assertThat(importer.post(person("ines") + "/password-reset", null).expect(403).problems())
        .contains("identity");
    assertThat(importer.post(person("ines") + "/invitation", null).status()).isIn(403, 422);
    // Somebody who owns a group is no more his than she is.
    assertThat(importer.post(person("maren") + "/password-reset", null).expect(403).problems())
        .contains("identity");
    signedIn("ines").post(person("ines") + "/password-reset", null).expect(200);
  }

  @Test
  void aResetShutsEveryDoorAndTheLedgerSaysWhoAskedAndWhoUsedIt() {
    Visitor before = signedIn("jonas");
    String token = before.post("/api/my/feed", null).expect(200).json().path("token").asString();
    assertThat(nobody().get("/api/feed", "Authorization", "Bearer " + token).status())
        .isEqualTo(200);
    BlockingQueue<String> heard = before.listen("/api/stream");
    Visitor.until("the stream is open", () -> heard.stream().anyMatch(l -> l.contains("hello")));
    String link = resetLink("jonas", "ines");
    Visitor fresh = nobody();
    fresh
        .post("/api/links/use", Map.of("token", link, "password", "a gull over the pier"))
        .expect(200);
    before.get("/api/me").expect(401);
    assertThat(nobody().get("/api/feed", "Authorization", "Bearer " + token).status())
        .isEqualTo(403);
    Visitor.until("the stream ends", () -> heard.stream().anyMatch(l -> l.contains("closed")));
    nobody().signIn("jonas", Seed.PASSWORD).expect(401);
    JsonNode line =
        signedIn("ines").get("/api/ledger?act=ACCOUNT_RESET_USED").json().path("lines").get(0);
    assertThat(line.path("actor").asString()).isEqualTo(seed.person("jonas").text());
    assertThat(line.at("/details/askedBy").asString()).isEqualTo(seed.person("ines").text());
    assertThat(signedIn("ines").get("/api/ledger?act=ACCOUNT_FEED").json().path("lines"))
        .isNotEmpty();
    fresh
        .post(
            "/api/me/password", Map.of("current", "a gull over the pier", "wanted", Seed.PASSWORD))
        .expect(200);
  }

  @Test
  void anAdministratorEndsAllSessionsAndAnInvitationOpensNoAccountWithAPassword() {
    Visitor there = signedIn("lena");
    String invited =
        context
            .getBean(OneTimeLinks.class)
            .make(OneTimeLinks.INVITE, seed.person("lena"), seed.person("ines"))
            .getFragment();
    nobody().post("/api/links/look", Map.of("token", invited)).expect(404);
    signedIn("nils").post(person("lena") + "/end-sessions", null).expect(403);
    signedIn("oda").post(person("lena") + "/end-sessions", null).expect(200);
    there.get("/api/me").expect(401);
  }

  @Test
  void fiveStreamsAPersonAndTheOldestGivesWay() {
    Visitor nils = signedIn("nils");
    BlockingQueue<String> first = nils.listen("/api/stream");
    Visitor.until("open", () -> first.stream().anyMatch(l -> l.contains("hello")));
    for (int i = 0; i < 5; i++) {
      BlockingQueue<String> next = nils.listen("/api/stream");
      Visitor.until("open", () -> next.stream().anyMatch(l -> l.contains("hello")));
    }
    Visitor.until("it gave way", () -> first.stream().anyMatch(l -> l.contains("full")));
    BlockingQueue<String> last = nils.listen("/api/stream");
    Visitor.until("open", () -> last.stream().anyMatch(l -> l.contains("hello")));
    nils.post("/api/sign-out", null).expect(200);
    Visitor.until("signed out", () -> last.stream().anyMatch(l -> l.contains("closed")));
  }

  @Test
  void aSessionEndsInAnyCaseAndTheDeskSooner() {
    DSLContext db = context.getBean(DSLContext.class);
    Visitor ines = signedIn("ines");
    String session =
        db.fetchSingle("select PRIMARY_ID from SPRING_SESSION order by CREATION_TIME desc limit 1")
            .get(0, String.class);
    ines.get("/api/groups").expect(200);
    assertThat(ines.get("/api/session").json().at("/signed/deskOver").asBoolean()).isFalse();
    long hours = 3_600_000;
    age(db, session, 13 * hours);
    ines.get("/api/groups").expect(401);
    ines.get("/api/docket").expect(401);
    ines.get("/api/holdings/map").expect(401);
    // The portal goes on, and says that the desk wants a new sign-in.
    ines.get("/api/front").expect(200);
    assertThat(ines.get("/api/session").json().at("/signed/deskOver").asBoolean()).isTrue();
    age(db, session, 24 * 8 * hours);
    ines.get("/api/me").expect(401);
    assertThat(ines.get("/api/session").json().path("signed").isNull()).isTrue();
    ines.signIn("ines", Seed.PASSWORD).expect(200);
    ines.get("/api/groups").expect(200);
  }

  private static void age(DSLContext db, String session, long millis) {
    db.execute(
        "update SPRING_SESSION set CREATION_TIME = CREATION_TIME - ? where PRIMARY_ID = ?",
        millis,
        session);
  }

  @Test
  void whoeverChangedAnAddressSendsNoLinkToIt() {
    PersonId nils = seed.person("nils");
    Visitor importer = signedIn("nils.desk");
    String path = dropped(importer, "K-nils,Nils,Sand,nils,new@x.example\n");
    JsonNode seen = importer.get(path + "/preview?verdict=changed").expect(200).json();
    assertThat(seen.toString()).contains("new@x.example");
    importer
        .post(
            path + "/import",
            Map.of("digest", seen.path("digest").asString(), "leaveOutBad", true, "invite", false))
        .expect(200);
    assertThat(importer.post(person("nils") + "/password-reset", null).expect(403).problems())
        .contains("address.young");
    signedIn("oda").post(person("nils") + "/password-reset", null).expect(200);
    // Where they were reached until now is told.
    DSLContext db = context.getBean(DSLContext.class);
    assertThat(
            db.fetchSingle(
                    "select address from outbox where kind = 'old-address' and person_id = ?",
                    (Object) uuid(nils))
                .get(0, String.class))
        .isEqualTo("sand@x.example");
  }

  private static byte[] uuid(PersonId id) {
    return java.nio.ByteBuffer.allocate(16)
        .putLong(id.value().getMostSignificantBits())
        .putLong(id.value().getLeastSignificantBits())
        .array();
  }
}
