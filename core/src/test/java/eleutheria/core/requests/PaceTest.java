package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class PaceTest {
  private static List<Duration> hours(int... hours) {
    return IntStream.of(hours).mapToObj(Duration::ofHours).toList();
  }

  @Test
  void halfAndNineInTenOfThem() {
    assertThat(Pace.of(hours(9, 1, 3, 200, 4)))
        .contains(new Pace(5, Duration.ofHours(4), Duration.ofHours(200)));
    assertThat(Pace.of(hours(1, 2, 3, 4, 5, 6, 7, 8, 9, 500)))
        .contains(new Pace(10, Duration.ofHours(5), Duration.ofHours(9)));
  }

  @Test
  void fewSayNothing() {
    assertThat(Pace.of(hours(1, 2, 3, 4))).isEmpty();
    assertThat(Pace.of(List.of())).isEmpty();
  }

  /** Each is one of those taken, so many lie within it, and no shorter one would do. */
  @Test
  void asTheWordsSay() {
    Random random = new Random(11);
    for (int round = 0; round < 300; round++) {
      List<Duration> took = new ArrayList<>();
      int count = Pace.LEAST + random.nextInt(40);
      for (int i = 0; i < count; i++) {
        took.add(Duration.ofMinutes(random.nextInt(60)));
      }
      Pace pace = Pace.of(took).orElseThrow();
      Collections.shuffle(took, random);
      assertThat(Pace.of(took)).as("in whatever order").contains(pace);
      assertThat(took).contains(pace.half(), pace.most());
      shortest(took, pace.half(), 5);
      shortest(took, pace.most(), 9);
    }
  }

  private static void shortest(List<Duration> took, Duration within, int tenths) {
    long inside = took.stream().filter(one -> one.compareTo(within) <= 0).count();
    long shorter = took.stream().filter(one -> one.compareTo(within) < 0).count();
    assertThat(inside * 10).isGreaterThanOrEqualTo((long) took.size() * tenths);
    assertThat(shorter * 10).isLessThan((long) took.size() * tenths);
  }
}
