package eleutheria.core.access.engine;

import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.PersonId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/** Pages of those who hold an entitlement, in the order of names, and their counts. */
public final class Holders {
  private Holders() {}

  /** By what a ground covers someone. */
  public enum By {
    PERSON,
    GROUP,
    FILTER
  }

  /**
   * Which holders are wanted; what is null or empty does not narrow.
   *
   * @param values wanted values by attribute; several attributes must all fit
   * @param unused the people to whom a holding counts as unused, from the record of use
   * @param by on what kind of ground
   * @param source whence the ground comes
   * @param entitled whether those count who are entitled, though a pause keeps them from holding
   */
  public record Wanted(
      Map<String, String> values,
      @Nullable RoaringBitmap unused,
      @Nullable By by,
      @Nullable GrantSource source,
      boolean entitled) {
    public static final Wanted ALL = new Wanted(Map.of(), null, null, null, false);

    public static Wanted having(String attribute, String value) {
      return new Wanted(Map.of(attribute, value), null, null, null, false);
    }

    public Wanted unused(RoaringBitmap people) {
      return new Wanted(values, people, by, source, entitled);
    }

    public Wanted on(By kind, GrantSource whence) {
      return new Wanted(values, unused, kind, whence, entitled);
    }
  }

  /**
   * @param total how many there are in all
   */
  public record Page(List<PersonId> people, int total) {}

  /**
   * A page of holders in the order of names.
   *
   * <p>Where nothing narrows, the page is the first set bits and the total a number that is kept.
   * Sets that narrow are intersected; grounds are looked at one person at a time, and only until
   * the page is full where the total is not asked for.
   *
   * @param skip how many come before the page
   * @param size of the page
   */
  public static Page page(Snapshot snapshot, int entitlement, Wanted wanted, int skip, int size) {
    return new Page(
        first(snapshot, entitlement, wanted, skip, size), count(snapshot, entitlement, wanted));
  }

  /** The first of a page alone, where nobody asks how many there are. */
  public static List<PersonId> first(
      Snapshot snapshot, int entitlement, Wanted wanted, int skip, int size) {
    if (!wanted.entitled() && !snapshot.open(entitlement)) {
      return List.of();
    }
    boolean grounds = wanted.by() != null || wanted.source() != null;
    RoaringBitmap active = snapshot.state.active();
    boolean all = wanted.entitled();
    List<PersonId> people = new ArrayList<>(Math.min(size, 64));
    if (!grounds && skip == 0 && snapshot.state.order().plain()) {
      // The first page of most lists: the first numbers of a set.
      var numbers = narrowed(snapshot, entitlement, wanted).getIntIterator();
      while (people.size() < size && numbers.hasNext()) {
        int person = numbers.next();
        if (all || active.contains(person)) {
          people.add(snapshot.person(person));
        }
      }
      return people;
    }
    int[] passed = {0};
    snapshot
        .state
        .order()
        .walk(
            narrowed(snapshot, entitlement, wanted),
            person -> {
              if ((all || active.contains(person))
                  && (!grounds || grounded(snapshot, person, entitlement, wanted))
                  && passed[0]++ >= skip) {
                people.add(snapshot.person(person));
              }
              return people.size() < size;
            });
    return people;
  }

  /** How many are wanted. */
  public static int count(Snapshot snapshot, int entitlement, Wanted wanted) {
    if (!wanted.entitled() && !snapshot.open(entitlement)) {
      return 0;
    }
    boolean grounds = wanted.by() != null || wanted.source() != null;
    if (wanted.values().isEmpty() && wanted.unused() == null && !grounds) {
      return wanted.entitled()
          ? snapshot.entitledCount(entitlement)
          : snapshot.state.held().get(entitlement);
    }
    RoaringBitmap among = narrowed(snapshot, entitlement, wanted);
    if (!grounds) {
      return wanted.entitled()
          ? among.getCardinality()
          : RoaringBitmap.andCardinality(among, snapshot.state.active());
    }
    int count = 0;
    var people = among.getIntIterator();
    while (people.hasNext()) {
      int person = people.next();
      if ((wanted.entitled() || snapshot.active(person))
          && grounded(snapshot, person, entitlement, wanted)) {
        count++;
      }
    }
    return count;
  }

  private static RoaringBitmap narrowed(Snapshot snapshot, int entitlement, Wanted wanted) {
    RoaringBitmap set = snapshot.entitledSet(entitlement);
    RoaringBitmap own = null;
    for (Map.Entry<String, String> each : new TreeMap<>(wanted.values()).entrySet()) {
      int attribute = snapshot.store.attribute(each.getKey());
      int code = attribute < 0 ? -1 : snapshot.store.words(attribute).find(each.getValue());
      if (code < 0) {
        return Snapshot.NOBODY;
      }
      own = and(own, set, snapshot.having(attribute, code));
    }
    if (wanted.unused() != null) {
      own = and(own, set, wanted.unused());
    }
    if (wanted.by() == By.PERSON) {
      own = and(own, set, Snapshot.or(snapshot.state.owning().get(entitlement)));
    }
    return own == null ? set : own;
  }

  private static RoaringBitmap and(
      @Nullable RoaringBitmap own, RoaringBitmap set, RoaringBitmap other) {
    if (own == null) {
      return RoaringBitmap.and(set, other);
    }
    own.and(other);
    return own;
  }

  /** Whether a person holds it on a ground of the wanted kind. */
  private static boolean grounded(Snapshot snapshot, int person, int entitlement, Wanted wanted) {
    Snapshot.State state = snapshot.state;
    if (wanted.by() == null || wanted.by() == By.PERSON) {
      int[] own = Snapshot.or(state.own().get(person));
      for (int i = 0; i < own.length; i += 2) {
        if (own[i] == entitlement && comes(snapshot, own[i + 1], wanted)) {
          return true;
        }
      }
    }
    if (wanted.by() == null || wanted.by() == By.GROUP) {
      for (int grant : Snapshot.or(state.groupGrants().get(entitlement))) {
        if (comes(snapshot, grant, wanted)
            && snapshot.reaches(person, Store.subjectOf(snapshot.store.subject(grant)))) {
          return true;
        }
      }
    }
    if (wanted.by() == null || wanted.by() == By.FILTER) {
      for (int grant : Snapshot.or(state.byFilter().get(entitlement))) {
        int filter = Store.subjectOf(snapshot.store.subject(grant));
        if (comes(snapshot, grant, wanted)
            && Snapshot.or(state.fitting().get(filter)).contains(person)) {
          return true;
        }
      }
    }
    return false;
  }

  private static boolean comes(Snapshot snapshot, int grant, Wanted wanted) {
    return wanted.source() == null || snapshot.store.source(grant) == wanted.source();
  }

  /**
   * How many hold each entitlement, worked out anew from members and grants, without what is kept.
   */
  public static int[] countsFromScratch(Snapshot snapshot) {
    Snapshot.State state = snapshot.state;
    int[] counts = new int[snapshot.entitlements()];
    for (int e = 0; e < counts.length; e++) {
      if (snapshot.open(e)) {
        RoaringBitmap set =
            Build.union(
                snapshot.store,
                state.owning().get(e),
                Snapshot.or(state.groupGrants().get(e)),
                state.members(),
                Snapshot.or(state.byFilter().get(e)),
                state.fitting());
        counts[e] = set == null ? 0 : RoaringBitmap.andCardinality(set, state.active());
      }
    }
    return counts;
  }
}
