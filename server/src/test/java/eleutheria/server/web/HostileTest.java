package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/**
 * Every operation of the API document with hostile values in the place of each parameter and each
 * part of a form: whatever comes, the answer is no failure of the server, and a problem where it is
 * none. A few values each time; all of them with {@code -Dfuzz=whole} ({@code ./check --long}).
 */
class HostileTest {
  private static final boolean WHOLE = "whole".equals(System.getProperty("fuzz"));

  private static final List<String> TEXTS =
      List.of(
          "å'\"; drop table thing; --",
          "日本語\uD83D\uDE00",
          "../../../../etc/passwd",
          "%00%FF",
          "-1",
          "99999999999999999999",
          "9999-12-31T23:59:59.999999999Z",
          "-999999999-01-01",
          "{\"a\":[[[[[]]]]]}",
          "x".repeat(5_000),
          "",
          "null",
          "NaN",
          "1e400",
          "unit eq \"" + "(".repeat(400),
          "00000000-0000-0000-0000-000000000000",
          "\u202Eabc",
          "${7*7}",
          "a\tb\nc");

  private static final List<Object> VALUES =
      List.of(-1, 1e308, 99999999999L, true, List.of(), List.of(List.of()), Map.of(), List.of("x"));

  /** What would end this visitor's session, or wait for the end of a stream. */
  private static final Set<String> LEFT_OUT = Set.of("/api/sign-out", "/api/stream");

  private static ConfigurableApplicationContext context;
  private static Visitor ines;

  @BeforeAll
  static void start() {
    String database = RunningServer.newDatabase();
    var maria = RunningServer.mariaDb();
    Seed.shop(maria.url(database), maria.user(), maria.password());
    context = RunningServer.start(database);
    ines =
        new Visitor(
            "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port"));
    ines.signIn("ines", Seed.PASSWORD).expect(200);
  }

  @AfterAll
  static void stop() {
    context.close();
  }

  private int turn;

  private Object next() {
    turn++;
    return turn % 3 == 0 ? VALUES.get(turn / 3 % VALUES.size()) : TEXTS.get(turn % TEXTS.size());
  }

  private String text() {
    return TEXTS.get(++turn % TEXTS.size());
  }

  @Test
  void nothingThatComesInIsAFailureOfTheServer() {
    JsonNode document = ines.get("/v3/api-docs").expect(200).json();
    int rounds = WHOLE ? TEXTS.size() + VALUES.size() : 4;
    List<String> failures = new ArrayList<>();
    int[] asked = {0};
    for (Map.Entry<String, JsonNode> path : document.path("paths").properties()) {
      if (LEFT_OUT.contains(path.getKey())) {
        continue;
      }
      for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
        for (int round = 0; round < rounds; round++) {
          asked[0]++;
          ask(document, path.getKey(), operation.getKey().toUpperCase(), operation.getValue())
              .ifPresent(failures::add);
        }
      }
    }
    assertThat(failures).isEmpty();
    assertThat(asked[0]).isGreaterThan(400);
    // After all of it the server is well, and the ledger whole.
    ines.signIn("ines", Seed.PASSWORD).expect(200);
    assertThat(ines.post("/api/ledger/check", null).expect(200).json().path("why").isNull())
        .isTrue();
  }

  private java.util.Optional<String> ask(
      JsonNode document, String path, String method, JsonNode operation) {
    String address = path;
    StringBuilder query = new StringBuilder();
    for (JsonNode parameter : operation.path("parameters")) {
      String name = parameter.path("name").asString();
      String value = URLEncoder.encode(text(), StandardCharsets.UTF_8).replace("+", "%20");
      switch (parameter.path("in").asString()) {
        case "path" -> {
          boolean id = turn % 2 == 0;
          address =
              address.replace(
                  "{" + name + "}",
                  id ? "00000000-0000-7000-8000-00000000ffff" : value.isEmpty() ? "x" : value);
        }
        case "query" ->
            query.append(query.isEmpty() ? "?" : "&").append(name).append('=').append(value);
        default -> {}
      }
    }
    if (address.length() > 6_000 || query.length() > 6_000) {
      // A line that long is cut by the container, which is tested by itself.
      query.setLength(0);
      address = path.replaceAll("\\{[^}]*}", "x");
    }
    JsonNode schema = operation.path("requestBody").path("content");
    Object body = null;
    if (schema.has("application/json")) {
      body = form(document, schema.path("application/json").path("schema"), 0);
    }
    Visitor.Answer answer = ines.send(method, address + query, body, null);
    boolean problem =
        answer.status() < 400
            || answer
                .response()
                .headers()
                .firstValue("Content-Type")
                .orElse("")
                .startsWith("application/problem+json");
    return answer.status() == 0
            || answer.status() >= 500
            || !problem
            || answer.body().contains("Exception")
        ? java.util.Optional.of(
            "%s %s%s %s: %d %s"
                .formatted(method, address, query, body, answer.status(), answer.body()))
        : java.util.Optional.empty();
  }

  /** A form with the right names, and in some of them something that is none. */
  private Object form(JsonNode document, JsonNode schema, int depth) {
    JsonNode of = schema;
    if (schema.has("$ref")) {
      of = document.at(schema.path("$ref").asString().substring(1));
    }
    if (depth > 3 || ++turn % 5 == 0) {
      return next();
    }
    return switch (of.path("type").asString("")) {
      case "object" -> {
        Map<String, Object> map = new LinkedHashMap<>();
        for (Map.Entry<String, JsonNode> property : of.path("properties").properties()) {
          map.put(property.getKey(), form(document, property.getValue(), depth + 1));
        }
        yield map;
      }
      case "array" -> List.of(form(document, of.path("items"), depth + 1));
      case "boolean" -> turn % 2 == 0;
      case "integer", "number" -> turn % 3 == 0 ? next() : 1;
      default ->
          of.path("format").asString("").equals("uuid") && turn % 2 == 0
              ? "00000000-0000-7000-8000-00000000ffff"
              : of.has("enum") && turn % 2 == 0
                  ? of.path("enum").get(0).asString()
                  : turn % 4 == 0 ? next() : text();
    };
  }
}
