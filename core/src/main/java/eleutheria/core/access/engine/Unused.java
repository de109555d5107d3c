package eleutheria.core.access.engine;

import java.util.HashMap;
import java.util.Map;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * What is unused: held without a break for all the days that were watched, and not used on any of
 * them. Who holds it for a shorter time, and what nothing tells the use of, is not unused but
 * unknown.
 */
public final class Unused {
  private Unused() {}

  /**
   * @param throughout who held what all those days
   * @param seen whose use the reader may see
   * @param used by number of the entitlement who used it on those days; null where nothing tells
   * @return by number of the entitlement the people to whom it counts as unused; null where that is
   *     not known of anybody
   */
  public static IntFunction<@Nullable RoaringBitmap> of(
      Throughout throughout, Seen seen, IntFunction<@Nullable RoaringBitmap> used) {
    Map<Integer, RoaringBitmap> known = new HashMap<>();
    return entitlement -> {
      RoaringBitmap users = used.apply(entitlement);
      if (users == null) {
        return null;
      }
      synchronized (known) {
        return known.computeIfAbsent(
            entitlement,
            e -> {
              RoaringBitmap left = RoaringBitmap.andNot(throughout.of(e), users);
              RoaringBitmap reached = seen.of(e);
              if (reached != null) {
                left.and(reached);
              }
              return left;
            });
      }
    };
  }
}
