package eleutheria.server.live;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.OwnApp;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Seed;
import eleutheria.server.testing.Visitor;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What a browser hears of what others do: that something of its own moved, and nothing more. */
class LiveTest {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final RunningServer server = RunningServer.shop();
  private final Seed seed = server.seed();
  private final Visitor ines = server.signedIn("ines");
  private final Visitor nils = server.signedIn("nils");

  private String role(String app) {
    return seed.shop().role(app).value().toString();
  }

  private String id(String name) {
    return seed.person(name).value().toString();
  }

  /** What has come over a stream, one map an event. */
  private static final class Ear {
    private final BlockingQueue<String> lines;

    Ear(Visitor who) {
      lines = who.listen("/api/stream");
      Visitor.until("the stream is open", () -> lines.stream().anyMatch(l -> l.contains("hello")));
    }

    List<JsonNode> moved() {
      List<JsonNode> found = new ArrayList<>();
      String event = "";
      for (String line : lines) {
        if (line.startsWith("event:")) {
          event = line.substring(6).strip();
        } else if (line.startsWith("data:") && event.equals("moved")) {
          found.add(JSON.readTree(line.substring(5)));
        }
      }
      return found;
    }

    List<String> topics(long position) {
      List<String> topics = new ArrayList<>();
      for (JsonNode each : moved()) {
        if (each.path("position").asLong() >= position) {
          each.path("topics").forEach(topic -> topics.add(topic.asString()));
        }
      }
      return topics;
    }

    String all() {
      return String.join("\n", lines);
    }
  }

  private long give(String role, String person) {
    Map<String, Object> subject = new HashMap<>();
    subject.put("kind", "person");
    subject.put("id", id(person));
    subject.put("filter", null);
    Map<String, Object> form = new HashMap<>();
    form.put("subjects", List.of(subject));
    form.put("from", null);
    form.put("until", LocalDate.now().plusDays(20).toString());
    form.put("reason", "tried");
    return ines.post("/api/entitlements/" + role + "/grants", form)
        .expect(200)
        .json()
        .path("position")
        .asLong();
  }

  @Test
  void whoeverGetsSomethingHearsOfTheirPageAndOthersOfNothing() {
    Ear hers = new Ear(server.signedIn("oda"));
    Ear his = new Ear(nils);
    String role = OwnApp.open(server, "Heard of").role();
    long position = give(role, "oda");
    Visitor.until("Oda hears of it", () -> hers.topics(position).contains("front"));
    assertThat(his.topics(position)).doesNotContain("front", "requests");
    // Whom and what it is about stands in none of it; that is asked for, and judged then.
    assertThat(hers.all())
        .doesNotContain("Heard of")
        .doesNotContain(role)
        .doesNotContain(id("ines"));
  }

  @Test
  void aRequestIsHeardByWhoeverAskedAndWhoeverDecides() {
    Ear asker = new Ear(nils);
    Ear decider = new Ear(ines);
    Ear other = new Ear(server.signedIn("lena"));
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", role("Tide Table"));
    form.put("until", LocalDate.now().plusDays(40).toString());
    form.put("reason", "Standing in");
    JsonNode done = nils.post("/api/requests", form).json();
    long position = done.path("position").asLong();
    assertThat(position).as(done.toString()).isPositive();
    Visitor.until("Nils hears of it", () -> asker.topics(position).contains("requests"));
    Visitor.until("Ines hears of it", () -> decider.topics(position).contains("docket"));
    assertThat(other.topics(position)).doesNotContain("docket", "requests");
    nils.post("/api/requests/" + done.path("result").asString() + "/withdraw", null).expect(200);
    Visitor.until("the docket is told that it is gone", () -> decider.moved().size() > 1);
  }

  /** That a message was read is no act, and is heard nonetheless by whoever wrote it. */
  @Test
  void whoWroteHearsThatItWasRead() {
    Map<String, Object> form = new HashMap<>();
    form.put("entitlement", role("Tide Table"));
    form.put("until", LocalDate.now().plusDays(40).toString());
    form.put("reason", "Standing in");
    String id = nils.post("/api/requests", form).json().path("result").asString();
    Map<String, Object> message = new HashMap<>();
    message.put("text", "It is for the night shift.");
    message.put("asks", false);
    nils.post("/api/requests/" + id + "/thread", message).expect(200);
    Ear writer = new Ear(nils);
    Ear other = new Ear(server.signedIn("oda"));
    ines.put("/api/requests/" + id + "/thread/read", Map.of("messages", 1)).expect(200);
    Visitor.until("Nils hears of it", () -> writer.topics(0).contains("requests"));
    assertThat(other.topics(0)).doesNotContain("docket", "requests");
    assertThat(writer.all()).doesNotContain(id, "night shift", id("ines"));
    // Read again as far as before, nothing is new.
    int before = writer.moved().size();
    ines.put("/api/requests/" + id + "/thread/read", Map.of("messages", 1)).expect(200);
    long position = give(OwnApp.open(server, "Heard after").role(), "nils");
    Visitor.until("the next act is heard", () -> writer.topics(position).contains("front"));
    assertThat(writer.moved().subList(before, writer.moved().size()).toString())
        .doesNotContain("requests");
    nils.post("/api/requests/" + id + "/withdraw", null).expect(200);
  }

  @Test
  void nobodyHearsWithoutASession() {
    assertThat(server.nobody().get("/api/stream").status()).isEqualTo(401);
  }
}
