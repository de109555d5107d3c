package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import java.time.Instant;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What a tile tells a person who can open it.
 *
 * @param isNew they can open it for less than {@link #NEWS}, and have not yet in that time
 * @param changed it says or leads to something else for less than {@link #NEWS}, and they have not
 *     opened it since
 * @param ends when they can no longer open it, if that is within {@link #SOON}; null otherwise
 */
public record Tidings(boolean isNew, boolean changed, @Nullable Instant ends) {
  public static final Duration NEWS = Duration.ofDays(7);

  /** How long before its end something is told of. */
  public static final Duration SOON = Duration.ofDays(7);

  public static final Tidings NONE = new Tidings(false, false, null);

  /**
   * @param since when the person began to hold something without a break since; asked only where it
   *     can matter
   * @param opened when they opened the tile last; null if never
   */
  public static Tidings of(
      AccessView access,
      PersonId person,
      Tile tile,
      Function<EntitlementId, @Nullable Instant> since,
      @Nullable Instant opened,
      Instant now) {
    Instant week = now.minus(NEWS);
    boolean lately = opened != null && opened.isAfter(week);
    boolean isNew = !lately && begun(access, person, tile, since).isAfter(week);
    boolean changed =
        !isNew
            && tile.changed().isAfter(tile.begun())
            && tile.changed().isAfter(week)
            && (opened == null || opened.isBefore(tile.changed()));
    Instant ends = ends(access, person, tile);
    return new Tidings(isNew, changed, ends != null && ends.isBefore(now.plus(SOON)) ? ends : null);
  }

  private static Instant begun(
      AccessView access,
      PersonId person,
      Tile tile,
      Function<EntitlementId, @Nullable Instant> since) {
    Instant held = null;
    for (EntitlementId need : tile.face().needs()) {
      Instant each = access.holds(person, need) ? since.apply(need) : null;
      if (each != null && (held == null || each.isBefore(held))) {
        held = each;
      }
    }
    return held == null || held.isBefore(tile.begun()) ? tile.begun() : held;
  }

  /** When the last of what a person opens a tile with ends by itself; null if it does not. */
  static @Nullable Instant ends(AccessView access, PersonId person, Tile tile) {
    Instant last = null;
    for (EntitlementId need : tile.face().needs()) {
      if (!access.holds(person, need)) {
        continue;
      }
      Instant ends = access.ends(person, need);
      if (ends == null) {
        return null;
      }
      last = last == null || ends.isAfter(last) ? ends : last;
    }
    return last;
  }
}
