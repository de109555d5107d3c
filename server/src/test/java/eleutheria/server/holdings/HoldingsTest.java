package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.OUTBOX;
import static eleutheria.server.tables.Tables.QUERY;
import static eleutheria.server.tables.Tables.REPORT_MADE;
import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The map of holdings, queries, reports, use and hints, over HTTP. */
class HoldingsTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");
  private final DSLContext db = server.context().getBean(DSLContext.class);

  private String id(String userName) {
    return seed.person(userName).value().toString();
  }

  private static LocalDate today() {
    return LocalDate.now(ZONE);
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  private void give(String role, String reason, String... userNames) {
    List<Map<String, Object>> subjects =
        Arrays.stream(userNames)
            .map(
                name -> {
                  Map<String, Object> subject = new HashMap<>();
                  subject.put("kind", "person");
                  subject.put("id", id(name));
                  return subject;
                })
            .toList();
    ines.post(
            "/api/entitlements/" + role + "/grants", Map.of("subjects", subjects, "reason", reason))
        .expect(200);
  }

  private List<String> grants(String role) {
    List<String> ids = new ArrayList<>();
    ines.get("/api/entitlements/" + role)
        .expect(200)
        .json()
        .path("grants")
        .forEach(grant -> ids.add(grant.path("id").asString()));
    return ids;
  }

  private void end(List<String> grants) {
    ines.post(
            "/api/grants/end",
            Map.of("grants", grants, "memberships", List.of(), "reason", "not needed"))
        .expect(200);
  }

  /** A query about one role. */
  private static Map<String, Object> about(String role) {
    return Map.of("asked", Map.of("entitlements", List.of(role)));
  }

  private static JsonNode answer(Visitor visitor, Map<String, Object> spec) {
    return visitor.post("/api/queries/answer", Map.of("spec", spec)).expect(200).json();
  }

  // ---- the map

  @Test
  void cellsAreThePeopleWhoHoldIt() {
    String role = OwnApp.open(server, "Mapped").role();
    give(role, "by an administrator", "oda", "lena", "nils");
    JsonNode map = ines.get("/api/holdings/map?entitlements=" + role).expect(200).json();
    assertThat(map.path("held").asInt()).isEqualTo(3);
    assertThat(map.path("columnHeads").path(0).path("count").asInt()).isEqualTo(3);
    Map<String, Integer> byUnit = new HashMap<>();
    for (JsonNode cell : map.path("cells")) {
      byUnit.put(
          map.path("rowHeads").path(cell.path(0).asInt()).path("name").asString(),
          cell.path(2).asInt());
    }
    assertThat(byUnit).isEqualTo(Map.of("Ticketing", 2, "Deck crew", 1));
    // A unit opens to its people, and says how many others there are.
    JsonNode open =
        ines.get("/api/holdings/map?entitlements=" + role + "&only=hand&open=Ticketing")
            .expect(200)
            .json();
    assertThat(open.path("rowHeads").findValuesAsString("name"))
        .containsExactly("Deck crew", "Ticketing", "Aho, Lena", "Brekke, Oda", "Ticketing");
    assertThat(open.path("rowHeads").path(4).path("kind").asString()).isEqualTo("rest");
    JsonNode marked =
        ines.get("/api/holdings/mark?keys=Ticketing&marked=" + role).expect(200).json();
    assertThat(marked.path("people").asInt()).isEqualTo(2);
    assertThat(marked.path("elsewhere").asInt()).isEqualTo(1);
    assertThat(marked.path("signs").path(0).path("signs").path(0).path("by").asString())
        .isEqualTo("person");
    JsonNode table = ines.get("/api/holdings/cells?entitlements=" + role).expect(200).json();
    assertThat(table.path("total").asInt()).isEqualTo(2);
  }

  @Test
  void everyoneSeesTheirReachAlone() {
    String role = OwnApp.open(server, "Reached").role();
    give(role, "by an administrator", "oda", "nils", "jonas");
    String path = "/api/holdings/map?entitlements=" + role;
    assertThat(ines.get(path).expect(200).json().path("held").asInt()).isEqualTo(3);
    // Whose reach is Ticketing: those of Ticketing. Who leads Oda: Oda.
    for (String reader : List.of("maren", "lena")) {
      Visitor visitor = server.signedIn(reader);
      assertThat(visitor.get(path).expect(200).json().path("held").asInt()).as(reader).isEqualTo(1);
      assertThat(answer(visitor, about(role)).path("total").asInt()).as(reader).isEqualTo(1);
      assertThat(
              visitor
                  .get("/api/holdings/mark?marked=" + role)
                  .expect(200)
                  .json()
                  .path("people")
                  .asInt())
          .as(reader)
          .isEqualTo(1);
    }
    // Who owns another app and leads nobody sees that app, and their own.
    Visitor oda = server.signedIn("oda");
    JsonNode own = oda.get("/api/holdings/map?size=0&width=200").expect(200).json();
    assertThat(own.path("apps").findValuesAsString("name"))
        .contains("Tide Table")
        .anyMatch(name -> name.startsWith("Reached"));
    assertThat(oda.get(path).expect(200).json().path("held").asInt()).isEqualTo(1);
    assertThat(
            oda.post("/api/reports-made", Map.of("name", "x", "spec", about(role), "format", "csv"))
                .expect(200)
                .body()
                .lines())
        .hasSize(2);
    // Nobody without power, app or team.
    assertThat(RunningServer.shared().signedIn("oda").get("/api/holdings/map").status())
        .isEqualTo(403);
  }

  @Test
  void whatCannotBeAskedIsToldClearly() {
    assertThat(ines.get("/api/holdings/map?where=" + encoded("unit eq")).expect(422).problems())
        .contains("filter.unreadable");
    String past = Instant.now().minusSeconds(5).toString();
    assertThat(ines.get("/api/holdings/map?only=ending&asOf=" + past).expect(422).problems())
        .contains("ending.past");
    assertThat(ines.get("/api/holdings/map?from=2026-03-01").expect(422).problems())
        .contains("span.half");
    assertThat(
            ines.get("/api/holdings/map?from=2026-03-02&until=2026-03-01").expect(422).problems())
        .contains("span.empty");
    assertThat(ines.get("/api/holdings/map?asOf=1999-01-01T00:00:00Z").expect(422).problems())
        .contains("as-of.before-the-first-act");
    for (String bad :
        List.of(
            "order=best",
            "sensitivities=enormous",
            "only=everything",
            "days=0",
            "entitlements=x",
            "open=" + "x".repeat(8001))) {
      assertThat(ines.get("/api/holdings/map?" + bad).status()).as(bad).isEqualTo(400);
    }
    assertThat(ines.get("/api/holdings/map?rows=no-such&row=-5&size=9999999").status())
        .isEqualTo(200);
    assertThat(ines.get("/api/holdings/mark?marked=" + UUID.randomUUID()).status()).isEqualTo(404);
  }

  @Test
  void whoHeldItAtAnyTimeIsFoundThoughNobodyHoldsItNow() {
    String role = OwnApp.open(server, "Once").role();
    String before = Instant.now().toString();
    give(role, "for an hour", "oda");
    give(role, "for long", "nils");
    end(List.of(grants(role).getFirst()));
    JsonNode now = ines.get("/api/holdings/map?entitlements=" + role).expect(200).json();
    assertThat(now.path("held").asInt()).isEqualTo(1);
    Map<String, Object> during =
        Map.of(
            "asked",
            Map.of(
                "entitlements", List.of(role),
                "from", today().toString(),
                "until", today().toString()));
    JsonNode told = answer(ines, during);
    assertThat(told.path("total").asInt()).isEqualTo(2);
    assertThat(told.path("columns").findValuesAsString("name")).contains("held");
    // Between two moments: one gained and is still there; who came and went is in neither.
    JsonNode compared =
        ines.get("/api/holdings/map?entitlements=" + role + "&against=" + before)
            .expect(200)
            .json();
    assertThat(compared.path("cells")).hasSize(1);
    assertThat(compared.path("cells").path(0).path(2).asInt()).isEqualTo(1);
    assertThat(compared.path("cells").path(0).path(6).asInt()).as("lost").isZero();
    // Each change with its day, and whose act it was.
    JsonNode changes =
        answer(ines, Map.of("asked", Map.of("entitlements", List.of(role), "against", before)));
    assertThat(changes.path("columns").findValuesAsString("name"))
        .containsSubsequence("change", "on", "by");
    assertThat(changes.path("rows").path(0).path("values").toString())
        .contains("gained", today().toString(), "Ines Roth");
  }

  @Test
  void whatIsMarkedEndsAsFarAsItStandsOnItsOwn() {
    String role = OwnApp.open(server, "Ending").role();
    give(role, "by an administrator", "oda", "nils");
    Map<String, Object> subject = new HashMap<>();
    subject.put("kind", "filter");
    subject.put("filter", "userName eq \"nils\"");
    ines.post(
            "/api/entitlements/" + role + "/grants",
            Map.of("subjects", List.of(subject), "reason", "as well"))
        .expect(200);
    JsonNode endings = ines.get("/api/holdings/endings?marked=" + role).expect(200).json();
    assertThat(endings.path("ends").asInt()).isEqualTo(1);
    assertThat(endings.path("grants")).hasSize(2);
    assertThat(endings.path("stays").path(0).path("person").path("userName").asString())
        .isEqualTo("nils");
    assertThat(
            ines.get("/api/holdings/endings?marked=" + role + "&from=2026-01-01&until=2026-01-02")
                .expect(422)
                .problems())
        .contains("endings.past");
    // Who may only look is not told how.
    assertThat(server.signedIn("jonas").get("/api/holdings/endings?marked=" + role).status())
        .isEqualTo(403);
  }

  // ---- queries

  private static Map<String, Object> terms(String name, Map<String, Object> spec, String every) {
    return Map.of("name", name, "why", "", "spec", spec, "shared", false, "every", every);
  }

  @Test
  void aQueryIsKeptByItsOwner() {
    Visitor jonas = server.signedIn("jonas");
    Map<String, Object> spec = about(OwnApp.open(server, "Asked").role());
    assertThat(jonas.post("/api/queries", terms(" ", spec, "never")).expect(422).problems())
        .contains("query.no-name");
    String id =
        jonas
            .send("POST", "/api/queries", terms("Mine", spec, "never"), "key-1")
            .expect(200)
            .json()
            .path("result")
            .asString();
    // Sent again, it is the same one.
    assertThat(
            jonas
                .send("POST", "/api/queries", terms("Mine", spec, "never"), "key-1")
                .expect(200)
                .json()
                .path("result")
                .asString())
        .isEqualTo(id);
    assertThat(jonas.post("/api/queries", terms("Mine", spec, "never")).expect(422).problems())
        .contains("query.name-taken");
    assertThat(ines.get("/api/queries/" + id).status()).as("not shared").isEqualTo(404);
    Map<String, Object> shared = new HashMap<>(terms("Mine", spec, "quarter"));
    shared.put("shared", true);
    shared.put("version", 1);
    jonas.put("/api/queries/" + id, shared).expect(200);
    JsonNode seen = ines.get("/api/queries/" + id).expect(200).json();
    assertThat(seen.path("mine").asBoolean()).isFalse();
    assertThat(seen.path("next").asString()).endsWith("-01");
    assertThat(jonas.put("/api/queries/" + id, shared).expect(409).problems())
        .contains("changed-meanwhile");
    assertThat(ines.put("/api/queries/" + id, shared).status()).isEqualTo(404);
    assertThat(ines.post("/api/queries/" + id + "/drop", null).status()).isEqualTo(404);
    jonas.post("/api/queries/" + id + "/drop", null).expect(200);
    assertThat(jonas.get("/api/queries/" + id).status()).isEqualTo(404);
    // What cannot be answered is not kept.
    assertThat(
            jonas
                .post(
                    "/api/queries",
                    terms("Bad", Map.of("asked", Map.of("where", "unit eq")), "never"))
                .expect(422)
                .problems())
        .contains("filter.unreadable");
  }

  @Test
  void aQueryIsSentOnItsDay() {
    Visitor jonas = server.signedIn("jonas");
    Map<String, Object> spec = about(OwnApp.open(server, "Sent").role());
    UUID id =
        UUID.fromString(
            jonas
                .post("/api/queries", terms("Weekly", spec, "week"))
                .expect(200)
                .json()
                .path("result")
                .asString());
    // As if its day had been yesterday.
    LocalDate yesterday = today().minusDays(1);
    db.update(QUERY).set(QUERY.NEXT_ON, yesterday).where(QUERY.QUERY_ID.eq(id)).execute();
    db.update(DUE)
        .set(DUE.DUE_AT, yesterday.atTime(6, 0).atZone(ZONE).toInstant())
        .where(DUE.SUBJECT.eq(id.toString()))
        .execute();
    Visitor.until(
        "it is in the outbox",
        () -> db.fetchExists(OUTBOX, OUTBOX.KIND.eq("query"), OUTBOX.SUBJECT_ID.eq(id)));
    assertThat(
            db.select(QUERY.NEXT_ON)
                .from(QUERY)
                .where(QUERY.QUERY_ID.eq(id))
                .fetchOne(QUERY.NEXT_ON))
        .isAfter(today());
    assertThat(db.fetchCount(DUE, DUE.SUBJECT.eq(id.toString()))).isEqualTo(1);
  }

  // ---- reports

  @Test
  void aReportIsCheckedByItsFileAndByItsNumber() {
    String role = OwnApp.open(server, "Reported").role();
    give(role, "=HYPERLINK(\"http://x.example\")", "oda", "nils");
    Visitor jonas = server.signedIn("jonas");
    Map<String, Object> spec = new HashMap<>(about(role));
    spec.put("columns", List.of("person", "role", "grounds", "givenBy", "reason", "since"));
    Visitor.Answer file =
        jonas
            .post("/api/reports-made", Map.of("name", "Two", "spec", spec, "format", "csv"))
            .expect(200);
    String number = file.response().headers().firstValue("Report-Number").orElseThrow();
    assertThat(file.body())
        .startsWith("person,role,grounds,givenBy,reason,since\r\n")
        .contains("\"Brekke, Oda\",User,person/hand,Ines Roth,\"'=HYPERLINK(\"\"http");
    byte[] bytes = file.body().getBytes(StandardCharsets.UTF_8);
    // Whatever happens afterwards, it stays what it was.
    end(grants(role));
    JsonNode checked = jonas.upload("/api/reports-made/check", bytes).expect(200).json();
    assertThat(checked.path("file").asBoolean()).isTrue();
    assertThat(checked.path("ledger").asBoolean()).isTrue();
    assertThat(checked.path("facts").asString()).isEqualTo("yes");
    assertThat(checked.path("linesNow").asInt()).isEqualTo(2);
    byte[] forged = file.body().replace("Nils", "Nina").getBytes(StandardCharsets.UTF_8);
    assertThat(
            jonas
                .upload("/api/reports-made/check", forged)
                .expect(200)
                .json()
                .path("report")
                .isNull())
        .isTrue();
    String check = "/api/reports-made/" + number + "/check";
    assertThat(ines.post(check, null).expect(200).json().path("facts").asString()).isEqualTo("yes");
    assertThat(server.signedIn("oda").post(check, null).status()).as("not theirs").isEqualTo(404);
    assertThat(jonas.post("/api/reports-made/999999/check", null).status()).isEqualTo(404);
    // What was put on record of it does not fit any more: somebody has been at the database.
    db.update(REPORT_MADE)
        .set(REPORT_MADE.DIGEST, "0".repeat(64))
        .where(REPORT_MADE.REPORT_NO.eq(Long.parseLong(number)))
        .execute();
    assertThat(jonas.post(check, null).expect(200).json().path("facts").asString()).isEqualTo("no");
    // Who took out what stands in the ledger.
    assertThat(ines.get("/api/ledger?act=ACCESS_REPORT_MADE").expect(200).body())
        .contains("ACCESS_REPORT_MADE");
  }

  @Test
  void aReportComesAsJsonLinesAndAsPdf() {
    String role = OwnApp.open(server, "Formats").role();
    give(role, "by an administrator", "oda");
    Map<String, Object> form = new HashMap<>(Map.of("name", "One", "spec", about(role)));
    form.put("format", "jsonl");
    List<String> lines = ines.post("/api/reports-made", form).expect(200).body().lines().toList();
    assertThat(lines).hasSize(3);
    assertThat(lines.getFirst()).contains("\"position\":").contains("\"entryHash\":\"");
    assertThat(lines.get(1)).contains("\"person\":\"Brekke, Oda\"");
    assertThat(lines.getLast()).contains("\"lines\":1").contains("\"digest\":\"");
    form.put("format", "pdf");
    assertThat(ines.post("/api/reports-made", form).expect(200).body()).startsWith("%PDF-");
    form.put("format", "exe");
    assertThat(ines.post("/api/reports-made", form).status()).isEqualTo(400);
  }

  // ---- use

  @Test
  void onlyWhoMaySeesWhenSomebodyUsedSomething() {
    String role = seed.shop().role("Quaynotes").value().toString();
    String holding = "/api/people/" + id("oda") + "/holdings/" + role;
    server.signedIn("oda").get("/go/" + seed.shop().tile("Quaynotes").value());
    Visitor jonas = server.signedIn("jonas");
    assertThat(jonas.get(holding).expect(200).json().path("lastOpened").isNull()).isFalse();
    // Lena leads Oda; when Oda used what is still not hers to see, nor whether she left it alone.
    Visitor lena = server.signedIn("lena");
    lena.get("/api/people/" + id("oda") + "/holdings")
        .expect(200)
        .json()
        .path("held")
        .forEach(
            line -> {
              assertThat(line.path("lastOpened").isNull()).isTrue();
              assertThat(line.path("unused").isNull()).isTrue();
            });
    assertThat(lena.get(holding).expect(200).json().path("lastOpened").isNull()).isTrue();
    assertThat(lena.get("/api/people/" + id("oda") + "/use").status()).isEqualTo(404);
    assertThat(
            lena.get("/api/holdings/mark?marked=" + role + "&person=" + id("oda"))
                .expect(200)
                .json()
                .path("use")
                .isNull())
        .isTrue();
    assertThat(answer(lena, about(role)).path("rows").path(0).path("values").toString())
        .doesNotContain(today().toString() + "\"]");
    JsonNode own =
        server.signedIn("oda").get("/api/people/" + id("oda") + "/use").expect(200).json();
    assertThat(own.path("tiles").path(0).path("name").asString()).isEqualTo("Quaynotes");
    assertThat(own.path("lastSignIn").isNull()).isFalse();
    // Counts of their app are told to owners where enough hold it; sign-ins of all are not.
    JsonNode counts = lena.get("/api/use").expect(200).json();
    assertThat(counts.path("apps").findValuesAsString("name"))
        .doesNotContain("Crewsheet", "Quaynotes", "Refund Bench", "Tide Table");
    assertThat(counts.path("signIns")).isEmpty();
    assertThat(jonas.get("/api/use").expect(200).json().path("signIns")).hasSize(104);
  }

  // ---- hints

  @Test
  void aHintIsDraftedOrSetAside() {
    String role = OwnApp.open(server, "Hinted").role();
    give(role, "one by one", "maren", "lena", "oda");
    assertThat(
            server
                .signedIn("maren")
                .put(
                    "/api/hints/thresholds",
                    Map.of("days", 90, "peers", 2, "share", 10, "nearlyAll", 90))
                .status())
        .as("within Ticketing alone")
        .isEqualTo(403);
    ines.put("/api/hints/thresholds", Map.of("days", 90, "peers", 2, "share", 10, "nearlyAll", 90))
        .expect(200);
    assertThat(
            ines.put(
                    "/api/hints/thresholds",
                    Map.of("days", 0, "peers", 2, "share", 10, "nearlyAll", 90))
                .status())
        .isEqualTo(400);
    JsonNode hint = hint(role, false);
    assertThat(hint.path("filter").asString()).isEqualTo("unit eq \"Ticketing\"");
    assertThat(hint.path("draft").path("ends")).hasSize(3);
    // The rule moves nobody, and then ending what it replaces moves nobody either.
    Map<String, Object> subject = new HashMap<>();
    subject.put("kind", "filter");
    subject.put("filter", hint.path("filter").asString());
    JsonNode ahead =
        ines.foresee(
                "POST",
                "/api/entitlements/" + role + "/grants",
                Map.of("subjects", List.of(subject), "reason", "a rule"))
            .expect(200)
            .json()
            .path("foreseen");
    assertThat(ahead.path("moments")).isEmpty();
    String key = hint.path("key").asString();
    assertThat(
            ines.post("/api/hints/aside", Map.of("key", key, "reason", " ")).expect(422).problems())
        .contains("hint.no-reason");
    ines.post("/api/hints/aside", Map.of("key", key, "reason", "They change in May")).expect(200);
    assertThat(hint(role, false)).isNull();
    assertThat(hint(role, true).path("aside").path("reason").asString())
        .isEqualTo("They change in May");
    ines.post("/api/hints/back", Map.of("key", key)).expect(200);
    assertThat(hint(role, false)).isNotNull();
    assertThat(ines.post("/api/hints/aside", Map.of("key", "none", "reason", "x")).status())
        .isEqualTo(404);
  }

  private JsonNode hint(String role, boolean aside) {
    for (JsonNode kind : ines.get("/api/hints?aside=" + aside).expect(200).json().path("kinds")) {
      for (JsonNode hint : kind.path("hints")) {
        if (kind.path("kind").asString().equals("RULE")
            && hint.path("entitlement").path("id").asString().equals(role)) {
          return hint;
        }
      }
    }
    return null;
  }
}
