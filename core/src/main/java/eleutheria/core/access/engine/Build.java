package eleutheria.core.access.engine;

import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.facts.ValueType;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.roaringbitmap.RoaringBitmapWriter;

/**
 * Makes a snapshot of one moment from all rows.
 *
 * <p>Structure: each table is walked once for what is true at the moment. Both directions of who is
 * in what come from one counting sort: first the groups of each person, in slices of one array;
 * walking people in the order of their numbers then fills each group's slice sorted, which is what
 * a bitmap wants to be made of. Adding to sets one by one took ten times as long as all set algebra
 * together.
 *
 * <p>Groups are closed from the bottom: a group with more groups above it comes first, so that
 * those nested in it are done already. Groups in a circle (which no act makes, but a reader
 * survives) are done by walking down.
 */
final class Build {
  private final Store store;
  private final long at;
  private final int people;
  private final int groups;
  private final int entitlements;

  private Build(Store store, long at) {
    this.store = store;
    this.at = at;
    this.people = store.people.size();
    this.groups = store.groups.size();
    this.entitlements = store.entitlements.size();
  }

  static Snapshot of(Store store, long at) {
    return new Build(store, at).snapshot();
  }

  private Snapshot snapshot() {
    RoaringBitmap exist = keys(Table.PEOPLE);
    IntChunks.Editor statuses = IntChunks.empty().edit();
    RoaringBitmapWriter<RoaringBitmap> active = RoaringBitmapWriter.writer().get();
    each(
        Table.STATUS,
        (rows, row) -> {
          statuses.set(rows.key(row), row + 1);
          if (Snapshot.isActive(rows.value(row) + 1)) {
            active.add(rows.key(row));
          }
        });
    IntChunks names = names();
    IntChunks types = values(Table.DEFINED);
    IntChunks[] columns = columns();

    Slices groupsOf = slices(Table.MEMBERS, people, true);
    RoaringBitmap existingGroups = keys(Table.GROUPS);
    IntChunks forms = values(Table.FORMS, 0);
    Slices parents = slices(Table.EDGES, groups, true);
    Slices children = slices(Table.EDGES, groups, false);

    Grants grants = new Grants();
    Chunks<int[]> filterGroups = byFilterForm();
    int[] live = live(filterGroups, grants.toFilters);
    Chunks.Editor<FilterProgram> programs = Chunks.<FilterProgram>empty().edit();
    Chunks.Editor<RoaringBitmap> fitting = Chunks.<RoaringBitmap>empty().edit();
    FilterSchema schema = schema(store, types);
    for (int filter : live) {
      FilterProgram program = program(store, filter, schema);
      programs.set(filter, program);
      fitting.set(
          filter, program == null ? Snapshot.NOBODY : program.everyone(columns, exist, people));
    }
    Chunks<RoaringBitmap> fits = fitting.done();

    Chunks<RoaringBitmap> listed = listed(groupsOf, exist);
    Chunks<int[]> above = above(existingGroups, parents);
    Chunks<RoaringBitmap> members =
        members(existingGroups, forms, listed, fits, above, parents, children);

    IntChunks roleApps = values(Table.ROLES);
    Chunks<int[]> toGroups = grants.toGroups.chunks();
    Brings bring = new Brings(store, above, toGroups, roleApps::get);
    Chunks.Editor<int[]> brings = Chunks.<int[]>empty().edit();
    existingGroups.forEach(
        (int group) -> {
          if (forms.get(group) == 0) {
            brings.set(group, bring.ofGroup(group));
          }
        });
    Chunks.Editor<int[]> filterBrings = Chunks.<int[]>empty().edit();
    for (int filter : live) {
      filterBrings.set(
          filter, bring.ofFilter(filterGroups.get(filter), grants.toFilters.get(filter)));
    }
    Chunks<RoaringBitmap> owning = owning(grants, exist);
    RoaringBitmap activeSet = active.get();
    IntChunks.Editor held = IntChunks.empty().edit();
    Chunks.Editor<RoaringBitmap> entitled = Chunks.<RoaringBitmap>empty().edit();
    Chunks.Editor<RoaringBitmap> often = Chunks.<RoaringBitmap>empty().edit();
    Chunks<int[]> own = grants.own();
    Chunks<int[]> groupGrants = grants.groupGrants.chunks();
    Chunks<int[]> filterGrants = grants.byFilter.chunks();
    for (int e = 0; e < entitlements; e++) {
      if (roleApps.get(e) == 0) {
        continue;
      }
      RoaringBitmap set =
          union(
              store,
              owning.get(e),
              Snapshot.or(groupGrants.get(e)),
              members,
              Snapshot.or(filterGrants.get(e)),
              fits);
      if (set != null) {
        entitled.set(e, set);
        held.set(e, RoaringBitmap.andCardinality(set, activeSet));
        RoaringBitmap more =
            often(
                store,
                e,
                Snapshot.or(owning.get(e)),
                own,
                Snapshot.or(groupGrants.get(e)),
                members,
                Snapshot.or(filterGrants.get(e)),
                fits);
        if (!more.isEmpty()) {
          more.trim();
          often.set(e, more);
        }
      }
    }
    Snapshot.State state =
        new Snapshot.State(
            exist,
            activeSet,
            statuses.done(),
            names,
            order(names),
            columns,
            types,
            groupsOf.chunks(),
            own,
            existingGroups,
            forms,
            parents.chunks(),
            children.chunks(),
            listed,
            above,
            members,
            toGroups,
            filterGroups,
            grants.toFilters,
            programs.done(),
            fits,
            live,
            fitsOf(live, fits),
            brings.done(),
            filterBrings.done(),
            roleApps,
            values(Table.STATES),
            roles(roleApps),
            groupGrants,
            filterGrants,
            owning,
            entitled.done(),
            often.done(),
            held.done());
    int kinds = store.attributeCount();
    return new Snapshot(
        store, at, state, new AtomicReferenceArray<>(kinds), new AtomicReferenceArray<>(kinds));
  }

  // ---- walking tables

  private interface Row {
    void at(Rows rows, int row);
  }

  private void each(Table table, Row visitor) {
    Rows rows = store.rows(table);
    int size = rows.size();
    for (int row = 0; row < size; row++) {
      if (rows.on(row, at)) {
        visitor.at(rows, row);
      }
    }
  }

  private RoaringBitmap keys(Table table) {
    RoaringBitmap found = new RoaringBitmap();
    each(table, (rows, row) -> found.add(rows.key(row)));
    return found;
  }

  /** The value + 1 by key. */
  private IntChunks values(Table table) {
    return values(table, 1);
  }

  private IntChunks values(Table table, int plus) {
    IntChunks.Editor editor = IntChunks.empty().edit();
    each(table, (rows, row) -> editor.set(rows.key(row), rows.value(row) + plus));
    return editor.done();
  }

  private IntChunks names() {
    return values(Table.NAMES);
  }

  private Order order(IntChunks names) {
    RoaringBitmap moved = new RoaringBitmap();
    for (int person = 0; person < people; person++) {
      int name = names.get(person);
      if (name != 0 && name - 1 != store.orderedName(person)) {
        moved.add(person);
      }
    }
    return Order.of(store, names, moved);
  }

  private IntChunks[] columns() {
    int kinds = store.attributeCount();
    IntChunks.Editor[] editors = new IntChunks.Editor[kinds];
    Arrays.setAll(editors, i -> IntChunks.empty().edit());
    each(
        Table.ATTRIBUTES,
        (rows, row) -> {
          int attribute = rows.extra(row) >>> 1;
          IntChunks.Editor column = editors[attribute];
          int person = rows.key(row);
          int before = column.get(person);
          int code = rows.value(row);
          column.set(
              person, before == Words.NONE ? code + 1 : with(store.words(attribute), before, code));
        });
    IntChunks[] columns = new IntChunks[kinds];
    Arrays.setAll(columns, i -> editors[i].done());
    return columns;
  }

  static int with(Words words, int value, int code) {
    return words.encode(IntList.with(words.decode(value), code));
  }

  static int without(Words words, int value, int code) {
    return words.encode(IntList.without(words.decode(value), code));
  }

  // ---- slices: many small lists in one array, by a counting sort

  /** Lists by number, cut out of one array. */
  private static final class Slices {
    final int[] starts;
    final int[] items;

    Slices(int[] starts, int[] items) {
      this.starts = starts;
      this.items = items;
    }

    int size() {
      return starts.length - 1;
    }

    Chunks<int[]> chunks() {
      Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
      for (int i = 0; i < size(); i++) {
        if (starts[i] < starts[i + 1]) {
          editor.set(i, Arrays.copyOfRange(items, starts[i], starts[i + 1]));
        }
      }
      return editor.done();
    }
  }

  /**
   * @param byValue whether lists are of keys by value, or of values by key
   */
  private Slices slices(Table table, int size, boolean byValue) {
    int[] starts = new int[size + 1];
    each(table, (rows, row) -> starts[(byValue ? rows.value(row) : rows.key(row)) + 1]++);
    for (int i = 0; i < size; i++) {
      starts[i + 1] += starts[i];
    }
    int[] items = new int[starts[size]];
    int[] next = starts.clone();
    each(
        table,
        (rows, row) -> {
          int of = byValue ? rows.value(row) : rows.key(row);
          items[next[of]++] = byValue ? rows.key(row) : rows.value(row);
        });
    sort(starts, items);
    return new Slices(starts, items);
  }

  private static void sort(int[] starts, int[] items) {
    for (int i = 0; i + 1 < starts.length; i++) {
      for (int j = starts[i] + 1; j < starts[i + 1]; j++) {
        if (items[j - 1] > items[j]) {
          Arrays.sort(items, starts[i], starts[i + 1]);
          break;
        }
      }
    }
  }

  /** The other direction: walking people in order fills each group's slice sorted. */
  private Chunks<RoaringBitmap> listed(Slices groupsOf, RoaringBitmap exist) {
    int[] starts = new int[groups + 1];
    for (int group : groupsOf.items) {
      starts[group + 1]++;
    }
    for (int i = 0; i < groups; i++) {
      starts[i + 1] += starts[i];
    }
    int[] items = new int[groupsOf.items.length];
    int[] next = starts.clone();
    for (int person = 0; person < people; person++) {
      int from = groupsOf.starts[person];
      int until = groupsOf.starts[person + 1];
      if (from < until && exist.contains(person)) {
        for (int i = from; i < until; i++) {
          items[next[groupsOf.items[i]]++] = person;
        }
      }
    }
    Chunks.Editor<RoaringBitmap> editor = Chunks.<RoaringBitmap>empty().edit();
    for (int group = 0; group < groups; group++) {
      if (starts[group] < next[group]) {
        editor.set(group, sorted(items, starts[group], next[group]));
      }
    }
    return editor.done();
  }

  private static RoaringBitmap sorted(int[] items, int from, int until) {
    RoaringBitmapWriter<RoaringBitmap> writer =
        RoaringBitmapWriter.writer().initialCapacity(2).optimiseForArrays().get();
    for (int i = from; i < until; i++) {
      writer.add(items[i]);
    }
    RoaringBitmap made = writer.get();
    made.trim();
    return made;
  }

  // ---- groups

  private Chunks<int[]> above(RoaringBitmap exist, Slices parents) {
    Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
    Above walk = new Above(exist, group -> slice(parents, group));
    exist.forEach((int group) -> editor.set(group, walk.of(group)));
    return editor.done();
  }

  private static int[] slice(Slices slices, int at) {
    return at < slices.size()
        ? Arrays.copyOfRange(slices.items, slices.starts[at], slices.starts[at + 1])
        : IntList.NONE;
  }

  private Chunks<RoaringBitmap> members(
      RoaringBitmap exist,
      IntChunks forms,
      Chunks<RoaringBitmap> listed,
      Chunks<RoaringBitmap> fits,
      Chunks<int[]> above,
      Slices parents,
      Slices children) {
    int[] order = childrenFirst(exist.toArray(), above);
    Chunks.Editor<RoaringBitmap> members = Chunks.<RoaringBitmap>empty().edit();
    for (int group : order) {
      int form = forms.get(group);
      RoaringBitmap direct = form == 0 ? listed.get(group) : fits.get(form - 1);
      int[] nested = slice(children, group);
      if (nested.length == 0) {
        if (direct != null && !direct.isEmpty()) {
          members.set(group, direct);
        }
        continue;
      }
      List<RoaringBitmap> parts = new ArrayList<>();
      if (direct != null && !direct.isEmpty()) {
        parts.add(direct);
      }
      if (circular(group, slice(parents, group), above)) {
        for (int below : below(group, exist, g -> slice(children, g))) {
          int formBelow = forms.get(below);
          RoaringBitmap part = formBelow == 0 ? listed.get(below) : fits.get(formBelow - 1);
          if (below != group && part != null) {
            parts.add(part);
          }
        }
      } else {
        for (int child : nested) {
          RoaringBitmap part = members.get(child);
          if (part != null && exist.contains(child)) {
            parts.add(part);
          }
        }
      }
      RoaringBitmap all = union(parts);
      if (all != null) {
        members.set(group, all);
      }
    }
    return members.done();
  }

  /** Whether a group is above itself. */
  static boolean circular(int group, int[] parents, Listed<int[]> above) {
    for (int parent : parents) {
      if (IntList.has(Snapshot.or(above.get(parent)), group)) {
        return true;
      }
    }
    return false;
  }

  interface Neighbours {
    int[] of(int group);
  }

  /** A group and everything nested in it, over groups that exist. */
  static int[] below(int group, RoaringBitmap exist, Neighbours children) {
    return new Above(exist, children).of(group);
  }

  /** Groups with more groups above them first: whatever is nested comes before what holds it. */
  static int[] childrenFirst(int[] groups, Listed<int[]> above) {
    long[] keyed = new long[groups.length];
    for (int i = 0; i < groups.length; i++) {
      int length = Snapshot.or(above.get(groups[i])).length;
      keyed[i] = (long) (Integer.MAX_VALUE - length) << 32 | groups[i];
    }
    Arrays.sort(keyed);
    int[] order = new int[groups.length];
    for (int i = 0; i < order.length; i++) {
      order[i] = (int) keyed[i];
    }
    return order;
  }

  // ---- filters

  static FilterSchema schema(Store store, IntChunks types) {
    List<FilterSchema.Field> fields = new ArrayList<>();
    for (int attribute = 0; attribute < store.attributeCount(); attribute++) {
      int type = types.get(attribute);
      if (type != 0) {
        fields.add(
            new FilterSchema.Field(store.attributeName(attribute), ValueType.values()[type - 1]));
      }
    }
    return new FilterSchema(fields);
  }

  /** A filter made ready, or null where it cannot be read: it then fits nobody. */
  static @Nullable FilterProgram program(Store store, int filter, FilterSchema schema) {
    return FilterParser.parse(store.filter(filter), schema) instanceof FilterParser.Parsed.Good good
        ? FilterProgram.of(good.filter(), store)
        : null;
  }

  private Chunks<int[]> byFilterForm() {
    Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
    each(
        Table.FORMS,
        (rows, row) -> {
          if (rows.value(row) > 0) {
            int filter = rows.value(row) - 1;
            editor.set(filter, IntList.with(Snapshot.or(editor.get(filter)), rows.key(row)));
          }
        });
    return editor.done();
  }

  private static int[] live(Chunks<int[]> groups, Chunks<int[]> grants) {
    IntList found = new IntList();
    for (int filter = 0; filter < 1 << 20; filter++) {
      if (groups.get(filter) != null || grants.get(filter) != null) {
        found.add(filter);
      } else if (filter >= groups.size() && filter >= grants.size()) {
        break;
      }
    }
    return found.toArray();
  }

  /** Who fits what, the other way round; people who fit the same filters share one list. */
  private Chunks<int[]> fitsOf(int[] live, Chunks<RoaringBitmap> fits) {
    int[] starts = new int[people + 1];
    for (int filter : live) {
      Snapshot.or(fits.get(filter)).forEach((int person) -> starts[person + 1]++);
    }
    for (int i = 0; i < people; i++) {
      starts[i + 1] += starts[i];
    }
    int[] items = new int[starts[people]];
    int[] next = starts.clone();
    for (int filter : live) {
      Snapshot.or(fits.get(filter)).forEach((int person) -> items[next[person]++] = filter);
    }
    Map<List<Integer>, int[]> shared = new HashMap<>();
    Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
    for (int person = 0; person < people; person++) {
      if (starts[person] < starts[person + 1]) {
        int[] own = Arrays.copyOfRange(items, starts[person], starts[person + 1]);
        editor.set(person, shared.computeIfAbsent(Arrays.stream(own).boxed().toList(), k -> own));
      }
    }
    return editor.done();
  }

  // ---- grants and entitlements

  /** Grants by whom they are to, and by what they are of. */
  private final class Grants {
    final Slices toGroups;
    final Slices groupGrants;
    final Slices byFilter;
    final Chunks<int[]> toFilters;
    private final int[] ownStarts;
    private final long[] ownItems;

    Grants() {
      Rows rows = store.rows(Table.GRANTS);
      int[] starts = new int[people + 1];
      int[] groupStarts = new int[groups + 1];
      int[] roleStarts = new int[entitlements + 1];
      int[] filterStarts = new int[entitlements + 1];
      each(
          Table.GRANTS,
          (r, row) -> {
            int subject = rows.value(row);
            switch (Store.kindOf(subject)) {
              case Store.PERSON -> starts[Store.subjectOf(subject) + 1]++;
              case Store.GROUP -> {
                groupStarts[Store.subjectOf(subject) + 1]++;
                roleStarts[store.given(row) + 1]++;
              }
              default -> filterStarts[store.given(row) + 1]++;
            }
          });
      for (int[] each : List.of(starts, groupStarts, roleStarts, filterStarts)) {
        for (int i = 1; i < each.length; i++) {
          each[i] += each[i - 1];
        }
      }
      long[] own = new long[starts[people]];
      int[] toGroup = new int[groupStarts[groups]];
      int[] ofRole = new int[roleStarts[entitlements]];
      int[] filtered = new int[filterStarts[entitlements]];
      int[] next = starts.clone();
      int[] nextGroup = groupStarts.clone();
      int[] nextRole = roleStarts.clone();
      int[] nextFilter = filterStarts.clone();
      Chunks.Editor<int[]> byFilterEditor = Chunks.<int[]>empty().edit();
      each(
          Table.GRANTS,
          (r, row) -> {
            int subject = rows.value(row);
            int of = Store.subjectOf(subject);
            int entitlement = store.given(row);
            switch (Store.kindOf(subject)) {
              case Store.PERSON -> own[next[of]++] = (long) entitlement << 32 | row;
              case Store.GROUP -> {
                toGroup[nextGroup[of]++] = row;
                ofRole[nextRole[entitlement]++] = row;
              }
              default -> {
                filtered[nextFilter[entitlement]++] = row;
                byFilterEditor.set(of, IntList.with(Snapshot.or(byFilterEditor.get(of)), row));
              }
            }
          });
      for (int person = 0; person < people; person++) {
        if (starts[person + 1] - starts[person] > 1) {
          Arrays.sort(own, starts[person], starts[person + 1]);
        }
      }
      ownStarts = starts;
      ownItems = own;
      toGroups = new Slices(groupStarts, toGroup);
      groupGrants = new Slices(roleStarts, ofRole);
      byFilter = new Slices(filterStarts, filtered);
      toFilters = byFilterEditor.done();
    }

    Chunks<int[]> own() {
      Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
      for (int person = 0; person < people; person++) {
        int from = ownStarts[person];
        int until = ownStarts[person + 1];
        if (from < until) {
          int[] pairs = new int[(until - from) * 2];
          for (int i = from; i < until; i++) {
            pairs[(i - from) * 2] = (int) (ownItems[i] >>> 32);
            pairs[(i - from) * 2 + 1] = (int) ownItems[i];
          }
          editor.set(person, pairs);
        }
      }
      return editor.done();
    }
  }

  /** Walking people in order fills each entitlement's slice sorted. */
  private Chunks<RoaringBitmap> owning(Grants grants, RoaringBitmap exist) {
    int[] starts = new int[entitlements + 1];
    for (long item : grants.ownItems) {
      starts[(int) (item >>> 32) + 1]++;
    }
    for (int i = 0; i < entitlements; i++) {
      starts[i + 1] += starts[i];
    }
    int[] items = new int[grants.ownItems.length];
    int[] next = starts.clone();
    for (int person = 0; person < people; person++) {
      int last = -1;
      if (!exist.contains(person)) {
        continue;
      }
      for (int i = grants.ownStarts[person]; i < grants.ownStarts[person + 1]; i++) {
        int entitlement = (int) (grants.ownItems[i] >>> 32);
        if (entitlement != last) {
          items[next[entitlement]++] = person;
          last = entitlement;
        }
      }
    }
    Chunks.Editor<RoaringBitmap> editor = Chunks.<RoaringBitmap>empty().edit();
    for (int e = 0; e < entitlements; e++) {
      if (starts[e] < next[e]) {
        editor.set(e, sorted(items, starts[e], next[e]));
      }
    }
    return editor.done();
  }

  private Chunks<int[]> roles(IntChunks roleApps) {
    Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
    for (int e = 0; e < entitlements; e++) {
      int app = roleApps.get(e) - 1;
      if (app >= 0) {
        editor.set(app, IntList.with(Snapshot.or(editor.get(app)), e));
      }
    }
    return editor.done();
  }

  /** Everyone whom a grant of an entitlement covers; one of the parts itself where it is all. */
  static @Nullable RoaringBitmap union(
      Store store,
      @Nullable RoaringBitmap owning,
      int[] groupGrants,
      Chunks<RoaringBitmap> members,
      int[] filterGrants,
      Chunks<RoaringBitmap> fits) {
    List<RoaringBitmap> parts = new ArrayList<>(groupGrants.length + filterGrants.length + 1);
    if (owning != null && !owning.isEmpty()) {
      parts.add(owning);
    }
    for (int grant : groupGrants) {
      RoaringBitmap part = members.get(Store.subjectOf(store.subject(grant)));
      if (part != null && !part.isEmpty()) {
        parts.add(part);
      }
    }
    for (int grant : filterGrants) {
      RoaringBitmap part = fits.get(Store.subjectOf(store.subject(grant)));
      if (part != null && !part.isEmpty()) {
        parts.add(part);
      }
    }
    return union(parts);
  }

  /** Everyone whom more than one grant of an entitlement covers, in a set of its own. */
  static RoaringBitmap often(
      Store store,
      int entitlement,
      RoaringBitmap owning,
      Listed<int[]> own,
      int[] groupGrants,
      Listed<RoaringBitmap> members,
      int[] filterGrants,
      Listed<RoaringBitmap> fits) {
    RoaringBitmap often = new RoaringBitmap();
    owning.forEach(
        (int person) -> {
          if (ownGrants(Snapshot.or(own.get(person)), entitlement) > 1) {
            often.add(person);
          }
        });
    if (groupGrants.length + filterGrants.length == 0) {
      return often;
    }
    RoaringBitmap once = owning.clone();
    for (int grant : groupGrants) {
      again(once, often, members.get(Store.subjectOf(store.subject(grant))));
    }
    for (int grant : filterGrants) {
      again(once, often, fits.get(Store.subjectOf(store.subject(grant))));
    }
    return often;
  }

  private static void again(RoaringBitmap once, RoaringBitmap often, @Nullable RoaringBitmap part) {
    if (part != null && !part.isEmpty()) {
      if (!once.isEmpty()) {
        often.or(RoaringBitmap.and(once, part));
      }
      once.or(part);
    }
  }

  static int ownGrants(int[] pairs, int entitlement) {
    int count = 0;
    for (int i = 0; i < pairs.length; i += 2) {
      count += pairs[i] == entitlement ? 1 : 0;
    }
    return count;
  }

  static @Nullable RoaringBitmap union(List<RoaringBitmap> parts) {
    if (parts.isEmpty()) {
      return null;
    }
    if (parts.size() == 1) {
      return parts.getFirst();
    }
    RoaringBitmap largest = parts.getFirst();
    for (RoaringBitmap part : parts) {
      if (part.getLongCardinality() > largest.getLongCardinality()) {
        largest = part;
      }
    }
    RoaringBitmap all = largest.clone();
    for (RoaringBitmap part : parts) {
      if (part != largest) {
        all.or(part);
      }
    }
    if (all.getLongCardinality() == largest.getLongCardinality()) {
      return largest;
    }
    all.trim();
    return all;
  }
}
