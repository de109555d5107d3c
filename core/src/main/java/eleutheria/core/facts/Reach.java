package eleutheria.core.facts;

import java.util.SortedSet;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * What a mandate's powers reach: units, applications, collections, each all (null) or a list, and
 * all of them must fit. A unit is a value of the attribute {@code unit}.
 */
public record Reach(
    @Nullable SortedSet<String> units,
    @Nullable SortedSet<String> applications,
    @Nullable SortedSet<String> collections) {

  public static final Reach ALL = new Reach(null, null, null);

  public static Reach units(String... units) {
    return new Reach(new TreeSet<>(java.util.List.of(units)), null, null);
  }

  public boolean isAll() {
    return units == null && applications == null && collections == null;
  }

  /** Whether this reaches all that another reaches. */
  public boolean covers(Reach other) {
    return covers(units, other.units)
        && covers(applications, other.applications)
        && covers(collections, other.collections);
  }

  private static boolean covers(
      @Nullable SortedSet<String> these, @Nullable SortedSet<String> others) {
    return these == null || (others != null && these.containsAll(others));
  }
}
