package eleutheria.core.access.engine;

import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.ImmutableBitmapDataProvider;
import org.roaringbitmap.RoaringBitmap;

/**
 * Who is entitled to what at one moment; never changes once built, so any number of threads read it
 * without a lock and all see one state.
 *
 * <p>Structure: everything has a dense number (people in the order of their names). Per person the
 * groups they are listed in, their own grants, and a number for the text of each attribute; per
 * group its neighbours, all groups above it, and its grants; bitmaps for who is in a group directly
 * and by any way, and for who is entitled to what. A bitmap that equals another is that other one
 * (the members of a group without nested groups, an entitlement that one group gives). Only who is
 * entitled is kept; who holds it is that without who is not active, and its count stands beside.
 *
 * <p>Why this one: a query about one person walks a few short arrays; a query about everyone is set
 * algebra over compressed bitmaps (Chambi, Lemire et al., "Better bitmap performance with Roaring
 * bitmaps", 2016), some 60,000 people a microsecond. What a person holds is not kept: it takes 3 µs
 * to find, and would be the bulk of what a change copies.
 *
 * <p>Cost for 100,000 people, 10,000 groups and 4.3 million holdings: see {@code
 * docs/benchmarks.md}. All arrays are {@link Chunks}; a change makes the next snapshot by copying
 * what it touches ({@link Change}).
 */
public final class Snapshot {
  final Store store;
  final long at;
  final State state;
  // Worked out at the first query, kept and moved by changes from then on.
  final AtomicReferenceArray<@Nullable Chunks<RoaringBitmap>> byValue;
  final AtomicReferenceArray<@Nullable Matrix> matrices;
  // The rows that a trial has otherwise than they are on record; nothing outside of one.
  private final Map<Long, Times.Span> varied;

  /**
   * All arrays of a snapshot.
   *
   * @param people who exists
   * @param active whose status is active, existing or not
   * @param statuses row of the status + 1
   * @param names number of the name + 1
   * @param columns by attribute, see {@link Words#encode}
   * @param types by attribute, type + 1
   * @param groupsOf groups that a person is listed in, whatever becomes of it
   * @param own pairs of entitlement and grant, sorted, whatever becomes of it
   * @param groups which groups exist
   * @param forms filter + 1
   * @param listed people who exist and are listed in a group
   * @param above a group's existing ancestors and itself, sorted; nothing where it does not exist
   * @param members everyone in a group by any way
   * @param grantsTo grants to a group
   * @param filterGroups groups by a filter
   * @param filterGrants grants to a filter
   * @param programs by filter, of those in use; null where a filter cannot be read
   * @param fitting who fits a filter in use
   * @param live the filters in use
   * @param fits which of them a person fits
   * @param brings what being listed in a group entitles to, through all groups above; nothing for a
   *     group by filter, whose list says nothing
   * @param filterBrings what fitting a filter entitles to
   * @param roleApps application + 1 of an entitlement that exists
   * @param appStates state + 1
   * @param roles entitlements of an application
   * @param groupGrants grants of an entitlement to groups
   * @param byFilter grants of an entitlement to filters
   * @param owning people who exist and have a grant of their own
   * @param entitled people who are entitled
   * @param often people who are entitled by more than one grant
   * @param held how many of those entitled are active
   */
  record State(
      RoaringBitmap people,
      RoaringBitmap active,
      IntChunks statuses,
      IntChunks names,
      Order order,
      IntChunks[] columns,
      IntChunks types,
      Chunks<int[]> groupsOf,
      Chunks<int[]> own,
      RoaringBitmap groups,
      IntChunks forms,
      Chunks<int[]> parents,
      Chunks<int[]> children,
      Chunks<RoaringBitmap> listed,
      Chunks<int[]> above,
      Chunks<RoaringBitmap> members,
      Chunks<int[]> grantsTo,
      Chunks<int[]> filterGroups,
      Chunks<int[]> filterGrants,
      Chunks<FilterProgram> programs,
      Chunks<RoaringBitmap> fitting,
      int[] live,
      Chunks<int[]> fits,
      Chunks<int[]> brings,
      Chunks<int[]> filterBrings,
      IntChunks roleApps,
      IntChunks appStates,
      Chunks<int[]> roles,
      Chunks<int[]> groupGrants,
      Chunks<int[]> byFilter,
      Chunks<RoaringBitmap> owning,
      Chunks<RoaringBitmap> entitled,
      Chunks<RoaringBitmap> often,
      IntChunks held) {}

  static final RoaringBitmap NOBODY = new RoaringBitmap();
  private static final int ACTIVE = PersonStatus.ACTIVE.ordinal() + 1;
  static final int OPEN = ApplicationState.OPEN.ordinal() + 1;

  Snapshot(
      Store store,
      long at,
      State state,
      AtomicReferenceArray<@Nullable Chunks<RoaringBitmap>> byValue,
      AtomicReferenceArray<@Nullable Matrix> matrices) {
    this(store, at, state, byValue, matrices, Map.of());
  }

  private Snapshot(
      Store store,
      long at,
      State state,
      AtomicReferenceArray<@Nullable Chunks<RoaringBitmap>> byValue,
      AtomicReferenceArray<@Nullable Matrix> matrices,
      Map<Long, Times.Span> varied) {
    this.varied = varied;
    this.store = store;
    this.at = at;
    this.state = state;
    this.byValue = byValue;
    this.matrices = matrices;
  }

  /** A state in which nothing is true, to take facts up into. */
  static Snapshot empty(Store store) {
    State state =
        new State(
            NOBODY,
            NOBODY,
            IntChunks.empty(),
            IntChunks.empty(),
            Order.NONE,
            new IntChunks[0],
            IntChunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            NOBODY,
            IntChunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            IntList.NONE,
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            IntChunks.empty(),
            IntChunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            Chunks.empty(),
            IntChunks.empty());
    return new Snapshot(
        store, Long.MIN_VALUE, state, new AtomicReferenceArray<>(0), new AtomicReferenceArray<>(0));
  }

  /** The same as a state of a trial, in which some rows are true at other times. */
  Snapshot tried(Map<Long, Times.Span> rows) {
    return new Snapshot(store, at, state, byValue, matrices, rows);
  }

  /** When rows are true, as this state has it. */
  Times times() {
    return new Times(store, varied);
  }

  /** The moment that this state is of. */
  public Instant at() {
    return Store.instant(at);
  }

  // ---- numbers, for queries by number

  /** The dense number of a person, or −1; numbers never leave the process. */
  public int number(PersonId id) {
    return store.people.find(id.value());
  }

  public int number(GroupId id) {
    return store.groups.find(id.value());
  }

  public int number(EntitlementId id) {
    return store.entitlements.find(id.value());
  }

  public PersonId person(int number) {
    return store.person(number);
  }

  public GroupId group(int number) {
    return store.group(number);
  }

  public EntitlementId entitlement(int number) {
    return store.entitlement(number);
  }

  /** One more than the highest number of an entitlement. */
  public int entitlements() {
    return store.entitlements.size();
  }

  // ---- who is entitled, who holds

  static RoaringBitmap or(@Nullable RoaringBitmap set) {
    return set == null ? NOBODY : set;
  }

  static int[] or(int @Nullable [] list) {
    return list == null ? IntList.NONE : list;
  }

  public boolean exists(int person) {
    return state.people.contains(person);
  }

  public boolean active(int person) {
    return state.active.contains(person);
  }

  /** Whether an entitlement exists and its application is open. */
  public boolean open(int entitlement) {
    int app = state.roleApps.get(entitlement);
    return app > 0 && state.appStates.get(app - 1) == OPEN;
  }

  public boolean entitled(int person, int entitlement) {
    return or(state.entitled.get(entitlement)).contains(person);
  }

  public boolean holds(int person, int entitlement) {
    return open(entitlement) && active(person) && entitled(person, entitlement);
  }

  /** Everyone entitled; never to be changed. */
  public ImmutableBitmapDataProvider entitled(int entitlement) {
    return or(state.entitled.get(entitlement));
  }

  RoaringBitmap entitledSet(int entitlement) {
    return or(state.entitled.get(entitlement));
  }

  /** Everyone who holds it, in a set of its own. */
  public RoaringBitmap holders(int entitlement) {
    return open(entitlement)
        ? RoaringBitmap.and(entitledSet(entitlement), state.active)
        : new RoaringBitmap();
  }

  /** Everyone who holds any of these, in a set of its own. */
  public RoaringBitmap holders(int[] entitlements) {
    RoaringBitmap all = new RoaringBitmap();
    for (int entitlement : entitlements) {
      if (entitlement >= 0 && open(entitlement)) {
        all.or(entitledSet(entitlement));
      }
    }
    all.and(state.active);
    return all;
  }

  /** How many hold it. */
  public int holderCount(int entitlement) {
    return open(entitlement) ? state.held.get(entitlement) : 0;
  }

  /** How many are entitled. */
  public int entitledCount(int entitlement) {
    return entitledSet(entitlement).getCardinality();
  }

  /** Everyone in a group by any way; never to be changed. */
  public ImmutableBitmapDataProvider members(int group) {
    return or(state.members.get(group));
  }

  /** Numbers of everything a person is entitled to, ascending. */
  public int[] entitlementsOf(int person) {
    long[] bits = entitledBits(person);
    int count = 0;
    for (long word : bits) {
      count += Long.bitCount(word);
    }
    int[] found = new int[count];
    int at = 0;
    for (int i = 0; i < bits.length; i++) {
      for (long word = bits[i]; word != 0; word &= word - 1) {
        found[at++] = (i << 6) + Long.numberOfTrailingZeros(word);
      }
    }
    return found;
  }

  /** Numbers of everything a person holds, ascending. */
  public int[] holdingsOf(int person) {
    if (!active(person)) {
      return IntList.NONE;
    }
    int[] all = entitlementsOf(person);
    int kept = 0;
    for (int entitlement : all) {
      if (open(entitlement)) {
        all[kept++] = entitlement;
      }
    }
    return kept == all.length ? all : java.util.Arrays.copyOf(all, kept);
  }

  private long[] entitledBits(int person) {
    long[] bits = new long[(store.entitlements.size() + 63) >>> 6];
    if (!state.people.contains(person)) {
      return bits;
    }
    int[] own = or(state.own.get(person));
    for (int i = 0; i < own.length; i += 2) {
      mark(bits, own[i]);
    }
    for (int group : or(state.groupsOf.get(person))) {
      for (int entitlement : or(state.brings.get(group))) {
        bits[entitlement >>> 6] |= 1L << entitlement;
      }
    }
    for (int filter : or(state.fits.get(person))) {
      for (int entitlement : or(state.filterBrings.get(filter))) {
        bits[entitlement >>> 6] |= 1L << entitlement;
      }
    }
    return bits;
  }

  private void mark(long[] bits, int entitlement) {
    if (state.roleApps.get(entitlement) != 0) {
      bits[entitlement >>> 6] |= 1L << entitlement;
    }
  }

  /** Groups that a person is in directly, by list or by filter. */
  int[] directGroups(int person) {
    IntList found = new IntList();
    if (!state.people.contains(person)) {
      return IntList.NONE;
    }
    for (int group : or(state.groupsOf.get(person))) {
      if (state.forms.get(group) == 0 && state.groups.contains(group)) {
        found.add(group);
      }
    }
    for (int filter : or(state.fits.get(person))) {
      for (int group : or(state.filterGroups.get(filter))) {
        if (state.groups.contains(group)) {
          found.add(group);
        }
      }
    }
    return found.toArray();
  }

  /** Everyone who fits a filter, in use or only tried; nobody where it cannot be read. */
  RoaringBitmap fitting(String filter) {
    int number = store.filterKnown(filter);
    if (number >= 0 && state.programs.get(number) != null) {
      return or(state.fitting.get(number));
    }
    return store.tried.fitting(filter, state, () -> tried(filter));
  }

  private RoaringBitmap tried(String filter) {
    return FilterParser.parse(filter, Build.schema(store, state.types))
            instanceof FilterParser.Parsed.Good good
        ? FilterProgram.of(good.filter(), store)
            .everyone(state.columns, state.people, store.people.size())
        : NOBODY;
  }

  /** Who is in a group directly: its list, or whoever fits its filter. */
  RoaringBitmap direct(int group) {
    int form = state.forms.get(group);
    return or(form == 0 ? state.listed.get(group) : state.fitting.get(form - 1));
  }

  /** Whether someone is in a group by any way. */
  boolean reaches(int person, int group) {
    return or(state.members.get(group)).contains(person);
  }

  /** How many of some people are on record and have not departed. */
  int present(RoaringBitmap some) {
    return presentOf(some).getCardinality();
  }

  /** Those of some people who are on record and have not departed. */
  RoaringBitmap presentOf(RoaringBitmap some) {
    RoaringBitmap known = RoaringBitmap.and(some, state.people());
    RoaringBitmap gone = new RoaringBitmap();
    RoaringBitmap.andNot(known, state.active())
        .forEach(
            (int person) -> {
              if (departed(person)) {
                gone.add(person);
              }
            });
    known.andNot(gone);
    return known;
  }

  private boolean departed(int person) {
    int row = state.statuses.get(person) - 1;
    return row >= 0 && store.rows(Table.STATUS).value(row) == PersonStatus.DEPARTED.ordinal();
  }

  static boolean isActive(int status) {
    return status == ACTIVE;
  }

  // ---- attributes

  /** Everyone who exists and has a value of an attribute; never to be changed. */
  RoaringBitmap having(int attribute, int code) {
    if (attribute >= byValue.length()) {
      return NOBODY;
    }
    Chunks<RoaringBitmap> known = byValue.get(attribute);
    if (known == null) {
      known = ByValue.of(this, attribute);
      byValue.set(attribute, known);
    }
    return or(known.get(code));
  }

  /** Held entitlements by the values of an attribute; empty where nobody ever had one. */
  public Matrix matrix(String attribute) {
    int number = store.attribute(attribute);
    if (number < 0 || number >= matrices.length()) {
      return Matrix.EMPTY;
    }
    Matrix known = matrices.get(number);
    if (known == null) {
      known = Matrix.of(this, number);
      matrices.set(number, known);
    }
    return known;
  }

  IntChunks column(int attribute) {
    return attribute < state.columns.length ? state.columns[attribute] : NO_COLUMN;
  }

  private static final IntChunks NO_COLUMN = IntChunks.empty();
}
