package eleutheria.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.http.HttpResponse;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class AnswersTest {
  private final RunningServer server = RunningServer.shop();
  private final Visitor ines = server.signedIn("ines");

  private static long length(HttpResponse<byte[]> answer) {
    return answer.headers().firstValueAsLong("Content-Length").orElseThrow();
  }

  @ParameterizedTest
  @ValueSource(strings = {"/api/front", "/api/people?limit=200", "/api/apps"})
  void anAnswerLeavesInOnePieceAndIsSmallForThoseWhoTakeThat(String path) throws IOException {
    HttpResponse<byte[]> plain = ines.bytes(path, "Accept-Encoding", "identity");
    assertThat(plain.headers().firstValue("Content-Encoding")).isEmpty();
    assertThat(plain.headers().firstValue("Content-Type")).contains("application/json");
    assertThat(length(plain)).isEqualTo(plain.body().length);
    HttpResponse<byte[]> small = ines.bytes(path, "Accept-Encoding", "br, gzip");
    assertThat(small.headers().firstValue("Content-Encoding")).contains("gzip");
    assertThat(small.headers().allValues("Vary")).contains("Accept-Encoding");
    assertThat(length(small)).isEqualTo(small.body().length).isLessThan(length(plain));
    try (GZIPInputStream in = new GZIPInputStream(new ByteArrayInputStream(small.body()))) {
      assertThat(in.readAllBytes()).isEqualTo(plain.body());
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "gzip|true",
        "GZIP;q=0.5, br|true",
        "br;q=1.0, gzip; q=0|false",
        "gzip;q=0.000|false",
        "br, deflate|false",
        "''|false"
      })
  void whoTakesCompressedAnswersSaysSo(String encodings, boolean accepted) {
    assertThat(Gzip.accepted(encodings)).isEqualTo(accepted);
  }
}
