package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

class NearWordsTest {
  private static final Pattern LINE =
      Pattern.compile(
          "\\{\"typed\": \"(.*?)\", \"word\": \"(.*?)\", \"most\": (\\d), \"nearness\": (\\d)}");

  /**
   * Made by another program, by trying all edits; the browser's own filter is held against them.
   */
  private static List<String> vectors() {
    try (var in = NearWordsTest.class.getResourceAsStream("/near-words.json")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8).lines().toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Test
  void measuresSlipsAsAnotherProgramDoes() {
    int checked = 0;
    for (String line : vectors()) {
      Matcher vector = LINE.matcher(line);
      if (vector.find()) {
        int most = Integer.parseInt(vector.group(3));
        assertThat(NearWords.nearness(vector.group(1), vector.group(2), most))
            .as(line)
            .isEqualTo(Integer.parseInt(vector.group(4)));
        checked++;
      }
    }
    assertThat(checked).isGreaterThan(100);
  }

  private static List<String> find(String text, String... lines) {
    return NearWords.find(List.of(lines), text, line -> List.of(line.split("\\|")));
  }

  @Test
  void aWordThatBeginsNoneIsTakenForTheNearest() {
    String[] all = {"Farebox|sell", "Fare Table|read fares", "Tidewatch|sea", "Ώρες|βάρδιες"};
    assertThat(find("", all)).hasSize(4);
    assertThat(find("fare", all)).containsExactly("Farebox|sell", "Fare Table|read fares");
    assertThat(find("farebx", all)).containsExactly("Farebox|sell");
    assertThat(find("tidewacth", all)).containsExactly("Tidewatch|sea");
    assertThat(find("ωρες", all)).containsExactly("Ώρες|βάρδιες");
    assertThat(find("fra", all)).as("three letters are too few to guess at").isEmpty();
    assertThat(find("fares sell", all)).isEmpty();
  }

  @Test
  void whatHasItInItsFirstFieldStandsFirst() {
    assertThat(find("sea", "Tidewatch|sea", "Sea Chart|map"))
        .containsExactly("Sea Chart|map", "Tidewatch|sea");
  }

  @Test
  void slipsFollowTheLength() {
    List<Integer> slips = new ArrayList<>();
    for (int length : new int[] {1, 3, 4, 7, 8, 20}) {
      slips.add(NearWords.slips("x".repeat(length)));
    }
    assertThat(slips).containsExactly(0, 0, 1, 1, 2, 2);
  }
}
