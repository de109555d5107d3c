package eleutheria.core.access.engine;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/** What ends by itself, because facts that are set for a day begin or end. */
public final class Ahead {
  /**
   * What ends by itself before a moment.
   *
   * @param people by number of the entitlement who loses it
   * @param first the moment at which each of them loses it first, by entitlement and person
   */
  private record Found(
      Map<Integer, RoaringBitmap> people, Map<Integer, Map<Integer, Instant>> first) {}

  private final Found found;

  private Ahead(Found found) {
    this.found = found;
  }

  /**
   * Who will lose each entitlement at some moment before another, as things stand; also whoever is
   * given it anew later. Walks the boundaries to come, some tens of microseconds each.
   */
  public static Ahead losing(Engine engine, Instant before) {
    Found found = new Found(new HashMap<>(), new HashMap<>());
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
                int e = flip.entitlement();
                found.people().computeIfAbsent(e, k -> new RoaringBitmap()).or(flip.loss());
                Map<Integer, Instant> first =
                    found.first().computeIfAbsent(e, k -> new HashMap<>());
                flip.loss().forEach((int person) -> first.putIfAbsent(person, instant));
              }
            }
          }
          last[0] = state;
          return true;
        });
    return new Ahead(found);
  }

  /** Who loses an entitlement; never to be changed. */
  public RoaringBitmap of(int entitlement) {
    return found.people().getOrDefault(entitlement, Snapshot.NOBODY);
  }

  /** When somebody loses it first; null if they do not. */
  public @Nullable Instant when(int entitlement, int person) {
    return found.first().getOrDefault(entitlement, Map.of()).get(person);
  }
}
