package eleutheria.core.access.engine;

import java.util.Arrays;
import java.util.function.IntUnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * What a group or a filter entitles to, through all groups above. Groups are few against people,
 * and change seldom; with their lists ready, what a person holds is the union of some short arrays.
 */
final class Brings {
  private final Store store;
  private final Listed<int[]> above;
  private final Listed<int[]> grantsTo;
  private final IntUnaryOperator roleApps;

  /**
   * @param roleApps 0 for an entitlement that does not exist
   */
  Brings(Store store, Listed<int[]> above, Listed<int[]> grantsTo, IntUnaryOperator roleApps) {
    this.store = store;
    this.above = above;
    this.grantsTo = grantsTo;
    this.roleApps = roleApps;
  }

  /** Sorted, each once; null for nothing. */
  int @Nullable [] ofGroup(int group) {
    IntList found = new IntList(0);
    add(found, group);
    return sorted(found);
  }

  /**
   * @param groups that have the filter
   * @param grants to the filter itself
   */
  int @Nullable [] ofFilter(int @Nullable [] groups, int @Nullable [] grants) {
    IntList found = new IntList(0);
    for (int group : Snapshot.or(groups)) {
      add(found, group);
    }
    add(found, Snapshot.or(grants));
    return sorted(found);
  }

  private void add(IntList found, int group) {
    for (int each : Snapshot.or(above.get(group))) {
      add(found, Snapshot.or(grantsTo.get(each)));
    }
  }

  private void add(IntList found, int[] grants) {
    for (int grant : grants) {
      int entitlement = store.given(grant);
      if (roleApps.applyAsInt(entitlement) != 0) {
        found.add(entitlement);
      }
    }
  }

  private static int @Nullable [] sorted(IntList found) {
    if (found.isEmpty()) {
      return null;
    }
    int[] all = found.toArray();
    Arrays.sort(all);
    int kept = 1;
    for (int i = 1; i < all.length; i++) {
      if (all[i] != all[kept - 1]) {
        all[kept++] = all[i];
      }
    }
    return kept == all.length ? all : Arrays.copyOf(all, kept);
  }
}
