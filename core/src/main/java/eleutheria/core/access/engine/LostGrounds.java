package eleutheria.core.access.engine;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * Who stands on fewer grounds in one state than in another of the same engine, by entitlement: for
 * each grant, those who were in its subject and are not any more, or all of them where the grant is
 * gone. Only entitlements of which a grant, a group or filter behind one, or somebody's own grants
 * are not the very same in both are looked at; what two states share costs nothing.
 */
final class LostGrounds {
  private LostGrounds() {}

  private static RoaringBitmap candidates(Snapshot before, Snapshot after) {
    RoaringBitmap found = new RoaringBitmap();
    Snapshot.State one = before.state;
    Snapshot.State two = after.state;
    IntConsumer grant = row -> found.add(before.store.given(row));
    one.groupGrants().apart(two.groupGrants(), found::add);
    one.byFilter().apart(two.byFilter(), found::add);
    one.owning().apart(two.owning(), found::add);
    one.members()
        .apart(
            two.members(),
            group -> Arrays.stream(Snapshot.or(one.grantsTo().get(group))).forEach(grant));
    one.fitting()
        .apart(
            two.fitting(),
            filter -> Arrays.stream(Snapshot.or(one.filterGrants().get(filter))).forEach(grant));
    one.own()
        .apart(
            two.own(),
            person -> {
              int[] own = Snapshot.or(one.own().get(person));
              for (int i = 0; i < own.length; i += 2) {
                found.add(own[i]);
              }
            });
    return found;
  }

  static Map<EntitlementId, Set<PersonId>> of(Snapshot before, Snapshot after) {
    Map<EntitlementId, Set<PersonId>> found = new LinkedHashMap<>();
    for (int e : candidates(before, after)) {
      RoaringBitmap lost = new RoaringBitmap();
      int[] groups = Snapshot.or(before.state.groupGrants().get(e));
      int[] still = Snapshot.or(after.state.groupGrants().get(e));
      for (int row : groups) {
        int group = Store.subjectOf(before.store.subject(row));
        without(
            lost,
            Snapshot.or(before.state.members().get(group)),
            groups == still || has(still, row)
                ? Snapshot.or(after.state.members().get(group))
                : Snapshot.NOBODY);
      }
      int[] filters = Snapshot.or(before.state.byFilter().get(e));
      still = Snapshot.or(after.state.byFilter().get(e));
      for (int row : filters) {
        int filter = Store.subjectOf(before.store.subject(row));
        without(
            lost,
            Snapshot.or(before.state.fitting().get(filter)),
            filters == still || has(still, row)
                ? Snapshot.or(after.state.fitting().get(filter))
                : Snapshot.NOBODY);
      }
      own(lost, before, after, e);
      if (!lost.isEmpty()) {
        found.put(before.entitlement(e), new PersonSet(before.store, lost));
      }
    }
    return found;
  }

  private static void without(RoaringBitmap lost, RoaringBitmap was, RoaringBitmap is) {
    if (was != is) {
      lost.or(RoaringBitmap.andNot(was, is));
    }
  }

  private static void own(RoaringBitmap lost, Snapshot before, Snapshot after, int e) {
    RoaringBitmap owning = Snapshot.or(before.state.owning().get(e));
    if (owning == Snapshot.or(after.state.owning().get(e))
        && before.state.own() == after.state.own()) {
      return;
    }
    owning.forEach(
        (int person) -> {
          int[] was = Snapshot.or(before.state.own().get(person));
          int @Nullable [] is = after.exists(person) ? after.state.own().get(person) : null;
          if (was != is && !Arrays.equals(was, is)) {
            for (int i = 0; i < was.length; i += 2) {
              if (was[i] == e && !hasPair(Snapshot.or(is), e, was[i + 1])) {
                lost.add(person);
              }
            }
          }
        });
  }

  private static boolean hasPair(int[] pairs, int entitlement, int grant) {
    for (int i = 0; i < pairs.length; i += 2) {
      if (pairs[i] == entitlement && pairs[i + 1] == grant) {
        return true;
      }
    }
    return false;
  }

  private static boolean has(int[] list, int row) {
    for (int each : list) {
      if (each == row) {
        return true;
      }
    }
    return false;
  }
}
