package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What is asked in a way that cannot be answered is said, at its field, and changes nothing. */
class RefusalsTest {
  private final RunningServer server = RunningServer.shop();
  private final Visitor ines = server.signedIn("ines");

  private long position() {
    return ines.get("/api/session").json().path("position").asLong();
  }

  private static void says(Visitor.Answer answer, String code, String field) {
    JsonNode problems = answer.expect(422).json().path("problems");
    assertThat(problems.findValuesAsString("code")).as(answer.body()).contains(code);
    for (JsonNode problem : problems) {
      if (problem.path("code").asString().equals(code)) {
        assertThat(problem.path("field").asString()).isEqualTo(field);
        assertThat(problem.path("sentence").asString()).endsWith(".").hasSizeGreaterThan(15);
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "/api/people?asOf=2999-01-01T00:00:00Z, as-of.to-come, asOf",
    "/api/people?asOf=1999-01-01T00:00:00Z, as-of.before-the-first-act, asOf",
    "/api/apps?asOf=2999-01-01T00:00:00Z, as-of.to-come, asOf",
    "/api/holdings/map?where=unit%20eq, filter.unreadable, where",
    "/api/holdings/map?only=unused&asOf=ASOF, unused.past, only",
  })
  void aMomentOrAFilterThatCannotBeAnswered(String path, String code, String field) {
    String asOf =
        Instant.parse(ines.get("/api/session").json().path("begins").asString())
            .plusSeconds(3600)
            .toString();
    says(ines.get(path.replace("ASOF", asOf)), code, field);
  }

  @Test
  void aPreviewIsAsSomebodyWhoIsThere() {
    Map<String, Object> form = new HashMap<>();
    form.put("as", "nobody else");
    says(ines.post("/api/previews", form), "preview.as", "as");
    form.put("as", "typical");
    form.put("unit", "No such unit");
    says(ines.post("/api/previews", form), "preview.nobody", "unit");
  }

  @Test
  void aSubjectIsAPersonAGroupOrAFilter() {
    String role = ines.get("/api/apps?find=Quaynotes").json().at("/lines/0/app/id").asString();
    String entitlement =
        ines.get("/api/apps/" + role)
            .json()
            .findValue("entitlements")
            .path(0)
            .findValue("id")
            .asString();
    Map<String, Object> subject = new HashMap<>();
    subject.put("kind", "tide");
    subject.put("id", UUID.randomUUID());
    subject.put("filter", null);
    Map<String, Object> form = new HashMap<>();
    form.put("subjects", List.of(subject));
    form.put("reason", "tried");
    long before = position();
    says(
        ines.post("/api/entitlements/" + entitlement + "/grants", form),
        "subject.kind",
        "subjects");
    assertThat(position()).isEqualTo(before);
  }

  @Test
  void aDraftHasANameAndACommentSaysSomething() {
    says(ines.post("/api/drafts", Map.of("name", " ")), "draft.no-name", "name");
    String draft =
        ines.post("/api/drafts", Map.of("name", "Refused"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    try {
      says(
          ines.post("/api/drafts/" + draft + "/comments", Map.of("text", " ")),
          "draft.comment",
          "text");
    } finally {
      ines.delete("/api/drafts/" + draft);
    }
  }

  @Test
  void anEntryThatChangedNothingIsNotReverted() {
    // Setting the hints' thresholds is an entry, and changes no fact.
    long nothing =
        ines.put(
                "/api/hints/thresholds",
                Map.of("days", 90, "peers", 5, "share", 10, "nearlyAll", 90))
            .expect(200)
            .json()
            .path("position")
            .asLong();
    says(
        ines.post("/api/ledger/" + nothing + "/revert", Map.of("name", "Back")),
        "draft.nothing",
        "");
  }

  @Test
  void aFileIsReadAndItsSourceNamedOnce() {
    byte[] rows = "no,given,family\n1,Oda,Brekke\n".getBytes(StandardCharsets.UTF_8);
    says(
        dropped("Register of refusals", new byte[] {0, 1, 2, (byte) 0xff}),
        "file.unreadable",
        "file");
    says(dropped(" ", rows), "source.name", "sourceName");
    says(dropped("x".repeat(81), rows), "source.name", "sourceName");
  }

  private Visitor.Answer dropped(@Nullable String source, byte[] file) {
    return ines.drop(source == null ? Map.of() : Map.of("sourceName", source), file);
  }

  /** The token opens the feed alone, and says nothing of why it does not. */
  @Test
  void aFeedOpensToItsTokenAlone() {
    for (String header : List.of("Bearer x", "Basic x", "Bearer ", "bearer abc", "")) {
      Visitor.Answer answer = server.nobody().get("/api/feed", "Authorization", header);
      assertThat(answer.status()).as(header).isEqualTo(403);
      assertThat(answer.problems()).as(header).containsOnly("feed.token");
    }
    assertThat(server.nobody().get("/api/feed").status()).isEqualTo(403);
  }

  @Test
  void anIdempotencyKeyIsPrintableAndShort() {
    says(ines.get("/api/session", "Idempotency-Key", "x".repeat(81)), "idempotency.malformed", "");
  }

  private static final String APP =
      """
      {"profile": {"name": "Knots", "line": "", "picture": "key", "hue": "tide",
        "sensitivity": "LOW", "contact": "", "nicknames": []},
       "address": null, "owners": [], "entitlements": []}""";

  private static final String LISTING =
      """
      {"listing": {"name": "Tides", "address": "https://tides.example/", "line": "",
        "category": "weather", "picture": "waves", "hue": "tide"}, "keepers": []}""";

  /** A form of which one thing is wrong: where it goes, what is written in place of what. */
  private record Wrong(
      String path, String form, String right, String wrong, String code, String field) {
    @Override
    public String toString() {
      return code;
    }
  }

  static List<Wrong> forms() {
    String role =
        "{\"name\": \" \", \"line\": \"\", \"sensitivity\": \"LOW\", \"requestable\": true}";
    String many = "[" + "\"knots\",".repeat(20) + "\"ropes\"]";
    String apps = "/api/apps";
    String listings = "/api/approved-list";
    String answer = "/api/queries/answer";
    String query =
        "{\"spec\": {\"asked\": {\"only\": [\"unused\"]}, \"columns\": null}, \"limit\": 10}";
    return List.of(
        new Wrong(apps, APP, "\"key\"", "\"anchor of nobody\"", "app.picture", "picture"),
        new Wrong(apps, APP, "\"tide\"", "\"mauve\"", "app.hue", "hue"),
        new Wrong(
            apps, APP, "\"nicknames\": []", "\"nicknames\": " + many, "app.nicknames", "nicknames"),
        new Wrong(
            apps,
            APP,
            "\"entitlements\": []",
            "\"entitlements\": [" + role + "]",
            "entitlement.no-name",
            "roles"),
        new Wrong(listings, LISTING, "\"Tides\"", "\" \"", "listing.no-name", "name"),
        new Wrong(listings, LISTING, "\"weather\"", "\" \"", "listing.no-kind", "category"),
        new Wrong(
            answer,
            query,
            "\"only\"",
            "\"from\": \"2026-01-01\", \"until\": \"2026-02-01\", \"only\"",
            "marks.moment",
            "only"));
  }

  @ParameterizedTest
  @MethodSource("forms")
  void aFormOfWhichOneThingIsWrong(Wrong one) {
    long before = position();
    assertThat(one.form()).contains(one.right());
    says(
        ines.post(
            one.path(), new JsonMapper().readTree(one.form().replace(one.right(), one.wrong()))),
        one.code(),
        one.field());
    assertThat(position()).isEqualTo(before);
  }

  @Test
  void aDraftIsNotRevertedBeforeItIsPublished() {
    String draft =
        ines.post("/api/drafts", Map.of("name", "Comes and goes"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    try {
      Map<String, Object> plan = new HashMap<>();
      plan.put("digest", "x");
      plan.put("reason", "tried");
      plan.put("day", "2098-06-02");
      plan.put("hour", "09:00");
      plan.put("revertOn", "2098-06-01");
      plan.put("tell", false);
      says(ines.post("/api/drafts/" + draft + "/publish", plan), "draft.revert-first", "revertOn");
    } finally {
      ines.delete("/api/drafts/" + draft);
    }
  }

  @Test
  void aSourceIsCalledLikeNoOther() {
    byte[] rows = "no,given,family\n1,Oda,Brekke\n".getBytes(StandardCharsets.UTF_8);
    dropped("Lasting register", rows).expect(200);
    // A source is one from its first import on, so that only what was dropped is called alike.
    dropped("Lasting register", rows).expect(200);
    assertThat(dropped("Lasting register", new byte[21 << 20]).status()).isEqualTo(413);
  }
}
