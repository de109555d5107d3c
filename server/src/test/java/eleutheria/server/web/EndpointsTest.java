package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** All endpoints as everybody, against a table that says who may call what. */
class EndpointsTest {
  private static final List<String> ROLES = List.of("nobody", "oda", "lena", "ines", "maren");
  private final RunningServer server = RunningServer.shared();

  @Test
  void everyEndpointIsOpenToWhomTheTableSays() throws IOException {
    Map<String, Visitor> visitors = new LinkedHashMap<>();
    for (String role : ROLES) {
      visitors.put(role, role.equals("nobody") ? server.nobody() : server.signedIn(role));
    }
    List<String> found = new ArrayList<>();
    for (String endpoint : endpoints()) {
      StringBuilder line = new StringBuilder(endpoint);
      for (String role : ROLES) {
        Visitor visitor = visitors.get(role);
        line.append(" | ").append(told(call(visitor, endpoint)));
        if (endpoint.startsWith("/api/sign-out ") && !role.equals("nobody")) {
          visitor.signIn(role, Seed.PASSWORD).expect(200);
        }
      }
      found.add(line.toString());
    }
    List<String> table =
        Files.readAllLines(Path.of("src/test/resources/endpoints.txt"), StandardCharsets.UTF_8)
            .stream()
            .filter(line -> !line.isBlank() && !line.startsWith("#"))
            .toList();
    Files.write(Path.of("target/endpoints.txt"), found);
    assertThat(String.join("\n", found)).isEqualTo(String.join("\n", table));
  }

  private TreeSet<String> endpoints() {
    TreeSet<String> endpoints = new TreeSet<>();
    RequestMappingHandlerMapping mapping =
        server
            .context()
            .getBean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class);
    for (Map.Entry<?, HandlerMethod> entry : mapping.getHandlerMethods().entrySet()) {
      // The stream stays open; who may have it is tested where it is read.
      if (entry.getValue().getBeanType().getName().startsWith("eleutheria.")
          && !entry.getKey().toString().contains("/api/stream")
          && !entry.getKey().toString().contains("[/error]")) {
        // "{GET [/api/people]}" or with "produces"
        String text = entry.getKey().toString();
        String method = text.substring(1, text.indexOf(' '));
        String path = text.substring(text.indexOf('[') + 1, text.indexOf(']'));
        endpoints.add(path + " " + method);
      }
    }
    return endpoints;
  }

  private static Visitor.Answer call(Visitor visitor, String endpoint) {
    String[] parts = endpoint.split(" ");
    String path =
        parts[0]
            .replace("{position}", "1")
            .replace("{seq}", "1")
            .replace("{number}", "1")
            .replace("{kind}", "person")
            .replace("{scope}", "all")
            .replace("{hash}", "00")
            .replace("{tip}", "MENU")
            .replace("{name}", "no-such-attribute")
            .replaceAll(
                "\\{(id|member|entitlement|tile|collection|deputy)}",
                "00000000-0000-7000-8000-00000000ffff");
    if (path.equals("/api/find")) {
      path += "?text=x";
    }
    // Malformed on purpose: who may come in is decided before the form is read.
    Object body = parts[1].equals("GET") || parts[1].equals("DELETE") ? null : "{}";
    return visitor.send(parts[1], path, body, null);
  }

  /** The status as it is; what is wrong inside is nobody's to see, so it fails here. */
  private static String told(Visitor.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isBetween(200, 499);
    return String.valueOf(answer.status());
  }

  @Test
  void theApiDocumentIsTheOneThatTheWebIsBuiltFrom() throws IOException {
    JsonNode now = server.nobody().get("/v3/api-docs").expect(200).json();
    Files.writeString(Path.of("target/openapi.json"), now.toPrettyString());
    JsonNode kept = JsonMapper.builder().build().readTree(Path.of("../docs/openapi.json").toFile());
    // The demo's endpoint exists only in its profile.
    assertThat(without(kept)).as("renew it with bin/renew-openapi").isEqualTo(without(now));
  }

  private static String without(JsonNode document) {
    tools.jackson.databind.node.ObjectNode copy =
        (tools.jackson.databind.node.ObjectNode) document.deepCopy();
    ((tools.jackson.databind.node.ObjectNode) copy.get("paths")).remove("/api/demo");
    tools.jackson.databind.node.ObjectNode schemas =
        (tools.jackson.databind.node.ObjectNode) copy.get("components").get("schemas");
    schemas.remove(List.of("DemoView", "DemoSignIn"));
    copy.remove("servers");
    return copy.toPrettyString();
  }

  @Test
  void headersForbidWhatIsNotNeeded() {
    var headers = server.nobody().get("/api/session").expect(200).response().headers();
    assertThat(headers.firstValue("Content-Security-Policy").orElse(""))
        .contains("default-src 'none'")
        .doesNotContain("unsafe");
    assertThat(headers.firstValue("X-Content-Type-Options")).hasValue("nosniff");
    assertThat(headers.firstValue("X-Frame-Options")).hasValue("DENY");
  }

  @Test
  void aForgedRequestIsRefused() {
    Visitor ines = server.signedIn("ines");
    assertThat(ines.forged("/api/ledger/check").status()).isEqualTo(403);
  }

  @Test
  void nonsenseGetsAClearAnswerAndNothingOfTheInside() {
    Visitor ines = server.signedIn("ines");
    for (String path :
        List.of(
            "/api/people/not-a-uuid",
            "/api/people?limit=x",
            "/api/people?asOf=yesterday",
            "/api/ledger/abc",
            "/api/nothing-here")) {
      Visitor.Answer answer = ines.get(path);
      assertThat(answer.status()).as(path).isIn(400, 404);
      assertThat(answer.response().headers().firstValue("Content-Type").orElse(""))
          .as(path)
          .startsWith("application/problem+json");
      assertThat(answer.body()).doesNotContain("Exception").doesNotContain("eleutheria.server");
    }
    assertThat(ines.post("/api/groups", "{\"name\":").status()).isEqualTo(400);
    assertThat(ines.post("/api/groups", Map.of("name", "x".repeat(501))).status()).isEqualTo(400);
  }
}
