package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;

/** What is turned away before anything looks at it. */
class WallsTest {
  private final RunningServer server = RunningServer.shared();

  /** A request word for word, and the answer as it comes. */
  private String raw(int port, String text) throws IOException {
    try (Socket socket = new Socket("127.0.0.1", port)) {
      socket.setSoTimeout(10_000);
      socket.getOutputStream().write(text.getBytes(StandardCharsets.ISO_8859_1));
      socket.getOutputStream().flush();
      socket.shutdownOutput();
      return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  private String get(String path, String... headers) throws IOException {
    return raw(
        server.port(),
        "GET "
            + path
            + " HTTP/1.1\r\nHost: 127.0.0.1:"
            + server.port()
            + "\r\nConnection: close\r\n"
            + String.join("", List.of(headers).stream().map(h -> h + "\r\n").toList())
            + "\r\n");
  }

  private static void isProblem(String answer, int status) {
    assertThat(answer).startsWith("HTTP/1.1 " + status);
    assertThat(answer)
        .contains("application/problem+json")
        .contains("urn:eleutheria:problem:")
        .containsIgnoringCase("X-Content-Type-Options: nosniff")
        .containsIgnoringCase("Content-Security-Policy:")
        .doesNotContain("Exception")
        .doesNotContain("Tomcat");
  }

  @Test
  void whatTheContainerRefusesIsToldLikeAllElse() throws IOException {
    isProblem(raw(server.port(), "GET /a|b HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n"), 400);
    isProblem(raw(server.port(), "GET / HTTP/1.1\r\nConnection: close\r\n\r\n"), 400);
    isProblem(get("/error"), 404);
    isProblem(get("/api/no-such-thing"), 404);
    isProblem(get("/api/people?find=%FF"), 400);
    isProblem(get("/api/people?find=%C3%28"), 400);
    isProblem(get("/api/people?find=a%00b"), 400);
  }

  @Test
  void aPlantedSessionCookieIsNobodys() throws IOException {
    for (String planted : List.of("x", "w6TDtsO8", "4pyTIOKckw", "AAAA", "Li4vLi4v", "%00%01")) {
      assertThat(get("/api/session", "Cookie: eleutheria=" + planted))
          .as(planted)
          .startsWith("HTTP/1.1 200")
          .contains("\"signed\":null");
    }
  }

  @Test
  void aWriteFromAnotherSiteIsRefusedWhateverItBrings() {
    Visitor ines = server.signedIn("ines");
    String token = ines.csrf();
    for (Map<String, String> headers :
        List.of(
            Map.of("Origin", "https://evil.example", "X-XSRF-TOKEN", token),
            Map.of("Origin", "null", "X-XSRF-TOKEN", token),
            Map.of("Sec-Fetch-Site", "same-site", "X-XSRF-TOKEN", token),
            Map.of("Sec-Fetch-Site", "cross-site", "X-XSRF-TOKEN", token))) {
      assertThat(ines.with(headers, "POST", "/api/groups", Map.of("name", "Forged")).problems())
          .as(headers.toString())
          .contains("foreign-origin");
    }
    // The token of another session, none, or one in the address is none.
    String others = server.signedIn("lena").csrf();
    for (String path : List.of("/api/groups", "/api/groups?_csrf=" + token)) {
      Map<String, String> headers = new HashMap<>();
      assertThat(ines.with(headers, "POST", path, Map.of("name", "Forged")).problems())
          .contains("csrf");
      headers.put("X-XSRF-TOKEN", others);
      assertThat(ines.with(headers, "POST", path, Map.of("name", "Forged")).problems())
          .contains("csrf");
    }
    assertThat(
            ines.with(
                    Map.of(
                        "Origin",
                        "http://127.0.0.1:" + server.port(),
                        "Sec-Fetch-Site",
                        "same-origin",
                        "X-XSRF-TOKEN",
                        ines.csrf()),
                    "POST",
                    "/api/groups",
                    Map.of("name", "Not forged"))
                .status())
        .isEqualTo(200);
  }

  @Test
  void bodiesAreReadOnlyAsFarAsTheyMayGo() {
    Visitor nobody = server.nobody();
    assertThat(
            nobody
                .post("/api/sign-in", Map.of("name", "x".repeat(40_000), "password", "y"))
                .problems())
        .contains("too-large");
    Visitor ines = server.signedIn("ines");
    assertThat(ines.post("/api/groups", Map.of("name", "x".repeat(3 << 20))).problems())
        .contains("too-large");
  }

  @Test
  void charactersThatNobodySeesAreRefusedInEveryForm() {
    Visitor ines = server.signedIn("ines");
    for (String hidden : List.of("a\u202Eb", "a\u0000b", "a\u2066b", "a\u2028b", "\uFEFFa")) {
      assertThat(ines.post("/api/groups", Map.of("name", hidden)).problems())
          .as(hidden)
          .contains("hidden-characters");
    }
    ines.post("/api/groups", Map.of("name", "می‌خواهم")).expect(200);
  }

  @Test
  void aKeyStandsForOneRequest() {
    Visitor ines = server.signedIn("ines");
    Visitor.Answer first =
        ines.send("POST", "/api/groups", Map.of("name", "Once only"), "walls-key").expect(200);
    assertThat(
            ines.send("POST", "/api/groups", Map.of("name", "Once only"), "walls-key")
                .expect(200)
                .body())
        .isEqualTo(first.body());
    assertThat(
            ines.send("POST", "/api/groups", Map.of("name", "Another"), "walls-key")
                .expect(422)
                .problems())
        .contains("idempotency.reused");
    // Another kind of act with it is not done either.
    assertThat(
            ines.send(
                    "POST",
                    "/api/people/" + server.seed().person("nils").value() + "/end-sessions",
                    null,
                    "walls-key")
                .expect(422)
                .problems())
        .contains("idempotency.reused");
    assertThat(ines.send("POST", "/api/groups", Map.of("name", "Odd"), "k".repeat(81)).status())
        .isIn(400, 422);
    // Gathered in a draft, a repeat answers the very same as well.
    String draft =
        ines.post("/api/drafts", Map.of("name", "Repeats"))
            .expect(200)
            .json()
            .path("result")
            .asString();
    ines.gatherInto(draft);
    Map<String, String> form = Map.of("name", "In a draft");
    Visitor.Answer gathered = ines.send("POST", "/api/groups", form, "draft-key").expect(200);
    assertThat(ines.send("POST", "/api/groups", form, "draft-key").expect(200).json())
        .isEqualTo(gathered.json());
    assertThat(ines.send("POST", "/api/groups", Map.of("name", "Not it"), "draft-key").problems())
        .contains("idempotency.reused");
    ines.gatherInto(null);
    ines.delete("/api/drafts/" + draft);
  }

  @Test
  void overHttpsCookiesBelongToTheHostAndNothingGoesInClear() {
    String database = RunningServer.newDatabase();
    var maria = RunningServer.mariaDb();
    Seed.into(maria.url(database), maria.user(), maria.password());
    try (ConfigurableApplicationContext secure =
        RunningServer.start(database, "--eleutheria.base-address=https://tern.example")) {
      Visitor visitor =
          new Visitor(
              "http://127.0.0.1:" + secure.getEnvironment().getProperty("local.server.port"));
      var headers = visitor.get("/api/session").expect(200).response().headers();
      assertThat(headers.firstValue("Strict-Transport-Security").orElse(""))
          .contains("max-age=31536000");
      assertThat(headers.allValues("Set-Cookie"))
          .isNotEmpty()
          .allSatisfy(
              cookie ->
                  assertThat(cookie)
                      .startsWith("__Host-")
                      .contains("Secure")
                      .contains("Path=/")
                      .contains("SameSite"));
    }
  }
}
