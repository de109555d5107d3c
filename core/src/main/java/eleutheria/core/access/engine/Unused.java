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
   * Who has left everything unused that they hold of several entitlements. Whoever holds one of
   * which that is not known may have used it, and does not count.
   *
   * @param unused by number of an entitlement, as {@link #of} tells it
   * @return null where nothing is known of any of them
   */
  public static @Nullable RoaringBitmap altogether(
      Snapshot snapshot, int[] entitlements, IntFunction<@Nullable RoaringBitmap> unused) {
    RoaringBitmap left = snapshot.holders(entitlements);
    boolean known = false;
    for (int entitlement : entitlements) {
      RoaringBitmap own = unused.apply(entitlement);
      known |= own != null;
      RoaringBitmap holders = snapshot.holders(entitlement);
      left.andNot(own == null ? holders : RoaringBitmap.andNot(holders, own));
    }
    return known ? left : null;
  }

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
