package eleutheria.core.access.engine;

import eleutheria.core.access.Conflict;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * What is known of holdings beside who holds them, by number of the entitlement; sets are never to
 * be changed.
 *
 * @param unused who is known not to have used it; null where that is not known of anybody
 * @param conflicts who breaks a separation rule by it; whether accepted breaches count is for
 *     whoever asks to say
 * @param ending who loses it by itself before the moment asked for
 */
public record Evidence(
    IntFunction<@Nullable RoaringBitmap> unused,
    IntFunction<RoaringBitmap> conflicts,
    IntFunction<RoaringBitmap> ending) {
  public static final Evidence NONE =
      new Evidence(e -> null, e -> Snapshot.NOBODY, e -> Snapshot.NOBODY);

  /** Breaches by entitlement; each counts on both of its sides. */
  public static IntFunction<RoaringBitmap> conflicts(
      Snapshot snapshot, Collection<Conflict> breaches) {
    Map<Integer, RoaringBitmap> sets = new HashMap<>();
    for (Conflict breach : breaches) {
      int person = snapshot.number(breach.person());
      for (int e : new int[] {snapshot.number(breach.one()), snapshot.number(breach.other())}) {
        if (person >= 0 && e >= 0) {
          sets.computeIfAbsent(e, k -> new RoaringBitmap()).add(person);
        }
      }
    }
    return e -> sets.getOrDefault(e, Snapshot.NOBODY);
  }
}
