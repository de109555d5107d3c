package eleutheria.core.access.engine;

import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import org.roaringbitmap.RoaringBitmap;

/**
 * Who has held each entitlement without a break from one moment to another, so that it can be said
 * that they did not use it all that time.
 *
 * <p>Starts from the state at the first moment and takes up every change until the last, dropping
 * whoever loses something. Cost: an as-of state, and some tens of microseconds for each instant at
 * which anything changed; can be carried on to a later moment ({@link #until}).
 */
public final class Throughout {
  private final Snapshot first;
  private final Snapshot last;
  // By entitlement who is left; absent where nobody lost it.
  private final Map<Integer, RoaringBitmap> left;

  private Throughout(Snapshot first, Snapshot last, Map<Integer, RoaringBitmap> left) {
    this.first = first;
    this.last = last;
    this.left = left;
  }

  /** From a moment of the past until the state that is given. */
  public static Throughout of(Engine engine, Instant from, Snapshot until) {
    Snapshot first = engine.asOf(from);
    return new Throughout(first, first, Map.of()).until(engine, until);
  }

  /** The same, carried on to a later state. */
  public Throughout until(Engine engine, Snapshot until) {
    Map<Integer, RoaringBitmap> next = new TreeMap<>(left);
    Map<Integer, RoaringBitmap> own = new TreeMap<>();
    Snapshot state = last;
    TreeMap<Long, Delta> changes;
    synchronized (engine.store()) {
      changes = engine.store().changes(last.at, until.at);
    }
    for (Map.Entry<Long, Delta> change : changes.entrySet()) {
      Change.Result result = Change.of(state, change.getValue(), change.getKey());
      state = result.snapshot();
      for (Flips.Flip flip : result.flips().all()) {
        if (!flip.loss().isEmpty()) {
          own.computeIfAbsent(flip.entitlement(), e -> of(e).clone()).andNot(flip.loss());
        }
      }
    }
    next.putAll(own);
    return new Throughout(first, until, next);
  }

  /** The state up to which it is known. */
  public Snapshot last() {
    return last;
  }

  /** Everyone who held it all the time; never to be changed. */
  public RoaringBitmap of(int entitlement) {
    RoaringBitmap some = left.get(entitlement);
    return some == null ? first.holders(entitlement) : some;
  }
}
