package eleutheria.core.access.engine;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.PersonId;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.IntConsumer;
import org.roaringbitmap.RoaringBitmap;

/**
 * Some holdings: those that a reader may see and that fit what is asked. The map of holdings, its
 * counts, reports, hints and streams all read it, so that none of them shows more than another.
 *
 * <p>Cost: for an entitlement one intersection for each thing that narrows, kept once worked out.
 */
public final class Cut {
  final Snapshot snapshot;
  final Seen seen;
  final Asked asked;
  final Evidence evidence;
  // Who has it, before anything is cut; null for whoever holds it at the moment of the snapshot.
  private final @Nullable IntFunction<RoaringBitmap> base;
  private final @Nullable RoaringBitmap among;
  private final AtomicReferenceArray<@Nullable RoaringBitmap> sets;

  private Cut(
      Snapshot snapshot,
      Seen seen,
      Asked asked,
      Evidence evidence,
      @Nullable IntFunction<RoaringBitmap> base) {
    this.snapshot = snapshot;
    this.seen = seen;
    this.asked = asked;
    this.evidence = evidence;
    this.base = base;
    this.among = among(snapshot, asked);
    this.sets = new AtomicReferenceArray<>(snapshot.entitlements());
  }

  /** Of those who hold it at the moment of a snapshot. */
  public static Cut of(Snapshot snapshot, Seen seen, Asked asked, Evidence evidence) {
    return new Cut(snapshot, seen, asked, evidence, null);
  }

  /**
   * Of others than those who hold it at that moment: whoever gained it since another, say, or held
   * it during a span. Attributes and reach are those of the snapshot.
   *
   * @param base by number of the entitlement; never changed
   */
  public static Cut over(
      Snapshot snapshot,
      Seen seen,
      Asked asked,
      Evidence evidence,
      IntFunction<RoaringBitmap> base) {
    return new Cut(snapshot, seen, asked, evidence, base);
  }

  private static @Nullable RoaringBitmap among(Snapshot snapshot, Asked asked) {
    return asked.people().isEmpty() ? null : snapshot.fitting(asked.people());
  }

  public Snapshot snapshot() {
    return snapshot;
  }

  /** Whether the numbers that the snapshot keeps stand for an entitlement as they are. */
  boolean plain(int entitlement) {
    return base == null && !asked.narrows() && seen.of(entitlement) == null;
  }

  /** Whether nothing is cut for any entitlement. */
  boolean plain() {
    return base == null && !asked.narrows() && seen.everything();
  }

  /** Whether an entitlement is asked for, whoever may hold it. */
  public boolean asks(AppsView apps, Entitlement entitlement) {
    return (asked.apps().isEmpty() || asked.apps().contains(entitlement.application()))
        && (asked.entitlements().isEmpty() || asked.entitlements().contains(entitlement.id()))
        && (asked.sensitivities().isEmpty()
            || asked.sensitivities().contains(entitlement.role().sensitivity()));
  }

  /**
   * The entitlements that are asked for and of which something is seen, by application and name.
   */
  public List<Entitlement> entitlements(AppsView apps) {
    return apps.entitlements().stream()
        .filter(e -> asks(apps, e))
        .filter(
            e -> {
              int number = snapshot.number(e.id());
              if (number < 0) {
                return false;
              }
              boolean all = !asked.narrows() && base == null && seen.of(number) == null;
              return all || count(number) > 0;
            })
        .toList();
  }

  /** Who has an entitlement, of those asked for; never to be changed. */
  RoaringBitmap people(int entitlement) {
    if (entitlement >= sets.length()) {
      return Snapshot.NOBODY;
    }
    RoaringBitmap known = sets.get(entitlement);
    if (known == null) {
      known = workedOut(entitlement);
      sets.set(entitlement, known);
    }
    return known;
  }

  private RoaringBitmap workedOut(int entitlement) {
    RoaringBitmap set =
        base == null ? snapshot.holders(entitlement) : base.apply(entitlement).clone();
    RoaringBitmap reached = seen.of(entitlement);
    if (reached != null) {
      set.and(reached);
    }
    if (among != null) {
      set.and(among);
    }
    if (asked.unused() && !set.isEmpty()) {
      RoaringBitmap unused = evidence.unused().apply(entitlement);
      set.and(unused == null ? Snapshot.NOBODY : unused);
    }
    if (asked.conflict() && !set.isEmpty()) {
      set.and(evidence.conflicts().apply(entitlement));
    }
    if (asked.hand() && !set.isEmpty()) {
      set.and(byHand(entitlement));
    }
    if (asked.ending() != null && !set.isEmpty()) {
      set.and(evidence.ending().apply(entitlement));
    }
    return set;
  }

  private RoaringBitmap byHand(int entitlement) {
    RoaringBitmap found = new RoaringBitmap();
    Snapshot.or(snapshot.state.owning().get(entitlement))
        .forEach(
            (IntConsumer)
                person -> {
                  int[] own = Snapshot.or(snapshot.state.own().get(person));
                  for (int i = 0; i < own.length; i += 2) {
                    if (own[i] == entitlement
                        && snapshot.store.source(own[i + 1]) == GrantSource.HAND) {
                      found.add(person);
                      return;
                    }
                  }
                });
    return found;
  }

  /** How many have an entitlement, of those asked for. */
  public int count(int entitlement) {
    return plain(entitlement)
        ? snapshot.holderCount(entitlement)
        : people(entitlement).getCardinality();
  }

  /**
   * Everybody of whom anything may be seen here, active or not: whoever is within reach, and of an
   * application whose holders are all seen those who have it; null for all.
   */
  @Nullable RoaringBitmap reached(List<Entitlement> columns) {
    if (seen.everything()) {
      return null;
    }
    RoaringBitmap all = new RoaringBitmap();
    for (Entitlement column : columns) {
      RoaringBitmap people = seen.of(snapshot.number(column.id()));
      all.or(people == null ? people(snapshot.number(column.id())) : people);
    }
    return all;
  }

  /** Everybody of whom anything may be seen here; null for all. */
  public @Nullable RoaringBitmap reachedBy(AppsView apps) {
    return reached(entitlements(apps));
  }

  /** Who is known not to have used it, of those asked for; null where that is not known. */
  @Nullable RoaringBitmap unused(int entitlement) {
    RoaringBitmap unused = evidence.unused().apply(entitlement);
    return unused == null ? null : RoaringBitmap.and(unused, people(entitlement));
  }

  /** Who breaks a rule by it, of those asked for. */
  RoaringBitmap conflicts(int entitlement) {
    RoaringBitmap conflicts = evidence.conflicts().apply(entitlement);
    return conflicts.isEmpty() ? conflicts : RoaringBitmap.and(conflicts, people(entitlement));
  }

  /** Takes one holding after the other. */
  public interface HoldingVisitor {
    /**
     * @param signs by what and whence ({@link Signs})
     * @return whether to go on
     */
    boolean holding(Entitlement entitlement, PersonId person, int signs);
  }

  /** Who has an entitlement, of those asked for, in a set of its own. */
  public RoaringBitmap people(EntitlementId entitlement) {
    int number = snapshot.number(entitlement);
    return number < 0 ? new RoaringBitmap() : people(number).clone();
  }

  /** Everybody who has any of some entitlements. */
  public Set<PersonId> everyone(List<Entitlement> of) {
    RoaringBitmap all = new RoaringBitmap();
    for (Entitlement each : of) {
      all.or(people(snapshot.number(each.id())));
    }
    return new PersonSet(snapshot.store, all);
  }

  /** How many holdings fit, of some entitlements. */
  public long count(List<Entitlement> of) {
    long sum = 0;
    for (Entitlement each : of) {
      sum += count(snapshot.number(each.id()));
    }
    return sum;
  }

  /**
   * Goes through the holdings that fit: entitlements as they are given, people by name.
   *
   * @param skip how many are passed over first; whole entitlements cost nothing
   */
  public void forEach(List<Entitlement> of, long skip, HoldingVisitor visitor) {
    long before = skip;
    for (Entitlement each : of) {
      int number = snapshot.number(each.id());
      int count = count(number);
      if (before >= count) {
        before -= count;
        continue;
      }
      long[] passed = {before};
      before = 0;
      boolean[] on = {true};
      snapshot
          .state
          .order()
          .walk(
              people(number),
              person -> {
                if (passed[0] > 0) {
                  passed[0]--;
                  return true;
                }
                on[0] =
                    visitor.holding(
                        each, snapshot.person(person), Signs.of(snapshot, person, number));
                return on[0];
              });
      if (!on[0]) {
        return;
      }
    }
  }
}
