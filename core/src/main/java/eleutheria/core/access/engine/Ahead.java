package eleutheria.core.access.engine;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import org.roaringbitmap.RoaringBitmap;

/** What ends by itself, because facts that are set for a day begin or end. */
public final class Ahead {
  private Ahead() {}

  /**
   * Who will lose each entitlement at some moment before another, as things stand; also whoever is
   * given it anew later. Walks the boundaries to come, some tens of microseconds each.
   */
  public static IntFunction<RoaringBitmap> losing(Engine engine, Instant before) {
    Map<Integer, RoaringBitmap> found = new HashMap<>();
    Snapshot[] last = {null};
    engine.suppose(
        List.of(),
        engine.now().at(),
        Set.of(),
        (instant, state, same, anew) -> {
          if (last[0] != null) {
            if (!instant.isBefore(before)) {
              return false;
            }
            for (Flips.Flip flip : Flips.between(last[0], state).all()) {
              if (!flip.loss().isEmpty()) {
                found.computeIfAbsent(flip.entitlement(), e -> new RoaringBitmap()).or(flip.loss());
              }
            }
          }
          last[0] = state;
          return true;
        });
    return e -> found.getOrDefault(e, Snapshot.NOBODY);
  }
}
