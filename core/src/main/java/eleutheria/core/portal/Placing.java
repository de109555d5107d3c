package eleutheria.core.portal;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * That a thing is put into an order, moved in it, or removed. Whoever moves one thing disturbs
 * nobody who moves another: only its own place must be as it was seen.
 *
 * @param base its place as it was seen; null if it was not in it
 * @param wanted where it goes; null if it is removed
 */
public record Placing<T, P>(T thing, @Nullable P base, @Nullable Spot<T> wanted) {
  /**
   * @param after behind which it goes; null for the first place
   * @param offered whether those who may ask for it are shown it as well
   */
  public record Spot<T>(@Nullable T after, boolean offered) {}

  /** Puts things into an empty order, one behind the other. */
  public static <T, P> List<Placing<T, P>> all(List<T> things, Function<T, Boolean> offered) {
    List<Placing<T, P>> found = new ArrayList<>();
    T last = null;
    for (T thing : things) {
      found.add(new Placing<>(thing, null, new Spot<>(last, offered.apply(thing))));
      last = thing;
    }
    return found;
  }

  /** The order after some moves; what they go behind must be in it. */
  static <T, P> List<T> moved(List<T> order, List<Placing<T, P>> moves) {
    List<T> found = new ArrayList<>(order);
    for (Placing<T, P> move : moves) {
      found.remove(move.thing());
      Spot<T> spot = move.wanted();
      if (spot != null) {
        // What went meanwhile leaves its follower at the end.
        int at = spot.after() == null ? 0 : found.indexOf(spot.after()) + 1;
        found.add(spot.after() != null && at == 0 ? found.size() : at, move.thing());
      }
    }
    return found;
  }

  /** Ranks for things in an order, keeping as many as can be kept. */
  static <T> List<String> ranks(List<T> order, Map<T, String> present) {
    List<@Nullable String> ranks = new ArrayList<>();
    order.forEach(thing -> ranks.add(present.get(thing)));
    return Rank.arrange(ranks);
  }
}
