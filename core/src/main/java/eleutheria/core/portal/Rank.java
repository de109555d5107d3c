package eleutheria.core.portal;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Places in an order as texts over the digits {@code 0-9a-z}: between any two there is room for
 * another, so that moving one thing changes one place and two people's moves seldom meet.
 *
 * <p>A rank is a fraction below 1 written without "0." and never ends in 0, so that texts compare
 * as the fractions do.
 */
public final class Rank {
  private static final String DIGITS = "0123456789abcdefghijklmnopqrstuvwxyz";
  private static final int BASE = DIGITS.length();

  private Rank() {}

  /**
   * A rank between two others.
   *
   * @param low null for the beginning
   * @param high null for the end
   * @throws IllegalArgumentException if they are not in order
   */
  public static String between(@Nullable String low, @Nullable String high) {
    if (low != null && high != null && low.compareTo(high) >= 0) {
      throw new IllegalArgumentException("not in order: " + low + ", " + high);
    }
    StringBuilder rank = new StringBuilder();
    boolean belowHigh = high == null;
    boolean aboveLow = low == null;
    for (int i = 0; ; i++) {
      int from = aboveLow ? 0 : digit(low, i);
      int until = belowHigh ? BASE : digit(high, i);
      if (until - from > 1) {
        return rank.append(DIGITS.charAt((from + until) / 2)).toString();
      }
      rank.append(DIGITS.charAt(from));
      belowHigh |= from < until;
    }
  }

  private static int digit(@Nullable String rank, int i) {
    return rank == null || i >= rank.length() ? 0 : DIGITS.indexOf(rank.charAt(i));
  }

  /** Ranks for so many things, evenly spread and short. */
  public static List<String> spread(int count) {
    String[] ranks = new String[count];
    fill(ranks, 0, count, null, null);
    return List.of(ranks);
  }

  private static void fill(
      String[] ranks, int from, int until, @Nullable String low, @Nullable String high) {
    if (from < until) {
      int middle = (from + until) / 2;
      ranks[middle] = between(low, high);
      fill(ranks, from, middle, low, ranks[middle]);
      fill(ranks, middle + 1, until, ranks[middle], high);
    }
  }

  /**
   * Ranks for things in a wanted order, keeping as many of their present ranks as can be kept.
   *
   * @param present the present rank of each, in the wanted order; null where it has none
   */
  public static List<String> arrange(List<@Nullable String> present) {
    boolean[] kept = longestRising(present);
    List<String> ranks = new ArrayList<>(Collections.nCopies(present.size(), ""));
    int i = 0;
    String low = null;
    while (i < present.size()) {
      int next = i;
      while (next < present.size() && !kept[next]) {
        next++;
      }
      String[] gap = new String[next - i];
      String high = next < present.size() ? present.get(next) : null;
      fill(gap, 0, gap.length, low, high);
      for (int j = 0; j < gap.length; j++) {
        ranks.set(i + j, gap[j]);
      }
      if (next < present.size()) {
        ranks.set(next, present.get(next));
        low = present.get(next);
      }
      i = next + 1;
    }
    return ranks;
  }

  /** Marks a longest strictly rising subsequence; plain and quadratic, for some hundred things. */
  private static boolean[] longestRising(List<@Nullable String> ranks) {
    int[] length = new int[ranks.size()];
    int[] before = new int[ranks.size()];
    Arrays.fill(before, -1);
    int best = -1;
    for (int i = 0; i < ranks.size(); i++) {
      String rank = ranks.get(i);
      if (rank == null) {
        continue;
      }
      length[i] = 1;
      for (int j = 0; j < i; j++) {
        String earlier = ranks.get(j);
        if (earlier != null && earlier.compareTo(rank) < 0 && length[j] + 1 > length[i]) {
          length[i] = length[j] + 1;
          before[i] = j;
        }
      }
      if (best < 0 || length[i] > length[best]) {
        best = i;
      }
    }
    boolean[] kept = new boolean[ranks.size()];
    for (int i = best; i >= 0; i = before[i]) {
      kept[i] = true;
    }
    return kept;
  }
}
