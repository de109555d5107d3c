package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PlainTextTest {
  @ParameterizedTest
  @ValueSource(
      strings = {"a\u202Eb", "a\u0007b", "\uFEFFa", "a\u2028b", "\uD800", "a\uFFFE", "a\u2069"})
  void tellsWhatHides(String text) {
    assertThat(PlainText.hides(text)).isTrue();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "Åse Ødegaard",
        "می‌خواهم",
        "क्‍ष",
        "two\nlines\tand a tab",
        "co\u00ADoperate",
        "\uD83D\uDC69\u200D\uD83D\uDE80"
      })
  void leavesWhatIsRead(String text) {
    assertThat(PlainText.hides(text)).isFalse();
  }
}
