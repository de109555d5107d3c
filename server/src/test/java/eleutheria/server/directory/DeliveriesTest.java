package eleutheria.server.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.intake.DeliveredFile;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class DeliveriesTest {
  private final RunningServer server = RunningServer.shared();
  private final Visitor ines = server.signedIn("ines");

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private Map<String, Object> agree(JsonNode preview) {
    return Map.of(
        "digest", preview.path("digest").asString(), "leaveOutBad", true, "invite", false);
  }

  @Test
  void aFileGoesFromDropToLedger() {
    JsonNode dropped =
        ines.drop(
                Map.of("sourceName", "School"),
                bytes(
                    "staff no,given,family,unit,colour\nS1,Ada,Moe,Finance,red\nS2,=cmd(),Moe,Finance,red\n"))
            .expect(200)
            .json();
    String path = "/api/deliveries/" + dropped.path("id").asString();
    assertThat(dropped.path("fileName").asString()).isEqualTo("x.csv");
    assertThat(dropped.path("columns").get(4).path("target").asString()).isEqualTo("none");
    JsonNode preview = ines.get(path + "/preview?verdict=bad").expect(200).json();
    assertThat(preview.path("added").asInt()).isEqualTo(1);
    assertThat(preview.path("lines").get(0).path("wrong").toString()).contains("formula");
    assertThat(
            ines.post(
                    path + "/import",
                    Map.of(
                        "digest",
                        preview.path("digest").asString(),
                        "leaveOutBad",
                        false,
                        "invite",
                        false))
                .expect(422)
                .problems())
        .contains("intake.bad-lines");
    Visitor.Answer done = ines.send("POST", path + "/import", agree(preview), "bring").expect(200);
    Visitor.Answer again = ines.send("POST", path + "/import", agree(preview), "bring").expect(200);
    assertThat(again.body()).isEqualTo(done.body());
    ines.post(path + "/import", agree(preview)).expect(422);
    JsonNode entry =
        ines.get("/api/ledger/" + done.json().path("position").asLong()).expect(200).json();
    assertThat(entry.at("/entry/act").asString()).isEqualTo("DIRECTORY_IMPORT");
    assertThat(entry.at("/entry/details/leftOut").asString()).isEqualTo("1");
    JsonNode found = ines.get("/api/people?find=S1").json();
    assertThat(found.path("lines").get(0).path("displayed").asString()).isEqualTo("Ada Moe");
    String id = found.path("lines").get(0).path("id").asString();
    assertThat(ines.get("/api/people/" + id + "/history").expect(200).body()).contains("Ada Moe");
    // The matching is kept for the source.
    JsonNode next =
        ines.drop(
                Map.of("source", dropped.path("source").asString()),
                bytes("staff no,given,family,unit,colour\nS1,Ada,Lie,Finance,red\n"))
            .expect(200)
            .json();
    assertThat(next.path("newSource").asBoolean()).isFalse();
    assertThat(
            ines.get("/api/deliveries/" + next.path("id").asString() + "/preview?verdict=changed")
                .json()
                .path("lines")
                .get(0)
                .path("differences")
                .get(0)
                .path("after")
                .asString())
        .isEqualTo("Ada Lie");
  }

  @Test
  void onlyWhoDroppedAFileSeesIt() {
    String id =
        ines.drop(Map.of("sourceName", "Mine"), bytes("staff no,name\n1,A\n"))
            .expect(200)
            .json()
            .path("id")
            .asString();
    server.signedIn("maren").get("/api/deliveries/" + id).expect(404);
    ines.delete("/api/deliveries/" + id).expect(200);
    ines.get("/api/deliveries/" + id).expect(404);
  }

  @Test
  void hostileFilesAreRefusedWithWhatTheyAre() {
    assertThat(
            ines.drop(Map.of("sourceName", "Zip"), bytes("PK\u0003\u0004...")).expect(422).body())
        .contains("zip archive");
    assertThat(
            ines.drop(Map.of("sourceName", "Big"), new byte[50 * 1024 * 1024]).expect(413).body())
        .contains("20 MB");
    assertThat(
            ines.drop(
                    Map.of("sourceName", "Latin"),
                    "no,name\n1,Åse\n".getBytes(StandardCharsets.ISO_8859_1))
                .expect(422)
                .body())
        .contains("Line 2 is not UTF-8");
    assertThat(ines.drop(Map.of(), bytes("a,b\n1,2\n")).expect(422).problems())
        .contains("source.name");
    assertThat(DeliveredFile.MOST_BYTES).isEqualTo(20 * 1024 * 1024);
  }

  @Test
  void peopleOutsideTheReachAreBadLines() {
    Visitor maren = server.signedIn("maren");
    String id =
        maren
            .drop(
                Map.of("sourceName", "Counter"),
                bytes("staff no,name,unit\nC1,In Reach,Ticketing\nC2,Out Of,Finance\n"))
            .expect(200)
            .json()
            .path("id")
            .asString();
    JsonNode preview = maren.get("/api/deliveries/" + id + "/preview?verdict=bad").json();
    assertThat(preview.path("added").asInt()).isEqualTo(1);
    assertThat(preview.path("lines").toString()).contains("outside your reach");
  }
}
