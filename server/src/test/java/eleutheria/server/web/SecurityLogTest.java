package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.slf4j.LoggerFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What is refused leaves a trace, without what was typed, and cannot fill the disk. */
class SecurityLogTest {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private final RunningServer server = RunningServer.shared();
  private final ListAppender<ILoggingEvent> lines = new ListAppender<>();
  private final Logger log = (Logger) LoggerFactory.getLogger("eleutheria.security");

  @BeforeEach
  void listen() {
    lines.start();
    log.addAppender(lines);
    log.setLevel(ch.qos.logback.classic.Level.INFO);
  }

  @AfterEach
  void stop() {
    log.detachAppender(lines);
    log.setLevel(null);
  }

  private List<JsonNode> of(String field, String value) {
    return List.copyOf(lines.list).stream()
        .map(event -> (JsonNode) JSON.readTree(event.getFormattedMessage()))
        .filter(line -> line.path(field).asString("").equals(value))
        .toList();
  }

  @Test
  void refusalsAndSignInsAreLinesOfTheCommonSchemaAndFewAMinute() {
    Visitor visitor = server.signedIn("nils.desk");
    String person = server.seed().person("nils.desk").value().toString();
    for (int i = 0; i < 30; i++) {
      visitor.get("/api/ledger?find=a%20secret%20word").expect(403);
    }
    List<JsonNode> own = of("user.id", person);
    // Some may have gone to what others did as this person within the minute.
    assertThat(own).hasSizeBetween(SecurityLog.MOST / 2, SecurityLog.MOST);
    assertThat(own.getFirst().path("event.action").asString()).isEqualTo("signed-in");
    assertThat(own.getLast().path("event.outcome").asString()).isEqualTo("failure");
    assertThat(own.getLast().path("url.path").asString()).isEqualTo("/api/ledger");
    assertThat(own.getLast().path("@timestamp").asString()).startsWith("20");
    assertThat(lines.list.toString()).doesNotContain("secret").doesNotContain("tern over");
  }
}
