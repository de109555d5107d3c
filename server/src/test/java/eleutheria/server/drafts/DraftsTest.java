package eleutheria.server.drafts;

import static eleutheria.server.tables.Tables.DRAFT_EDIT;
import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.OUTBOX;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Drafts over HTTP: gathering, looking, publishing, and everything that can come between. */
class DraftsTest {
  private static final AtomicInteger NUMBER = new AtomicInteger();

  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");
  private final Map<String, OwnApp> apps = new HashMap<>();

  private String id(String userName) {
    return seed.person(userName).value().toString();
  }

  /** An application of each test's own, which lives as long as the test. */
  private OwnApp app(String name) {
    return apps.computeIfAbsent(name, each -> OwnApp.open(server, each));
  }

  private String role(String app) {
    return app(app).role();
  }

  private String title(String app) {
    return app(app).title();
  }

  private static Map<String, Object> everyone() {
    return Map.of("everyone", true, "firstDays", 0, "subjects", List.of());
  }

  private static String name(String what) {
    return what + " " + NUMBER.incrementAndGet();
  }

  private static String open(Visitor visitor, String name) {
    String id =
        visitor
            .post("/api/drafts", Map.of("name", name))
            .expect(200)
            .json()
            .path("result")
            .asString();
    visitor.gatherInto(id);
    return id;
  }

  private static String group(Visitor visitor, String name) {
    return visitor
        .post("/api/groups", Map.of("name", name, "reason", ""))
        .expect(200)
        .json()
        .path("result")
        .asString();
  }

  private static Visitor.Answer join(Visitor visitor, String group, String... people) {
    return visitor.post(
        "/api/groups/" + group + "/members",
        Map.of("people", List.of(people), "groups", List.of(), "reason", ""));
  }

  private static Visitor.Answer give(Visitor visitor, String role, String kind, String id) {
    return visitor.post(
        "/api/entitlements/" + role + "/grants",
        Map.of("subjects", List.of(Map.of("kind", kind, "id", id)), "reason", "for the season"));
  }

  private static Visitor.Answer end(Visitor visitor, String grant) {
    return visitor.post(
        "/api/grants/end",
        Map.of("grants", List.of(grant), "memberships", List.of(), "reason", "not needed"));
  }

  private static JsonNode look(Visitor visitor, String draft) {
    return visitor.get("/api/drafts/" + draft + "/consequences").expect(200).json();
  }

  private static Visitor.Answer publish(Visitor visitor, String draft, String digest) {
    return publish(visitor, draft, digest, null, Map.of());
  }

  private static Visitor.Answer publish(
      Visitor visitor,
      String draft,
      String digest,
      @Nullable String repeatKey,
      Map<String, Object> more) {
    Map<String, Object> form = new HashMap<>(Map.of("reason", "tried", "digest", digest));
    form.put("tell", false);
    form.putAll(more);
    return visitor.send("POST", "/api/drafts/" + draft + "/publish", form, repeatKey);
  }

  private static Visitor.Answer publish(Visitor visitor, String draft) {
    return publish(visitor, draft, look(visitor, draft).path("digest").asString());
  }

  private static List<String> rows(JsonNode consequences, int moment) {
    List<String> rows = new ArrayList<>();
    consequences
        .path("moments")
        .path(moment)
        .path("rows")
        .forEach(
            row ->
                rows.add(
                    "%s %s %d because %s"
                        .formatted(
                            row.path("sign").asString(),
                            row.path("title").asString(),
                            row.path("people").asInt(),
                            row.path("because"))));
    return rows;
  }

  private JsonNode draft(Visitor visitor, String draft) {
    return visitor.get("/api/drafts/" + draft).expect(200).json();
  }

  private List<String> held(String person) {
    return ines.get("/api/people/" + id(person) + "/holdings")
        .expect(200)
        .json()
        .path("held")
        .findValuesAsString("title");
  }

  private String grantTo(String role, String name) {
    for (JsonNode grant : ines.get("/api/entitlements/" + role).expect(200).json().path("grants")) {
      if (grant.path("subject").path("name").asString().equals(name)) {
        return grant.path("id").asString();
      }
    }
    throw new AssertionError("no grant to " + name);
  }

  @Test
  void whatIsGatheredInThreeViewsComesIntoForceTogether() {
    String draft = open(ines, name("Season"));
    String crew = name("Counter crew");
    String group = group(ines, crew);
    join(ines, group, id("oda"), id("nils")).expect(200);
    // The group is there for the draft alone, and can be given something in it.
    JsonNode receipt = give(ines, role("Tide Table"), "group", group).expect(200).json();
    assertThat(receipt.path("edit").asInt()).isEqualTo(3);
    ines.get("/api/groups/" + group).expect(404);
    assertThat(held("nils")).doesNotContain(title("Tide Table"));
    JsonNode told = look(ines, draft);
    assertThat(rows(told, 0)).contains("gain %s 2 because [1,2,3]".formatted(title("Tide Table")));
    assertThat(told.path("moments").path(0).path("counts").path("gain").asInt()).isEqualTo(2);
    assertThat(draft(ines, draft).path("edits").findValuesAsString("fate"))
        .containsOnly("applies")
        .hasSize(3);
    JsonNode tray = ines.get("/api/drafts").expect(200).json();
    assertThat(tray.path("open").path("now").path("gain").asInt()).isEqualTo(2);

    String key = UUID.randomUUID().toString();
    String digest = told.path("digest").asString();
    JsonNode first = publish(ines, draft, digest, key, Map.of()).expect(200).json();
    JsonNode again = publish(ines, draft, digest, key, Map.of()).expect(200).json();
    assertThat(again.path("position")).isEqualTo(first.path("position"));
    assertThat(publish(ines, draft, digest).expect(409).problems()).contains("draft.stage");
    assertThat(held("nils")).contains(title("Tide Table"));
    JsonNode entry =
        ines.get("/api/ledger/" + first.path("position").asLong()).expect(200).json().path("entry");
    assertThat(entry.path("act").asString()).isEqualTo("DRAFT_PUBLISH");
    assertThat(entry.path("reason").asString()).isEqualTo("tried");
    assertThat(draft(ines, draft).path("draft").path("stage").asString()).isEqualTo("published");
    assertThat(ines.post("/api/ledger/check", null).json().path("broken").isNull()).isTrue();
  }

  @Test
  void whatHasGrownSinceItWasSeenIsShownBeforeAnythingHappens() {
    String group = group(ines, name("Growing"));
    join(ines, group, id("oda")).expect(200);
    String draft = open(ines, name("Grows"));
    give(ines, role("Crewsheet"), "group", group).expect(200);
    String digest = look(ines, draft).path("digest").asString();
    Visitor colleague = server.signedIn("ines");
    join(colleague, group, id("jonas")).expect(200);
    assertThat(publish(ines, draft, digest).expect(409).problems()).contains("draft.grown");
    assertThat(held("oda")).doesNotContain(title("Crewsheet"));
    JsonNode told =
        ines.get("/api/drafts/" + draft + "/consequences?seen=" + digest).expect(200).json();
    assertThat(told.path("grown").asBoolean()).isTrue();
    assertThat(told.path("moments").path(0).path("rows").path(0).path("grown").asInt())
        .isEqualTo(1);
    // Shrunk it goes on.
    colleague.delete("/api/groups/" + group + "/members/person/" + id("oda")).expect(200);
    publish(ines, draft, told.path("digest").asString()).expect(200);
    assertThat(held("jonas")).contains(title("Crewsheet"));
    assertThat(publish(ines, draft, "0".repeat(64)).status()).isEqualTo(409);
  }

  @Test
  void draftsThatMeetAreToldAndOnlyOneOfThemWins() throws Exception {
    String group = group(ines, name("Met"));
    join(ines, group, id("oda")).expect(200);
    give(ines, role("Farebox"), "group", group).expect(200);
    String name = ines.get("/api/groups/" + group).json().path("name").asString();
    String grant = grantTo(role("Farebox"), name);
    Visitor other = server.signedIn("ines");
    String one = open(ines, name("One"));
    end(ines, grant).expect(200);
    String two = open(other, name("Two"));
    other
        .put(
            "/api/grants/" + grant + "/until",
            Map.of("until", LocalDate.now().plusDays(9), "reason", ""))
        .expect(200);
    assertThat(draft(ines, one).path("clashing").path(0).path("edits").toString()).isEqualTo("[1]");
    String[] digests = {
      look(ines, one).path("digest").asString(), look(other, two).path("digest").asString()
    };
    List<Integer> answers;
    try (ExecutorService both = Executors.newFixedThreadPool(2)) {
      List<Callable<Integer>> calls =
          List.of(
              () -> publish(ines, one, digests[0]).status(),
              () -> publish(other, two, digests[1]).status());
      answers = new ArrayList<>();
      for (Future<Integer> answer : both.invokeAll(calls)) {
        answers.add(answer.get());
      }
    }
    // The end that was moved first leaves a base that the other does not know any more, or nothing.
    assertThat(answers).contains(200).containsAnyOf(409, 422);
    String left = answers.get(0) == 200 ? two : one;
    JsonNode edit = draft(answers.get(0) == 200 ? other : ines, left).path("edits").path(0);
    assertThat(edit.path("fate").asString()).isIn("clashes", "already_so");
  }

  @Test
  void anEditWhoseThingIsGoneTakesNoPartUntilItIsUndone() {
    String group = group(ines, name("Going"));
    String stays = group(ines, name("Staying"));
    String draft = open(ines, name("Lost"));
    join(ines, group, id("oda")).expect(200);
    join(ines, stays, id("oda")).expect(200);
    server.signedIn("ines").delete("/api/groups/" + group).expect(200);
    JsonNode edit = draft(ines, draft).path("edits").path(0);
    assertThat(edit.path("fate").asString()).isEqualTo("clashes");
    assertThat(edit.path("reason").asString()).isEqualTo("gone");
    assertThat(publish(ines, draft).expect(409).problems()).contains("changed-meanwhile");
    ines.delete("/api/drafts/" + draft + "/edits/1").expect(200);
    publish(ines, draft).expect(200);
    assertThat(ines.get("/api/groups/" + stays).json().path("people").asInt()).isEqualTo(1);
  }

  @Test
  void theSameThingEditedAgainReplacesWhatTheDraftWanted() {
    String called = name("Twice");
    String group = group(ines, called);
    String draft = open(ines, name("Again"));
    String first = name("First");
    String second = name("Second");
    String address = "/api/groups/" + group + "/name";
    ines.put(address, Map.of("base", called, "name", first)).expect(200);
    ines.put(address, Map.of("base", called, "name", second)).expect(200);
    JsonNode edits = draft(ines, draft).path("edits");
    assertThat(edits).hasSize(1);
    assertThat(edits.path(0).path("phrases").path(0).path("value").asString()).isEqualTo(second);
    publish(ines, draft).expect(200);
    assertThat(ines.get("/api/groups/" + group).json().path("name").asString()).isEqualTo(second);
  }

  @Test
  void anAppItsTileAndItsCollectionComeWithOneDraft() {
    String seer = role("Tide Table");
    give(ines, seer, "person", id("nils")).expect(200);
    String app = ines.get("/api/entitlements/" + seer).json().at("/entitlement/app/id").asString();
    String draft = open(ines, name("New things"));
    String collection =
        ines.post(
                "/api/collections",
                Map.of(
                    "face", Map.of("name", name("Quay"), "line", ""),
                    "audience", everyone()))
            .expect(200)
            .json()
            .path("result")
            .asString();
    String tile =
        ines.post(
                "/api/tiles",
                Map.ofEntries(
                    Map.entry("name", name("Tides")),
                    Map.entry("line", ""),
                    Map.entry("picture", "key"),
                    Map.entry("hue", "tide"),
                    Map.entry("application", app),
                    Map.entry("needs", List.of(seer)),
                    Map.entry("address", ""),
                    Map.entry("contact", ""),
                    Map.entry("apart", false),
                    Map.entry("audience", everyone())))
            .expect(200)
            .json()
            .path("result")
            .asString();
    ines.put(
            "/api/collections/" + collection + "/tiles",
            Map.of("moves", List.of(Map.of("tile", tile, "wanted", Map.of("offered", false)))))
        .expect(200);
    JsonNode told = look(ines, draft);
    assertThat(rows(told, 0)).hasSize(2).allMatch(row -> row.startsWith("more "));
    assertThat(told.at("/moments/0/counts/more").asInt()).isEqualTo(1);
    publish(ines, draft).expect(200);
    assertThat(server.signedIn("nils").get("/api/front").json().findValuesAsString("name"))
        .contains(draft(ines, draft).at("/edits/0/phrases/0/subject").asString());
  }

  @Test
  void powerIsJudgedByEffectAndCountsAreCutToReach() {
    String group = group(ines, name("Mixed"));
    join(ines, group, id("oda"), id("nils"), id("jonas")).expect(200);
    Visitor maren = server.signedIn("maren");
    String draft = open(maren, name("Reaches"));
    give(maren, role("Tide Table"), "group", group).expect(200);
    JsonNode told = look(maren, draft);
    assertThat(told.path("cut").asBoolean()).isTrue();
    assertThat(rows(told, 0)).allMatch(row -> row.contains(" 1 because"));
    assertThat(
            maren
                .get("/api/drafts/" + draft + "/consequences/people?sign=gain")
                .json()
                .path("total")
                .asInt())
        .isLessThanOrEqualTo(1);
    assertThat(publish(maren, draft, told.path("digest").asString()).expect(403).problems())
        .contains("effect");
    // Nobody sees a draft that is not shared with them, nor changes one that they do not hold.
    server.signedIn("nils.desk").get("/api/drafts/" + draft).expect(404);
    ines.get("/api/drafts/" + draft).expect(404);
    maren.put("/api/drafts/" + draft, Map.of("name", "For Ines", "shared", true)).expect(200);
    ines.delete("/api/drafts/" + draft + "/edits/1").expect(403);
    // An app's owner is no colleague to whom all names in it may be shown.
    server.signedIn("oda").get("/api/drafts/" + draft).expect(404);
    ines.post("/api/drafts/" + draft + "/comments", Map.of("text", "I take it.")).expect(200);
    ines.post("/api/drafts/" + draft + "/holder", null).expect(200);
    assertThat(join(maren, group, id("lena")).expect(403).problems()).contains("draft.held");
    publish(ines, draft).expect(200);
  }

  @Test
  void whoGainsByTheirOwnDraftNeedsSomebodyElsesYes() {
    String group = group(ines, name("Helpers"));
    give(ines, role("Tide Table"), "group", group).expect(200);
    Visitor maren = server.signedIn("maren");
    String draft = open(maren, name("For myself"));
    join(maren, group, id("maren")).expect(200);
    String digest = look(maren, draft).path("digest").asString();
    assertThat(publish(maren, draft, digest).expect(403).problems()).contains("own-gain");
    Map<String, Object> form =
        Map.of("reason", "I stand in for Lena.", "tell", false, "digest", digest);
    maren.post("/api/drafts/" + draft + "/ask", form).expect(200);
    assertThat(publish(maren, draft, digest).expect(409).problems()).contains("draft.stage");
    assertThat(join(maren, group, id("lena")).expect(409).problems()).contains("draft.stage");
    assertThat(
            ines.post("/api/drafts/" + draft + "/reopen", Map.of("text", ""))
                .expect(422)
                .problems())
        .contains("draft.no-reason");
    assertThat(ines.get("/api/docket").json().path("folds").findValuesAsString("id"))
        .contains(draft);
    assertThat(server.signedIn("oda").get("/api/docket").json().findValuesAsString("id"))
        .doesNotContain(draft);
    String seen = look(ines, draft).path("digest").asString();
    long position = publish(ines, draft, seen).expect(200).json().path("position").asLong();
    assertThat(held("maren")).contains(title("Tide Table"));
    JsonNode entry = ines.get("/api/ledger/" + position).expect(200).json().path("entry");
    assertThat(entry.path("details").path("for").asString()).contains(id("maren"));
  }

  private String rule(String one, String other) {
    return server
        .signedIn("ines")
        .post("/api/rules", ruleForm(name("Apart"), List.of(one), List.of(other)))
        .expect(200)
        .json()
        .path("result")
        .asString();
  }

  private static Map<String, Object> ruleForm(String name, List<String> one, List<String> other) {
    return Map.of(
        "wanted",
        Map.of(
            "name",
            name,
            "why",
            "One could pay oneself.",
            "sides",
            Map.of("one", one, "other", other)),
        "reason",
        "");
  }

  private static Map<String, Object> exception(String person, String one, String other) {
    return Map.of(
        "person",
        person,
        "one",
        one,
        "other",
        other,
        "until",
        LocalDate.now().plusDays(20).toString(),
        "reason",
        "Until the lead is back.");
  }

  @Test
  void whatARuleKeepsApartComesIntoOneHandOnlyWhereItIsAccepted() {
    String one = role("Refunds");
    String other = role("Till");
    give(ines, one, "person", id("nils")).expect(200);
    give(ines, one, "person", id("oda")).expect(200);
    give(ines, other, "person", id("oda")).expect(200);
    assertThat(
            ines.post("/api/rules/preview", Map.of("one", List.of(one), "other", List.of(other)))
                .expect(200)
                .json())
        .hasSize(1);
    assertThat(
            ines.post("/api/rules", ruleForm(name("Both"), List.of(one), List.of(one)))
                .expect(422)
                .problems())
        .contains("rule.overlap");
    String rule = rule(one, other);
    // Who broke it before stops nothing; it lies on the docket.
    assertThat(ines.get("/api/docket").json().path("folds").findValuesAsString("id"))
        .contains(rule);
    assertThat(give(ines, other, "person", id("nils")).expect(422).problems()).contains("conflict");

    String draft = open(ines, name("Answered"));
    give(ines, other, "person", id("nils")).expect(200);
    JsonNode told = look(ines, draft);
    JsonNode conflict = told.path("moments").path(0).path("conflicts").path(0);
    assertThat(conflict.path("stops").asBoolean()).isTrue();
    assertThat(conflict.path("person").path("displayed").asString()).isEqualTo("Nils Sand");
    assertThat(publish(ines, draft, told.path("digest").asString()).expect(422).problems())
        .contains("conflict");
    ines.post("/api/rules/" + rule + "/exceptions", exception(id("nils"), one, other)).expect(200);
    JsonNode answered = look(ines, draft);
    assertThat(answered.path("moments").path(0).path("conflicts")).isEmpty();
    publish(ines, draft, answered.path("digest").asString()).expect(200);
    assertThat(held("nils")).contains(title("Till"), title("Refunds"));
    JsonNode breaches = ines.get("/api/rules/" + rule).expect(200).json().path("breaches");
    assertThat(breaches).hasSize(2);

    // Nobody excepts themselves, nor without the power.
    ines.gatherInto(null);
    assertThat(
            ines.post("/api/rules/" + rule + "/exceptions", exception(id("ines"), one, other))
                .expect(403)
                .problems())
        .contains("own-gain");
    server
        .signedIn("jonas")
        .post("/api/rules/" + rule + "/exceptions", exception(id("oda"), one, other))
        .expect(403);
    assertThat(ines.delete("/api/rules/" + rule + "?reason=").expect(422).problems())
        .contains("rule.no-reason");
    ines.delete("/api/rules/" + rule + "?reason=over").expect(200);
    ines.get("/api/rules/" + rule).expect(404);
  }

  @Test
  void nobodyGainsByAFilterTwoGroupsAway() {
    String filtered =
        ines.post(
                "/api/groups",
                Map.of("name", name("By filter"), "filter", "unit eq \"Nowhere\"", "reason", ""))
            .expect(200)
            .json()
            .path("result")
            .asString();
    String called = ines.get("/api/groups/" + filtered).json().path("name").asString();
    String middle = group(ines, name("Middle"));
    String top = group(ines, name("Top"));
    for (String[] edge : new String[][] {{middle, filtered}, {top, middle}}) {
      ines.post(
              "/api/groups/" + edge[0] + "/members",
              Map.of("people", List.of(), "groups", List.of(edge[1]), "reason", ""))
          .expect(200);
    }
    give(ines, role("Farebox"), "group", top).expect(200);
    Visitor maren = server.signedIn("maren");
    String draft = open(maren, name("Filter"));
    Visitor.Answer set =
        maren.put(
            "/api/groups/" + filtered + "/filter",
            Map.of("base", "unit eq \"Nowhere\"", "filter", "userName eq \"maren\"", "reason", ""));
    set.expect(200);
    assertThat(publish(maren, draft).expect(403).problems()).contains("own-gain");
    assertThat(called).isNotEmpty();
    assertThat(held("maren")).doesNotContain(title("Farebox"));
  }

  @Test
  void manyWorkAtOnceAndEachFindsTheirOwn() throws Exception {
    String group = group(ines, name("Crowd"));
    give(ines, role("Farebox"), "group", group).expect(200);
    List<Visitor> visitors = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      visitors.add(server.signedIn(i % 2 == 0 ? "ines" : "maren"));
    }
    List<Callable<Integer>> work = new ArrayList<>();
    for (Visitor visitor : visitors) {
      work.add(
          () -> {
            int made = 0;
            for (int i = 0; i < 25; i++) {
              String draft = open(visitor, name("Of many"));
              made += join(visitor, group, id(i % 2 == 0 ? "oda" : "lena")).status() == 200 ? 1 : 0;
              visitor.get("/api/drafts").expect(200);
              visitor.delete("/api/drafts/" + draft).expect(200);
            }
            return made;
          });
    }
    int made = 0;
    try (ExecutorService crowd = Executors.newFixedThreadPool(work.size())) {
      for (Future<Integer> each : crowd.invokeAll(work)) {
        made += each.get();
      }
    }
    assertThat(made).isEqualTo(200);
    assertThat(ines.gatherInto(null).get("/api/groups/" + group).json().path("people").asInt())
        .isZero();
  }

  /** Lets what was set for a later moment be due now. */
  private void comes(String kind, String draft) {
    server
        .context()
        .getBean(DSLContext.class)
        .update(DUE)
        .set(DUE.DUE_AT, Instant.now())
        .where(DUE.KIND.eq(kind), DUE.SUBJECT.eq(draft))
        .execute();
  }

  private String stage(String draft) {
    return draft(ines, draft).path("draft").path("stage").asString();
  }

  @Test
  void aDraftIsPublishedAtItsMomentAndRevertAtItsDay() {
    String group = group(ines, name("Regatta"));
    join(ines, group, id("nils")).expect(200);
    String draft = open(ines, name("Regatta weekend"));
    give(ines, role("Farebox"), "group", group).expect(200);
    String digest = look(ines, draft).path("digest").asString();
    Map<String, Object> when =
        Map.of(
            "day",
            LocalDate.now().plusDays(2).toString(),
            "hour",
            "06:30:00",
            "revertOn",
            LocalDate.now().plusDays(4).toString());
    assertThat(
            publish(ines, draft, digest, null, Map.of("day", "2026-01-01", "hour", "06:30:00"))
                .expect(422)
                .problems())
        .contains("draft.past");
    publish(ines, draft, digest, null, when).expect(200);
    assertThat(stage(draft)).isEqualTo("scheduled");
    assertThat(held("nils")).doesNotContain(title("Farebox"));
    comes("draft-publish", draft);
    Visitor.until("published", () -> stage(draft).equals("published"));
    assertThat(held("nils")).contains(title("Farebox"));
    comes("draft-revert", draft);
    Visitor.until("put back", () -> !held("nils").contains(title("Farebox")));
    JsonNode entries = ines.get("/api/ledger?limit=5").expect(200).json();
    assertThat(entries.findValuesAsString("actor")).contains("clock");
  }

  @Test
  void aDraftHoldsItselfWhereMoreWouldGainThanWasSeen() {
    String group = group(ines, name("Held"));
    join(ines, group, id("nils")).expect(200);
    String draft = open(ines, name("Holds"));
    give(ines, role("Farebox"), "group", group).expect(200);
    String digest = look(ines, draft).path("digest").asString();
    publish(ines, draft, digest, null, Map.of("day", LocalDate.now().plusDays(2).toString()))
        .expect(200);
    join(server.signedIn("ines"), group, id("jonas")).expect(200);
    comes("draft-publish", draft);
    Visitor.until("held", () -> stage(draft).equals("held"));
    assertThat(ines.get("/api/docket").json().path("folds").findValuesAsString("id"))
        .contains(draft);
    assertThat(draft(ines, draft).path("heldWhy").asString()).contains("More people");
    assertThat(held("jonas")).doesNotContain(title("Farebox"));
    publish(ines, draft).expect(200);
    assertThat(held("jonas")).contains(title("Farebox"));
  }

  @Test
  void whatWasPublishedIsRevertButForWhatOthersHaveChangedSince() {
    String called = name("Before");
    String group = group(ines, called);
    join(ines, group, id("oda")).expect(200);
    give(ines, role("Crewsheet"), "group", group).expect(200);
    String grant = grantTo(role("Crewsheet"), called);
    String draft = open(ines, name("Tidy"));
    end(ines, grant).expect(200);
    ines.put("/api/groups/" + group + "/name", Map.of("base", called, "name", name("After")))
        .expect(200);
    join(ines, group, id("nils")).expect(200);
    publish(ines, draft).expect(200);
    ines.gatherInto(null);
    String now = ines.get("/api/groups/" + group).json().path("name").asString();
    String renamed = name("Meanwhile");
    ines.put("/api/groups/" + group + "/name", Map.of("base", now, "name", renamed)).expect(200);

    String back =
        ines.post("/api/drafts/" + draft + "/revert", Map.of("name", "Revert: Tidy"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    JsonNode told = draft(ines, back);
    assertThat(told.path("reverts").path("since").asInt()).isEqualTo(1);
    Map<String, String> fates = new HashMap<>();
    told.path("reverts")
        .path("lines")
        .forEach(l -> fates.put(l.path("kind").asString(), l.path("fate").asString()));
    assertThat(fates)
        .containsEntry("GROUP_NAME", "clashes")
        .containsEntry("MEMBERSHIP", "applies")
        .containsEntry("GRANT", "applies");
    publish(ines, back).expect(200);
    assertThat(ines.get("/api/groups/" + group).json().path("name").asString()).isEqualTo(renamed);
    assertThat(held("oda")).contains(title("Crewsheet"));
    assertThat(ines.get("/api/groups/" + group).json().path("people").asInt()).isEqualTo(1);
    JsonNode grants = ines.get("/api/entitlements/" + role("Crewsheet")).json().path("grants");
    assertThat(grants.findValuesAsString("reason")).contains("Revert: Tidy");
  }

  @Test
  void aRepeatedEditIsMadeOnceAndNonsenseChangesNothing() {
    String draft = open(ines, name("Repeats"));
    String key = UUID.randomUUID().toString();
    Map<String, String> form = Map.of("name", name("Once"), "reason", "");
    ines.send("POST", "/api/groups", form, key).expect(200);
    ines.send("POST", "/api/groups", form, key).expect(200);
    assertThat(draft(ines, draft).path("edits")).hasSize(1);
    assertThat(ines.gatherInto("nonsense").post("/api/groups", form).expect(422).problems())
        .contains("draft.unknown");
    ines.gatherInto(UUID.randomUUID().toString()).post("/api/groups", form).expect(404);
    ines.gatherInto(draft);
    for (String nonsense :
        List.of(
            "/consequences/people?at=2020-01-01T00:00:00Z&sign=gain",
            "/consequences/people?at=9999-01-01T00:00:00Z&sign=gain")) {
      assertThat(
              ines.get("/api/drafts/" + draft + nonsense).expect(200).json().path("total").asInt())
          .isZero();
    }
    ines.get("/api/drafts/" + draft + "/consequences/people?sign=%27or%201=1").expect(200);
    ines.post("/api/drafts", Map.of("name", " ")).expect(422);
    ines.post("/api/drafts", Map.of("name", "x".repeat(81))).expect(422);
    publish(ines, draft, "x", null, Map.of("reason", " ")).expect(422);
    assertThat(server.context().getBean(DSLContext.class).fetchCount(DRAFT_EDIT)).isPositive();
    ines.delete("/api/drafts/" + draft).expect(200);
    assertThat(stage(draft)).isEqualTo("dropped");
    // What was neither shared nor done stays whose it was, also before the auditor.
    server.signedIn("jonas").get("/api/drafts/" + draft).expect(404);
    assertThat(join(ines, seed.desk().value().toString(), id("oda")).expect(409).problems())
        .contains("draft.stage");
  }

  /** Gives something to Oda and Nils in a draft of its own. */
  private void given(String role, boolean tell) {
    String draft = open(ines, name("Given"));
    for (String person : List.of("oda", "nils")) {
      give(ines, role, "person", id(person)).expect(200);
    }
    String digest = look(ines, draft).path("digest").asString();
    publish(ines, draft, digest, null, Map.of("tell", tell)).expect(200);
  }

  /** Ends it again, and says who is sent a mail of that. */
  private List<String> toldOfTheEnd(String role) {
    List<Object> grants = new ArrayList<>();
    ines.get("/api/entitlements/" + role)
        .expect(200)
        .json()
        .path("grants")
        .forEach(grant -> grants.add(grant.path("id").asString()));
    String draft = open(ines, name("Ended"));
    ines.post(
            "/api/grants/end",
            Map.of("grants", grants, "memberships", List.of(), "reason", "a slip"))
        .expect(200);
    String digest = look(ines, draft).path("digest").asString();
    publish(ines, draft, digest, null, Map.of("tell", true)).expect(200);
    DSLContext db = server.context().getBean(DSLContext.class);
    Visitor.until(
        "its mails are laid out",
        () ->
            db.fetchExists(
                OUTBOX,
                OUTBOX.KIND.eq("draft"),
                OUTBOX.SUBJECT_ID.eq(UUID.fromString(draft)),
                OUTBOX.DONE_AT.isNotNull()));
    return db.select(OUTBOX.PERSON_ID)
        .from(OUTBOX)
        .where(OUTBOX.KIND.eq("draft-each"), OUTBOX.SUBJECT_ID.eq(UUID.fromString(draft)))
        .fetch(row -> row.value1().toString());
  }

  @Test
  void theEndOfWhatNobodyWasToldOfIsNoNews() {
    OwnApp app = OwnApp.open(server, name("Slipway"));
    given(app.role(), false);
    assertThat(toldOfTheEnd(app.role())).isEmpty();
    given(app.role(), true);
    assertThat(toldOfTheEnd(app.role())).containsExactlyInAnyOrder(id("oda"), id("nils"));
  }
}
