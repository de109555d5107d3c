package eleutheria.core.access.engine;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.filter.FilterSchema;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.IntConsumer;
import org.roaringbitmap.RoaringBitmap;

/**
 * Makes the next snapshot from one and the rows that begin or cease to be true, and tells what
 * flips.
 *
 * <p>Order: people and their attributes; filters, of which only those that read a changed attribute
 * look at the changed people; who is in groups directly; the groups above; who is in groups by any
 * way; who is entitled; who holds. Each step hands to the next only what may have been gained and
 * what may have been lost. What may be gained is new without further query. What may be lost is
 * lost only where no other way is left: one subtracts the other ways, set by set, until nothing is
 * left, and for a single person that is a handful of lookups.
 *
 * <p>Cost: in proportion to what is touched, not to the organisation. One person into one group is
 * some 10 µs; see {@code docs/benchmarks.md}. Two directions of time are one: a row that ceases is
 * a row that begins the other way round, so a past state is made from a near one by the same steps.
 */
final class Change {
  /** The next state and what flipped on the way to it. */
  record Result(Snapshot snapshot, Flips flips) {}

  private final Store store;
  private final Snapshot old;
  private final Snapshot.State was;
  private final Delta delta;
  private final long at;

  private RoaringBitmap people;
  private RoaringBitmap active;
  private RoaringBitmap groups;
  private final RoaringBitmap bornPeople = new RoaringBitmap();
  private final RoaringBitmap gonePeople = new RoaringBitmap();
  private final RoaringBitmap bornGroups = new RoaringBitmap();
  private final RoaringBitmap goneGroups = new RoaringBitmap();
  private final IntChunks[] columns;
  private final Map<Integer, RoaringBitmap> changedValues = new TreeMap<>();
  private IntChunks types;
  private final Chunks.Editor<int[]> groupsOf;
  private final Chunks.Editor<int[]> own;
  private final IntChunks.Editor forms;
  private final Chunks.Editor<int[]> parents;
  private final Chunks.Editor<int[]> children;
  private final Sets listed;
  private final Chunks.Editor<int[]> above;
  private final Sets members;
  private final Chunks.Editor<int[]> grantsTo;
  private final Chunks.Editor<int[]> filterGroups;
  private final Chunks.Editor<int[]> filterGrants;
  private final Chunks.Editor<FilterProgram> programs;
  private final Sets fitting;
  private int[] live;
  private final Chunks.Editor<int[]> fitsOf;
  private final Chunks.Editor<int[]> brings;
  private final Chunks.Editor<int[]> filterBrings;
  private final IntChunks.Editor roleApps;
  private final IntChunks.Editor appStates;
  private final Chunks.Editor<int[]> roles;
  private final Chunks.Editor<int[]> groupGrants;
  private final Chunks.Editor<int[]> byFilter;
  private final Sets owning;
  private final Sets entitled;
  private final Sets often;
  private final IntChunks.Editor held;

  // What may have moved, by number.
  private final Moved fits = new Moved();
  private final Moved direct = new Moved();
  private final Moved inGroup = new Moved();
  private final Moved candidates = new Moved();
  private final RoaringBitmap wholeRoles = new RoaringBitmap();
  private final RoaringBitmap reopened = new RoaringBitmap();
  // Groups to which a new edge carries people.
  private final RoaringBitmap carriedTo = new RoaringBitmap();

  private Change(Snapshot old, Delta delta, long at) {
    this.old = old;
    this.store = old.store;
    this.was = old.state;
    this.delta = delta;
    this.at = at;
    people = was.people();
    active = was.active();
    groups = was.groups();
    columns = Arrays.copyOf(was.columns(), store.attributeCount());
    for (int i = was.columns().length; i < columns.length; i++) {
      columns[i] = IntChunks.empty();
    }
    types = was.types();
    groupsOf = was.groupsOf().edit();
    own = was.own().edit();
    forms = was.forms().edit();
    parents = was.parents().edit();
    children = was.children().edit();
    listed = new Sets(was.listed());
    above = was.above().edit();
    members = new Sets(was.members());
    grantsTo = was.grantsTo().edit();
    filterGroups = was.filterGroups().edit();
    filterGrants = was.filterGrants().edit();
    programs = was.programs().edit();
    fitting = new Sets(was.fitting());
    live = was.live();
    fitsOf = was.fits().edit();
    brings = was.brings().edit();
    filterBrings = was.filterBrings().edit();
    roleApps = was.roleApps().edit();
    appStates = was.appStates().edit();
    roles = was.roles().edit();
    groupGrants = was.groupGrants().edit();
    byFilter = was.byFilter().edit();
    owning = new Sets(was.owning());
    entitled = new Sets(was.entitled());
    often = new Sets(was.often());
    held = was.held().edit();
  }

  static Result of(Snapshot old, Delta delta, long at) {
    return new Change(old, delta, at).run();
  }

  private Result run() {
    if (delta.size() == 0) {
      return new Result(new Snapshot(store, at, was, old.byValue, old.matrices), Flips.NONE);
    }
    existence();
    IntChunks statuses = statuses();
    IntChunks names = names();
    Order order = order(names);
    attributes();
    grants();
    applications();
    formsAndFilters();
    memberships();
    nesting();
    groups();
    brings();
    entitlements();
    List<Flips.Flip> flips = holdings();
    Snapshot.State state =
        new Snapshot.State(
            people,
            active,
            statuses,
            names,
            order,
            columns,
            types,
            groupsOf.done(),
            own.done(),
            groups,
            forms.done(),
            parents.done(),
            children.done(),
            listed.done(),
            above.done(),
            members.done(),
            grantsTo.done(),
            filterGroups.done(),
            filterGrants.done(),
            programs.done(),
            fitting.done(),
            live,
            fitsOf.done(),
            brings.done(),
            filterBrings.done(),
            roleApps.done(),
            appStates.done(),
            roles.done(),
            groupGrants.done(),
            byFilter.done(),
            owning.done(),
            entitled.done(),
            often.done(),
            held.done());
    return new Result(
        new Snapshot(store, at, state, byValue(), matrices(state, flips)), new Flips(flips));
  }

  /** Sets by number, of which those that are changed are copied once. */
  private static final class Sets {
    private final Chunks.Editor<RoaringBitmap> editor;
    private final Map<Integer, RoaringBitmap> own = new HashMap<>();

    Sets(Chunks<RoaringBitmap> from) {
      editor = from.edit();
    }

    RoaringBitmap get(int index) {
      return Snapshot.or(editor.get(index));
    }

    /** A copy that may be changed. */
    RoaringBitmap mine(int index) {
      return own.computeIfAbsent(
          index,
          i -> {
            RoaringBitmap copy = get(i).clone();
            editor.set(i, copy);
            return copy;
          });
    }

    /** Puts a set that nobody will change. */
    void put(int index, @Nullable RoaringBitmap set) {
      own.remove(index);
      editor.set(index, set);
    }

    Chunks<RoaringBitmap> done() {
      own.forEach(
          (index, set) -> {
            if (set.isEmpty()) {
              editor.set(index, null);
            }
          });
      return editor.done();
    }
  }

  private static final int FEW = 16;

  /** Adds and removes; a few one by one in place, many set by set. */
  private static void move(RoaringBitmap set, RoaringBitmap come, RoaringBitmap gone) {
    if (!come.isEmpty()) {
      if (come.getLongCardinality() <= FEW) {
        come.forEach((IntConsumer) set::add);
      } else {
        set.or(come);
      }
    }
    if (!gone.isEmpty()) {
      if (gone.getLongCardinality() <= FEW) {
        gone.forEach((IntConsumer) set::remove);
      } else {
        set.andNot(gone);
      }
    }
  }

  /** For numbered sets, who may have come and who may have gone. */
  private static final class Moved {
    private final TreeMap<Integer, RoaringBitmap> come = new TreeMap<>();
    private final TreeMap<Integer, RoaringBitmap> gone = new TreeMap<>();

    RoaringBitmap come(int number) {
      return come.computeIfAbsent(number, n -> new RoaringBitmap());
    }

    RoaringBitmap gone(int number) {
      return gone.computeIfAbsent(number, n -> new RoaringBitmap());
    }

    int[] numbers() {
      RoaringBitmap all = new RoaringBitmap();
      come.keySet().forEach(all::add);
      gone.keySet().forEach(all::add);
      return all.toArray();
    }

    RoaringBitmap mayCome(int number) {
      return Snapshot.or(come.get(number));
    }

    RoaringBitmap mayGo(int number) {
      return Snapshot.or(gone.get(number));
    }
  }

  private interface Row {
    void at(Rows rows, int row);
  }

  private void off(Table table, Row visitor) {
    each(table, delta.off(table), visitor);
  }

  private void on(Table table, Row visitor) {
    each(table, delta.on(table), visitor);
  }

  private void each(Table table, IntList list, Row visitor) {
    Rows rows = store.rows(table);
    for (int i = 0; i < list.size(); i++) {
      visitor.at(rows, list.get(i));
    }
  }

  // ---- people

  private void existence() {
    if (delta.touches(Table.PEOPLE)) {
      people = people.clone();
      off(Table.PEOPLE, (rows, row) -> people.remove(rows.key(row)));
      on(Table.PEOPLE, (rows, row) -> people.add(rows.key(row)));
      bornPeople.or(RoaringBitmap.andNot(people, was.people()));
      gonePeople.or(RoaringBitmap.andNot(was.people(), people));
    }
    if (delta.touches(Table.GROUPS)) {
      groups = groups.clone();
      off(Table.GROUPS, (rows, row) -> groups.remove(rows.key(row)));
      on(Table.GROUPS, (rows, row) -> groups.add(rows.key(row)));
      bornGroups.or(RoaringBitmap.andNot(groups, was.groups()));
      goneGroups.or(RoaringBitmap.andNot(was.groups(), groups));
    }
  }

  private IntChunks statuses() {
    IntChunks.Editor statuses = was.statuses().edit();
    if (delta.touches(Table.STATUS)) {
      RoaringBitmap next = active.clone();
      off(
          Table.STATUS,
          (rows, row) -> {
            statuses.set(rows.key(row), 0);
            next.remove(rows.key(row));
          });
      on(
          Table.STATUS,
          (rows, row) -> {
            statuses.set(rows.key(row), row + 1);
            if (Snapshot.isActive(rows.value(row) + 1)) {
              next.add(rows.key(row));
            }
          });
      active = next.equals(active) ? active : next;
    }
    return statuses.done();
  }

  private IntChunks names() {
    if (!delta.touches(Table.NAMES)) {
      return was.names();
    }
    IntChunks.Editor names = was.names().edit();
    off(Table.NAMES, (rows, row) -> names.set(rows.key(row), 0));
    on(Table.NAMES, (rows, row) -> names.set(rows.key(row), rows.value(row) + 1));
    return names.done();
  }

  private Order order(IntChunks names) {
    if (!delta.touches(Table.NAMES)) {
      return was.order();
    }
    RoaringBitmap moved = was.order().moved().clone();
    Row look =
        (rows, row) -> {
          int person = rows.key(row);
          int name = names.get(person);
          if (name != 0 && name - 1 != store.orderedName(person)) {
            moved.add(person);
          } else {
            moved.remove(person);
          }
        };
    off(Table.NAMES, look);
    on(Table.NAMES, look);
    return Order.of(store, names, moved);
  }

  private void attributes() {
    if (delta.touches(Table.DEFINED)) {
      IntChunks.Editor editor = types.edit();
      off(Table.DEFINED, (rows, row) -> editor.set(rows.key(row), 0));
      on(Table.DEFINED, (rows, row) -> editor.set(rows.key(row), rows.value(row) + 1));
      types = editor.done();
    }
    if (!delta.touches(Table.ATTRIBUTES)) {
      return;
    }
    Map<Integer, IntChunks.Editor> editors = new HashMap<>();
    Row take =
        (rows, row) -> {
          int attribute = rows.extra(row) >>> 1;
          editors.computeIfAbsent(attribute, a -> columns[a].edit());
          changedValues.computeIfAbsent(attribute, a -> new RoaringBitmap()).add(rows.key(row));
        };
    off(Table.ATTRIBUTES, take);
    on(Table.ATTRIBUTES, take);
    off(
        Table.ATTRIBUTES,
        (rows, row) -> {
          IntChunks.Editor column = requireNonNull(editors.get(rows.extra(row) >>> 1));
          Words words = store.words(rows.extra(row) >>> 1);
          int person = rows.key(row);
          column.set(person, Build.without(words, column.get(person), rows.value(row)));
        });
    on(
        Table.ATTRIBUTES,
        (rows, row) -> {
          IntChunks.Editor column = requireNonNull(editors.get(rows.extra(row) >>> 1));
          Words words = store.words(rows.extra(row) >>> 1);
          int person = rows.key(row);
          column.set(person, Build.with(words, column.get(person), rows.value(row)));
        });
    editors.forEach((attribute, editor) -> columns[attribute] = editor.done());
  }

  // ---- grants and applications

  private void grants() {
    RoaringBitmap touched = new RoaringBitmap();
    Row end =
        (rows, row) -> {
          int of = Store.subjectOf(rows.value(row));
          int entitlement = store.given(row);
          switch (Store.kindOf(rows.value(row))) {
            case Store.PERSON -> {
              own.set(of, withoutPair(Snapshot.or(own.get(of)), row));
              candidates.gone(entitlement).add(of);
              touched.add(of);
            }
            case Store.GROUP -> {
              without(grantsTo, of, row);
              without(groupGrants, entitlement, row);
              candidates.gone(entitlement).or(Snapshot.or(was.members().get(of)));
            }
            default -> {
              without(filterGrants, of, row);
              without(byFilter, entitlement, row);
              candidates.gone(entitlement).or(Snapshot.or(was.fitting().get(of)));
            }
          }
        };
    off(Table.GRANTS, end);
    on(
        Table.GRANTS,
        (rows, row) -> {
          int of = Store.subjectOf(rows.value(row));
          int entitlement = store.given(row);
          switch (Store.kindOf(rows.value(row))) {
            case Store.PERSON -> {
              own.set(of, withPair(Snapshot.or(own.get(of)), entitlement, row));
              touched.add(of);
              if (people.contains(of)) {
                candidates.come(entitlement).add(of);
              }
            }
            case Store.GROUP -> {
              with(grantsTo, of, row);
              with(groupGrants, entitlement, row);
            }
            default -> {
              with(filterGrants, of, row);
              with(byFilter, entitlement, row);
            }
          }
        });
    touched.or(bornPeople);
    touched.or(gonePeople);
    touched.forEach(
        (IntConsumer)
            person -> {
              ownRoles(was.own().get(person), e -> owns(person, e));
              ownRoles(own.get(person), e -> owns(person, e));
            });
  }

  private void owns(int person, int entitlement) {
    boolean now = people.contains(person) && hasPair(Snapshot.or(own.get(person)), entitlement);
    if (now != owning.get(entitlement).contains(person)) {
      if (now) {
        owning.mine(entitlement).add(person);
        candidates.come(entitlement).add(person);
      } else {
        owning.mine(entitlement).remove(person);
        candidates.gone(entitlement).add(person);
      }
    }
  }

  private static void ownRoles(int @Nullable [] pairs, java.util.function.IntConsumer role) {
    int[] all = Snapshot.or(pairs);
    for (int i = 0; i < all.length; i += 2) {
      role.accept(all[i]);
    }
  }

  private static boolean hasPair(int[] pairs, int entitlement) {
    for (int i = 0; i < pairs.length; i += 2) {
      if (pairs[i] == entitlement) {
        return true;
      }
    }
    return false;
  }

  private static int[] withPair(int[] pairs, int entitlement, int grant) {
    int[] next = new int[pairs.length + 2];
    int at = 0;
    while (at < pairs.length
        && (pairs[at] < entitlement || (pairs[at] == entitlement && pairs[at + 1] < grant))) {
      at += 2;
    }
    System.arraycopy(pairs, 0, next, 0, at);
    next[at] = entitlement;
    next[at + 1] = grant;
    System.arraycopy(pairs, at, next, at + 2, pairs.length - at);
    return next;
  }

  private static int @Nullable [] withoutPair(int[] pairs, int grant) {
    for (int i = 1; i < pairs.length; i += 2) {
      if (pairs[i] == grant) {
        if (pairs.length == 2) {
          return null;
        }
        int[] next = new int[pairs.length - 2];
        System.arraycopy(pairs, 0, next, 0, i - 1);
        System.arraycopy(pairs, i + 1, next, i - 1, pairs.length - i - 1);
        return next;
      }
    }
    return pairs;
  }

  private static void with(Chunks.Editor<int[]> lists, int index, int item) {
    lists.set(index, IntList.with(Snapshot.or(lists.get(index)), item));
  }

  private static void without(Chunks.Editor<int[]> lists, int index, int item) {
    int[] next = IntList.without(Snapshot.or(lists.get(index)), item);
    lists.set(index, next.length == 0 ? null : next);
  }

  private void applications() {
    Row leave =
        (rows, row) -> {
          without(roles, rows.value(row), rows.key(row));
          roleApps.set(rows.key(row), 0);
        };
    off(Table.ROLES, leave);
    on(
        Table.ROLES,
        (rows, row) -> {
          with(roles, rows.value(row), rows.key(row));
          roleApps.set(rows.key(row), rows.value(row) + 1);
        });
    off(Table.STATES, (rows, row) -> appStates.set(rows.key(row), 0));
    on(Table.STATES, (rows, row) -> appStates.set(rows.key(row), rows.value(row) + 1));
    Row role =
        (rows, row) -> {
          int e = rows.key(row);
          if ((was.roleApps().get(e) != 0) != (roleApps.get(e) != 0)) {
            wholeRoles.add(e);
          }
          look(e);
        };
    off(Table.ROLES, role);
    on(Table.ROLES, role);
    Row state =
        (rows, row) -> {
          for (int e : Snapshot.or(roles.get(rows.key(row)))) {
            look(e);
          }
        };
    off(Table.STATES, state);
    on(Table.STATES, state);
  }

  private void look(int entitlement) {
    if (old.open(entitlement) != open(entitlement)) {
      reopened.add(entitlement);
    }
  }

  private boolean open(int entitlement) {
    int app = roleApps.get(entitlement);
    return app > 0 && appStates.get(app - 1) == Snapshot.OPEN;
  }

  // ---- filters

  private final RoaringBitmap reformed = new RoaringBitmap();
  private final RoaringBitmap refiltered = new RoaringBitmap();
  private final RoaringBitmap moreOrLessAbove = new RoaringBitmap();

  private void formsAndFilters() {
    RoaringBitmap touched = new RoaringBitmap();
    Row leave =
        (rows, row) -> {
          int group = rows.key(row);
          int form = forms.get(group);
          if (form > 0) {
            without(filterGroups, form - 1, group);
            touched.add(form - 1);
          }
          forms.set(group, 0);
          reformed.add(group);
        };
    off(Table.FORMS, leave);
    on(
        Table.FORMS,
        (rows, row) -> {
          int group = rows.key(row);
          forms.set(group, rows.value(row));
          if (rows.value(row) > 0) {
            with(filterGroups, rows.value(row) - 1, group);
            touched.add(rows.value(row) - 1);
          }
          reformed.add(group);
        });
    Row grant =
        (rows, row) -> {
          if (Store.kindOf(rows.value(row)) == Store.FILTER) {
            touched.add(Store.subjectOf(rows.value(row)));
          }
        };
    off(Table.GRANTS, grant);
    on(Table.GRANTS, grant);
    boolean redefined = delta.touches(Table.DEFINED);
    boolean populated = !bornPeople.isEmpty() || !gonePeople.isEmpty();
    if (touched.isEmpty() && !redefined && !populated && changedValues.isEmpty()) {
      return;
    }
    RoaringBitmap wasLive = RoaringBitmap.bitmapOf(was.live());
    refiltered.or(touched);
    if (!touched.isEmpty()) {
      RoaringBitmap now = wasLive.clone();
      touched.forEach(
          (IntConsumer)
              filter -> {
                if (filterGroups.get(filter) != null || filterGrants.get(filter) != null) {
                  now.add(filter);
                } else {
                  now.remove(filter);
                }
              });
      live = now.toArray();
      RoaringBitmap.andNot(wasLive, now)
          .forEach(
              (IntConsumer)
                  filter -> {
                    fits.gone(filter).or(fitting.get(filter));
                    fitting.put(filter, null);
                    programs.set(filter, null);
                  });
    }
    FilterSchema schema = null;
    for (int filter : live) {
      if (redefined || !wasLive.contains(filter)) {
        schema = schema == null ? Build.schema(store, types) : schema;
        FilterProgram program = Build.program(store, filter, schema);
        programs.set(filter, program);
        RoaringBitmap before = wasLive.contains(filter) ? fitting.get(filter) : Snapshot.NOBODY;
        RoaringBitmap after =
            program == null
                ? Snapshot.NOBODY
                : program.everyone(columns, people, store.people.size());
        if (!before.equals(after) || !wasLive.contains(filter)) {
          fits.come(filter).or(RoaringBitmap.andNot(after, before));
          fits.gone(filter).or(RoaringBitmap.andNot(before, after));
          fitting.put(filter, after);
        }
        continue;
      }
      FilterProgram program = programs.get(filter);
      if (program == null) {
        continue;
      }
      RoaringBitmap changed = populated ? RoaringBitmap.or(bornPeople, gonePeople) : null;
      for (Map.Entry<Integer, RoaringBitmap> each : changedValues.entrySet()) {
        if (program.reads(each.getKey())) {
          changed = changed == null ? each.getValue() : RoaringBitmap.or(changed, each.getValue());
        }
      }
      if (changed == null) {
        continue;
      }
      changed.forEach(
          (IntConsumer)
              person -> {
                boolean now = people.contains(person) && program.fits(columns, person);
                if (now != fitting.get(filter).contains(person)) {
                  if (now) {
                    fitting.mine(filter).add(person);
                    fits.come(filter).add(person);
                  } else {
                    fitting.mine(filter).remove(person);
                    fits.gone(filter).add(person);
                  }
                }
              });
    }
  }

  // ---- who is in groups directly

  private void memberships() {
    for (int filter : fits.numbers()) {
      fits.mayCome(filter).forEach((IntConsumer) person -> with(fitsOf, person, filter));
      fits.mayGo(filter).forEach((IntConsumer) person -> without(fitsOf, person, filter));
    }
    Map<Integer, RoaringBitmap> touched = new TreeMap<>();
    Row take =
        (rows, row) ->
            touched.computeIfAbsent(rows.key(row), g -> new RoaringBitmap()).add(rows.value(row));
    off(
        Table.MEMBERS,
        (rows, row) -> {
          without(groupsOf, rows.value(row), rows.key(row));
          take.at(rows, row);
        });
    on(
        Table.MEMBERS,
        (rows, row) -> {
          with(groupsOf, rows.value(row), rows.key(row));
          take.at(rows, row);
        });
    RoaringBitmap.or(bornPeople, gonePeople)
        .forEach(
            (IntConsumer)
                person -> {
                  for (int group : Snapshot.or(groupsOf.get(person))) {
                    touched.computeIfAbsent(group, g -> new RoaringBitmap()).add(person);
                  }
                });
    touched.forEach(
        (group, who) ->
            who.forEach(
                (IntConsumer)
                    person -> {
                      boolean now =
                          people.contains(person)
                              && IntList.has(Snapshot.or(groupsOf.get(person)), group);
                      if (now == listed.get(group).contains(person)) {
                        return;
                      }
                      if (now) {
                        listed.mine(group).add(person);
                      } else {
                        listed.mine(group).remove(person);
                      }
                      if (forms.get(group) == 0 && !reformed.contains(group)) {
                        (now ? direct.come(group) : direct.gone(group)).add(person);
                      }
                    }));
    for (int filter : fits.numbers()) {
      for (int group : Snapshot.or(filterGroups.get(filter))) {
        if (!reformed.contains(group)) {
          direct.come(group).or(fits.mayCome(filter));
          direct.gone(group).or(fits.mayGo(filter));
        }
      }
      for (int grant : Snapshot.or(filterGrants.get(filter))) {
        candidates.come(store.given(grant)).or(fits.mayCome(filter));
      }
      for (int grant : Snapshot.or(was.filterGrants().get(filter))) {
        candidates.gone(store.given(grant)).or(fits.mayGo(filter));
      }
    }
    reformed.forEach(
        (IntConsumer)
            group -> {
              RoaringBitmap before = old.direct(group);
              RoaringBitmap after = direct(group);
              if (!before.equals(after)) {
                direct.come(group).or(RoaringBitmap.andNot(after, before));
                direct.gone(group).or(RoaringBitmap.andNot(before, after));
              }
            });
  }

  private RoaringBitmap direct(int group) {
    int form = forms.get(group);
    return form == 0 ? listed.get(group) : fitting.get(form - 1);
  }

  // ---- groups in groups

  private void nesting() {
    off(
        Table.EDGES,
        (rows, row) -> {
          without(parents, rows.value(row), rows.key(row));
          without(children, rows.key(row), rows.value(row));
        });
    on(
        Table.EDGES,
        (rows, row) -> {
          with(parents, rows.value(row), rows.key(row));
          with(children, rows.key(row), rows.value(row));
        });
    if (!delta.touches(Table.EDGES) && bornGroups.isEmpty() && goneGroups.isEmpty()) {
      return;
    }
    RoaringBitmap roots = RoaringBitmap.or(bornGroups, goneGroups);
    Row child = (rows, row) -> roots.add(rows.value(row));
    off(Table.EDGES, child);
    on(Table.EDGES, child);
    RoaringBitmap below = new RoaringBitmap();
    RoaringBitmap either = RoaringBitmap.or(groups, was.groups());
    roots.forEach(
        (IntConsumer)
            root -> {
              below.add(Build.below(root, either, g -> Snapshot.or(was.children().get(g))));
              below.add(Build.below(root, either, g -> Snapshot.or(children.get(g))));
            });
    Above walk = new Above(groups, g -> Snapshot.or(parents.get(g)));
    below.forEach(
        (IntConsumer)
            group -> {
              int[] next = walk.of(group);
              if (!Arrays.equals(next, Snapshot.or(was.above().get(group)))) {
                above.set(group, next.length == 0 ? null : next);
                moreOrLessAbove.add(group);
              }
            });
    boolean leaving =
        !delta.off(Table.EDGES).isEmpty() || !goneGroups.isEmpty() || !direct.gone.isEmpty();
    // What an edge carried may go from everything that was above it, what it carries may come.
    off(
        Table.EDGES,
        (rows, row) -> {
          RoaringBitmap carried = Snapshot.or(was.members().get(rows.value(row)));
          if (!carried.isEmpty()) {
            for (int group : Snapshot.or(was.above().get(rows.key(row)))) {
              inGroup.gone(group).or(carried);
            }
          }
        });
    on(
        Table.EDGES,
        (rows, row) -> {
          RoaringBitmap carried = Snapshot.or(was.members().get(rows.value(row)));
          if (!carried.isEmpty()) {
            for (int group : Snapshot.or(above.get(rows.key(row)))) {
              inGroup.come(group).or(carried);
              if (leaving) {
                carriedTo.add(group);
              }
            }
          }
        });
    goneGroups.forEach(
        (IntConsumer)
            group -> {
              RoaringBitmap carried = Snapshot.or(was.members().get(group));
              for (int up : Snapshot.or(was.above().get(group))) {
                inGroup.gone(up).or(carried);
              }
            });
    bornGroups.forEach(
        (IntConsumer)
            group -> {
              RoaringBitmap carried = new RoaringBitmap();
              for (int each : Build.below(group, groups, g -> Snapshot.or(children.get(g)))) {
                carried.or(direct(each));
              }
              for (int up : Snapshot.or(above.get(group))) {
                inGroup.come(up).or(carried);
              }
            });
  }

  // ---- who is in groups by any way

  private void groups() {
    for (int group : direct.numbers()) {
      RoaringBitmap come = direct.mayCome(group);
      if (!come.isEmpty()) {
        for (int up : Snapshot.or(above.get(group))) {
          inGroup.come(up).or(come);
        }
      }
      RoaringBitmap gone = direct.mayGo(group);
      if (!gone.isEmpty()) {
        for (int up : Snapshot.or(was.above().get(group))) {
          inGroup.gone(up).or(gone);
        }
      }
    }
    int[] touched = inGroup.numbers();
    int[] order = touched.length < 2 ? touched : Build.childrenFirst(touched, above);
    for (int group : order) {
      RoaringBitmap before = Snapshot.or(was.members().get(group));
      if (!groups.contains(group)) {
        moved(group, Snapshot.NOBODY, before);
        continue;
      }
      RoaringBitmap come = RoaringBitmap.andNot(inGroup.mayCome(group), before);
      if (carriedTo.contains(group) && !come.isEmpty()) {
        come.and(reached(group));
      }
      RoaringBitmap gone = RoaringBitmap.and(inGroup.mayGo(group), before);
      if (!gone.isEmpty()) {
        left(group, gone);
      }
      moved(group, come, gone);
    }
  }

  /** Who is in a group now: for those whom a new edge carries, but who may have left below it. */
  private RoaringBitmap reached(int group) {
    RoaringBitmap all = direct(group).clone();
    if (Build.circular(group, Snapshot.or(parents.get(group)), above)) {
      for (int below : Build.below(group, groups, g -> Snapshot.or(children.get(g)))) {
        all.or(direct(below));
      }
      return all;
    }
    for (int child : Snapshot.or(children.get(group))) {
      if (groups.contains(child)) {
        all.or(members.get(child));
      }
    }
    return all;
  }

  /** Leaves in a set those whom no way leads into a group any more. */
  private void left(int group, RoaringBitmap gone) {
    gone.andNot(direct(group));
    if (gone.isEmpty()) {
      return;
    }
    int[] nested = Snapshot.or(children.get(group));
    if (Build.circular(group, Snapshot.or(parents.get(group)), above)) {
      for (int below : Build.below(group, groups, g -> Snapshot.or(children.get(g)))) {
        gone.andNot(direct(below));
      }
      return;
    }
    for (int child : nested) {
      if (gone.isEmpty()) {
        return;
      }
      if (groups.contains(child)) {
        gone.andNot(members.get(child));
      }
    }
  }

  private void moved(int group, RoaringBitmap come, RoaringBitmap gone) {
    if (come.isEmpty() && gone.isEmpty()) {
      return;
    }
    if (!gone.isEmpty()) {
      for (int grant : Snapshot.or(was.grantsTo().get(group))) {
        candidates.gone(store.given(grant)).or(gone);
      }
    }
    RoaringBitmap direct = direct(group);
    boolean alone = groups.contains(group) && Snapshot.or(children.get(group)).length == 0;
    if (!groups.contains(group)) {
      members.put(group, null);
    } else if (alone) {
      members.put(group, direct.isEmpty() ? null : direct);
    } else {
      move(members.mine(group), come, gone);
    }
    if (!come.isEmpty()) {
      for (int grant : Snapshot.or(grantsTo.get(group))) {
        candidates.come(store.given(grant)).or(come);
      }
    }
  }

  // ---- what groups and filters bring

  private void brings() {
    RoaringBitmap lists = RoaringBitmap.or(reformed, moreOrLessAbove);
    RoaringBitmap filters = refiltered.clone();
    RoaringBitmap granted = new RoaringBitmap();
    Row grant =
        (rows, row) -> {
          switch (Store.kindOf(rows.value(row))) {
            case Store.GROUP -> granted.add(Store.subjectOf(rows.value(row)));
            case Store.FILTER -> filters.add(Store.subjectOf(rows.value(row)));
            default -> {}
          }
        };
    off(Table.GRANTS, grant);
    on(Table.GRANTS, grant);
    wholeRoles.forEach(
        (IntConsumer)
            e -> {
              for (int row : Snapshot.or(groupGrants.get(e))) {
                granted.add(Store.subjectOf(store.subject(row)));
              }
              for (int row : Snapshot.or(byFilter.get(e))) {
                filters.add(Store.subjectOf(store.subject(row)));
              }
            });
    granted.forEach(
        (IntConsumer)
            group -> lists.add(Build.below(group, groups, g -> Snapshot.or(children.get(g)))));
    if (lists.isEmpty() && filters.isEmpty()) {
      return;
    }
    Brings bring = new Brings(store, above, grantsTo, roleApps::get);
    lists.forEach(
        (IntConsumer)
            group -> {
              int form = forms.get(group);
              if (form != 0) {
                filters.add(form - 1);
              }
              brings.set(group, form == 0 ? bring.ofGroup(group) : null);
            });
    filters.forEach(
        (IntConsumer)
            filter ->
                filterBrings.set(
                    filter, bring.ofFilter(filterGroups.get(filter), filterGrants.get(filter))));
  }

  // ---- who is entitled

  private final TreeMap<Integer, RoaringBitmap> gained = new TreeMap<>();
  private final TreeMap<Integer, RoaringBitmap> lost = new TreeMap<>();

  private void entitlements() {
    on(
        Table.GRANTS,
        (rows, row) -> {
          int of = Store.subjectOf(rows.value(row));
          switch (Store.kindOf(rows.value(row))) {
            case Store.GROUP -> candidates.come(store.given(row)).or(members.get(of));
            case Store.FILTER -> candidates.come(store.given(row)).or(fitting.get(of));
            default -> {}
          }
        });
    wholeRoles.forEach(
        (IntConsumer)
            e -> {
              candidates.come(e);
              candidates.gone(e);
            });
    for (int e : candidates.numbers()) {
      RoaringBitmap before = old.entitledSet(e);
      if (roleApps.get(e) == 0) {
        if (!before.isEmpty()) {
          lost.put(e, before);
          entitled.put(e, null);
          often.put(e, null);
        }
        continue;
      }
      often(e);
      RoaringBitmap come;
      RoaringBitmap gone;
      if (wholeRoles.contains(e)) {
        come = new RoaringBitmap();
        come.or(owning.get(e));
        for (int grant : Snapshot.or(groupGrants.get(e))) {
          come.or(members.get(Store.subjectOf(store.subject(grant))));
        }
        for (int grant : Snapshot.or(byFilter.get(e))) {
          come.or(fitting.get(Store.subjectOf(store.subject(grant))));
        }
        gone = Snapshot.NOBODY;
      } else {
        come = RoaringBitmap.andNot(candidates.mayCome(e), before);
        gone = RoaringBitmap.and(candidates.mayGo(e), before);
        uncovered(e, gone);
      }
      if (come.isEmpty() && gone.isEmpty()) {
        continue;
      }
      move(entitled.mine(e), come, gone);
      if (!come.isEmpty()) {
        gained.put(e, come);
      }
      if (!gone.isEmpty()) {
        lost.put(e, gone);
      }
    }
  }

  /** Counts anew by how many grants those are covered who may have come or gone. */
  private void often(int entitlement) {
    RoaringBitmap come = candidates.mayCome(entitlement);
    RoaringBitmap gone = candidates.mayGo(entitlement);
    if (wholeRoles.contains(entitlement)
        || come.getLongCardinality() + gone.getLongCardinality() > FEW) {
      RoaringBitmap more =
          Build.often(
              store,
              entitlement,
              owning.get(entitlement),
              own,
              Snapshot.or(groupGrants.get(entitlement)),
              members::get,
              Snapshot.or(byFilter.get(entitlement)),
              fitting::get);
      often.put(entitlement, more.isEmpty() ? null : more);
      return;
    }
    come.forEach((IntConsumer) person -> often(entitlement, person));
    gone.forEach((IntConsumer) person -> often(entitlement, person));
  }

  private void often(int entitlement, int person) {
    int count =
        people.contains(person) ? Build.ownGrants(Snapshot.or(own.get(person)), entitlement) : 0;
    for (int grant : Snapshot.or(groupGrants.get(entitlement))) {
      if (count > 1) {
        break;
      }
      count += members.get(Store.subjectOf(store.subject(grant))).contains(person) ? 1 : 0;
    }
    for (int grant : Snapshot.or(byFilter.get(entitlement))) {
      if (count > 1) {
        break;
      }
      count += fitting.get(Store.subjectOf(store.subject(grant))).contains(person) ? 1 : 0;
    }
    boolean more = count > 1;
    if (more != often.get(entitlement).contains(person)) {
      if (more) {
        often.mine(entitlement).add(person);
      } else {
        often.mine(entitlement).remove(person);
      }
    }
  }

  /** Leaves in a set those whom no grant covers any more. */
  private void uncovered(int entitlement, RoaringBitmap gone) {
    if (gone.isEmpty()) {
      return;
    }
    gone.andNot(owning.get(entitlement));
    for (int grant : Snapshot.or(groupGrants.get(entitlement))) {
      if (gone.isEmpty()) {
        return;
      }
      gone.andNot(members.get(Store.subjectOf(store.subject(grant))));
    }
    for (int grant : Snapshot.or(byFilter.get(entitlement))) {
      if (gone.isEmpty()) {
        return;
      }
      gone.andNot(fitting.get(Store.subjectOf(store.subject(grant))));
    }
  }

  // ---- who holds

  private List<Flips.Flip> holdings() {
    RoaringBitmap turned =
        active == was.active() ? Snapshot.NOBODY : RoaringBitmap.xor(active, was.active());
    RoaringBitmap touched = reopened.clone();
    gained.keySet().forEach(touched::add);
    lost.keySet().forEach(touched::add);
    Moved turns = turned.isEmpty() ? new Moved() : turns(turned);
    for (int e : turns.numbers()) {
      touched.add(e);
    }
    List<Flips.Flip> flips = new ArrayList<>();
    touched.forEach(
        (IntConsumer)
            e -> {
              RoaringBitmap entitledGain = Snapshot.or(gained.get(e));
              RoaringBitmap entitledLoss = Snapshot.or(lost.get(e));
              // As if the application were open: what is counted goes on through a pause.
              RoaringBitmap come = RoaringBitmap.and(entitledGain, active);
              RoaringBitmap gone = RoaringBitmap.and(entitledLoss, was.active());
              come.or(turns.mayCome(e));
              gone.or(turns.mayGo(e));
              int count = held.get(e) + come.getCardinality() - gone.getCardinality();
              if (count != held.get(e)) {
                held.set(e, count);
              }
              counted.put(e, new RoaringBitmap[] {come, gone});
              RoaringBitmap gain = come;
              RoaringBitmap loss = gone;
              if (reopened.contains(e)) {
                boolean now = open(e);
                gain = now ? RoaringBitmap.and(entitled.get(e), active) : new RoaringBitmap();
                loss =
                    now ? new RoaringBitmap() : RoaringBitmap.and(old.entitledSet(e), was.active());
              } else if (!open(e)) {
                gain = Snapshot.NOBODY;
                loss = Snapshot.NOBODY;
              }
              if (!gain.isEmpty()
                  || !loss.isEmpty()
                  || !entitledGain.isEmpty()
                  || !entitledLoss.isEmpty()) {
                flips.add(new Flips.Flip(e, gain, loss, entitledGain, entitledLoss));
              }
            });
    return flips;
  }

  private final TreeMap<Integer, RoaringBitmap[]> counted = new TreeMap<>();

  /** Whose status turned, by what they are entitled to: who wakes and who sleeps. */
  private Moved turns(RoaringBitmap turned) {
    Moved found = new Moved();
    if (turned.getCardinality() > 64) {
      for (int e = 0; e < store.entitlements.size(); e++) {
        RoaringBitmap after = entitled.get(e);
        RoaringBitmap before = old.entitledSet(e);
        if (RoaringBitmap.intersects(turned, after) || RoaringBitmap.intersects(turned, before)) {
          RoaringBitmap woken = RoaringBitmap.and(turned, active);
          woken.and(after);
          RoaringBitmap slept = RoaringBitmap.and(turned, was.active());
          slept.and(before);
          found.come.put(e, woken);
          found.gone.put(e, slept);
        }
      }
      return found;
    }
    turned.forEach(
        (IntConsumer)
            person -> {
              // Before: what the old state says. After: that, with what this change moved.
              if (was.active().contains(person)) {
                for (int e : old.entitlementsOf(person)) {
                  found.gone(e).add(person);
                }
              } else {
                for (int e : old.entitlementsOf(person)) {
                  if (entitled.get(e).contains(person)) {
                    found.come(e).add(person);
                  }
                }
                gained.forEach(
                    (e, who) -> {
                      if (who.contains(person)) {
                        found.come(e).add(person);
                      }
                    });
              }
            });
    return found;
  }

  // ---- what was worked out at a query

  private AtomicReferenceArray<@Nullable Chunks<RoaringBitmap>> byValue() {
    int kinds = columns.length;
    AtomicReferenceArray<@Nullable Chunks<RoaringBitmap>> next = new AtomicReferenceArray<>(kinds);
    for (int attribute = 0; attribute < Math.min(kinds, old.byValue.length()); attribute++) {
      Chunks<RoaringBitmap> known = old.byValue.get(attribute);
      if (known == null) {
        continue;
      }
      RoaringBitmap changed = RoaringBitmap.or(bornPeople, gonePeople);
      changed.or(Snapshot.or(changedValues.get(attribute)));
      if (changed.isEmpty()) {
        next.set(attribute, known);
        continue;
      }
      Sets sets = new Sets(known);
      Words words = store.words(attribute);
      int of = attribute;
      changed.forEach(
          (IntConsumer)
              person -> {
                if (was.people().contains(person)) {
                  for (int code : words.decode(old.column(of).get(person))) {
                    sets.mine(code).remove(person);
                  }
                }
                if (people.contains(person)) {
                  for (int code : words.decode(columns[of].get(person))) {
                    sets.mine(code).add(person);
                  }
                }
              });
      next.set(attribute, sets.done());
    }
    return next;
  }

  private AtomicReferenceArray<@Nullable Matrix> matrices(
      Snapshot.State state, List<Flips.Flip> flips) {
    int kinds = columns.length;
    AtomicReferenceArray<@Nullable Matrix> next = new AtomicReferenceArray<>(kinds);
    for (int attribute = 0; attribute < Math.min(kinds, old.matrices.length()); attribute++) {
      Matrix known = old.matrices.get(attribute);
      if (known == null) {
        continue;
      }
      Words words = store.words(attribute);
      Matrix.Editor editor = known.edit(words);
      IntChunks before = old.column(attribute);
      IntChunks after = columns[attribute];
      counted.forEach(
          (e, sets) -> {
            sets[0].forEach((IntConsumer) p -> editor.count(e, after.get(p), 1));
            sets[1].forEach((IntConsumer) p -> editor.count(e, before.get(p), -1));
          });
      // Who held and holds, and has another value now, moves from one row to the other.
      Snapshot.or(changedValues.get(attribute))
          .forEach(
              (IntConsumer)
                  person -> {
                    if (before.get(person) == after.get(person)
                        || !was.active().contains(person)
                        || !active.contains(person)) {
                      return;
                    }
                    for (int e : old.entitlementsOf(person)) {
                      if (Snapshot.or(state.entitled().get(e)).contains(person)) {
                        editor.count(e, before.get(person), -1);
                        editor.count(e, after.get(person), 1);
                      }
                    }
                  });
      next.set(attribute, editor.done());
    }
    return next;
  }
}
