package eleutheria.core.portal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.SplittableRandom;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RankTest {
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5})
  void betweenAnyTwoThereIsRoom(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    TreeSet<String> ranks = new TreeSet<>();
    for (int i = 0; i < 500; i++) {
      List<String> all = new ArrayList<>(ranks);
      // Often at the same place, which makes ranks longest.
      int at = random.nextBoolean() ? 0 : random.nextInt(all.size() + 1);
      String low = at == 0 ? null : all.get(at - 1);
      String high = at == all.size() ? null : all.get(at);
      String rank = Rank.between(low, high);
      assertThat(low == null || low.compareTo(rank) < 0).isTrue();
      assertThat(high == null || rank.compareTo(high) < 0).isTrue();
      assertThat(rank).doesNotEndWith("0").matches("[0-9a-z]+");
      ranks.add(rank);
    }
    assertThat(ranks).hasSize(500);
  }

  @Test
  void outOfOrderThereIsNone() {
    assertThatThrownBy(() -> Rank.between("b", "a")).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> Rank.between("a", "a")).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void spreadRanksAreShortAndInOrder() {
    List<String> ranks = Rank.spread(600);
    assertThat(ranks).isSorted().doesNotHaveDuplicates();
    assertThat(ranks).allMatch(rank -> rank.length() <= 3);
  }

  @ParameterizedTest
  @ValueSource(longs = {11, 12, 13, 14, 15, 16})
  void arrangingKeepsAsManyPlacesAsCanBeKept(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<@Nullable String> wanted = new ArrayList<>(Rank.spread(7));
    if (random.nextBoolean()) {
      wanted.add(random.nextInt(wanted.size()), null);
    }
    Collections.shuffle(wanted, new java.util.Random(seed));
    List<String> ranks = Rank.arrange(wanted);
    assertThat(ranks).hasSameSizeAs(wanted).isSorted().doesNotHaveDuplicates();
    int kept = 0;
    for (int i = 0; i < wanted.size(); i++) {
      kept += ranks.get(i).equals(wanted.get(i)) ? 1 : 0;
    }
    assertThat(kept).isEqualTo(longestRising(wanted, 0, ""));
  }

  /** By trying all of them. */
  private static int longestRising(List<@Nullable String> ranks, int from, String above) {
    if (from == ranks.size()) {
      return 0;
    }
    String rank = ranks.get(from);
    int without = longestRising(ranks, from + 1, above);
    return rank == null || rank.compareTo(above) <= 0
        ? without
        : Math.max(without, 1 + longestRising(ranks, from + 1, rank));
  }
}
