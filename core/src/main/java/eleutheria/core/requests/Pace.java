package eleutheria.core.requests;

import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * How long it has taken until requests were decided, by nearest rank: each time told is one that
 * was really taken.
 *
 * @param decided how many were
 * @param half the shortest time within which half of them were
 * @param most the shortest time within which nine in ten of them were
 */
public record Pace(int decided, Duration half, Duration most) {
  /** Fewer say little, and might tell of one person. */
  public static final int LEAST = 5;

  public static Optional<Pace> of(Collection<Duration> took) {
    if (took.size() < LEAST) {
      return Optional.empty();
    }
    List<Duration> sorted = took.stream().sorted().toList();
    return Optional.of(new Pace(sorted.size(), rank(sorted, 50), rank(sorted, 90)));
  }

  /** The shortest of them within which so many in a hundred were decided. */
  private static Duration rank(List<Duration> sorted, int percent) {
    return sorted.get((sorted.size() * percent + 99) / 100 - 1);
  }
}
