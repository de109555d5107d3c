package eleutheria.server.signon;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;

class FirstStewardTest {
  @Test
  void anEmptyHouseBeginsWithOneLink() throws Exception {
    Path file = Files.createTempDirectory("link").resolve("first-steward");
    try (ConfigurableApplicationContext context =
        RunningServer.start(
            RunningServer.newDatabase(), "--eleutheria.first-steward-link=" + file)) {
      assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
          .isEqualTo("rw-------");
      String link = Files.readString(file).strip();
      String token = link.substring(link.indexOf('#') + 1);
      String base = "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port");
      Visitor visitor = new Visitor(base);
      assertThat(
              visitor
                  .post("/api/links/look", Map.of("token", token))
                  .expect(200)
                  .json()
                  .path("purpose")
                  .asString())
          .isEqualTo("first-steward");
      assertThat(
              visitor
                  .post(
                      "/api/links/use",
                      Map.of("token", token, "password", "short", "given", "", "userName", "a b"))
                  .expect(422)
                  .problems())
          .contains("password", "required", "user-name");
      visitor
          .post(
              "/api/links/use",
              Map.of(
                  "token",
                  token,
                  "password",
                  "the first of them all",
                  "given",
                  "Ada",
                  "family",
                  "Moe",
                  "userName",
                  "ada",
                  "mail",
                  "ada@x.example"))
          .expect(200);
      assertThat(visitor.get("/api/session").json().at("/signed/powers")).hasSizeGreaterThan(25);
      assertThat(
              visitor.post("/api/ledger/check", null).expect(200).json().path("entries").asLong())
          .isEqualTo(2);
      new Visitor(base).post("/api/links/look", Map.of("token", token)).expect(404);
      assertThat(visitor.get("/api/people").expect(200).json().path("total").asInt()).isEqualTo(1);
    }
  }
}
