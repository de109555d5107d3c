package eleutheria.core.signon;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SignOnRulesTest {
  private static final Instant NOW = Instant.parse("2026-03-02T08:00:00Z");
  private static final List<String> OWN =
      List.of("Oda", "Brekke", "oda.brekke", "oda.brekke@ternsound.example");

  @ParameterizedTest
  @ValueSource(
      strings = {
        "short",
        "123456789012",
        "aaaaaaaaaaaa",
        "abcdefghijklm",
        "Password1234!",
        "oda.brekke2026",
        "qwerty!!!!!!",
        "sunshine1234",
        "P@ssw0rd1234",
        "OdaBrekke1987"
      })
  void refusesWhatIsTriedFirst(String password) {
    assertThat(PasswordRule.wrong(password, OWN)).isNotEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "tern over the sound",
        "Håkon spiser lapskaus",
        "зимняя пристань 7",
        "x9$kPq!vR2mW"
      })
  void takesAnythingLongEnough(String password) {
    assertThat(PasswordRule.wrong(password, OWN)).isEmpty();
  }

  @Test
  void aVeryLongPasswordIsJudgedAtOnce() {
    String longest = "tern over the sound ".repeat(10);
    assertThat(PasswordRule.wrong(longest, OWN)).isEmpty();
    assertThat(PasswordRule.wrong(longest + "x", OWN)).hasSize(1);
  }

  @Test
  void fiveTriesAreFreeThenWaitingDoubles() {
    assertThat(wait(4, 0, 0, false)).isZero();
    assertThat(wait(5, 0, 0, false)).isEqualTo(Duration.ofSeconds(10));
    assertThat(wait(7, 0, 0, true)).isEqualTo(Duration.ofSeconds(40));
    assertThat(wait(40, 0, 0, true)).isEqualTo(Duration.ofMinutes(15));
  }

  @Test
  void aStrangersFailuresNeverSlowTheOwnerAtTheUsualPlace() {
    assertThat(wait(0, 0, 5_000, true)).isZero();
    assertThat(wait(0, 5_000, 0, true)).isZero();
    assertThat(wait(0, 0, 5_000, false)).isEqualTo(Attempts.WINDOW);
    assertThat(wait(0, 60, 0, false)).isEqualTo(Attempts.WINDOW);
  }

  private static Duration wait(int pair, int address, int account, boolean known) {
    return Attempts.wait(new Attempts.Record(pair, NOW, address, account, known), NOW);
  }
}
