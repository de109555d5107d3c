package eleutheria.core.access.engine;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.Reference;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.IntConsumer;
import org.roaringbitmap.RoaringBitmap;

/**
 * Who held an entitlement at any moment of a span, and since when somebody holds it.
 *
 * <p>It takes up, into an empty state, the facts that are true at the beginning and could matter
 * for this entitlement; then it walks the instants at which such a fact changes, taking each up as
 * any other change and reading what flips. So it is exact by the same rules as everything else, and
 * what does not matter costs nothing. What matters is found along the chains of rows: grants of the
 * entitlement, groups that are or were below a granted group, attributes that a filter on the way
 * names, and what makes people and applications active. Where one person is asked about, groups
 * that neither the person nor a filter is below matter as little.
 *
 * <p>Cost: in proportion to the grants of the entitlement, the places of the people asked about,
 * and some microseconds for each change that matters.
 */
public final class Spans {
  private final Store store;
  private final Times times;
  private final int entitlement;
  private long start;
  // The grant that alone is asked about; −1 for all.
  private int onlyGrant = -1;

  Spans(Engine engine, int entitlement) {
    this.store = engine.store();
    this.times = new Times(store, Map.of());
    this.entitlement = entitlement;
  }

  /** From a state on, which may be one of a trial. */
  Spans(Snapshot snapshot, int entitlement) {
    this.store = snapshot.store;
    this.times = snapshot.times();
    this.entitlement = entitlement;
    this.start = snapshot.at;
  }

  /**
   * The first moment from the state on at which a person does not hold it, or is not entitled.
   *
   * @param grant the row of the grant by which alone; −1 for by whatever
   * @return {@link Rows#FOREVER} if there is none
   */
  long end(int person, int grant, boolean held) {
    onlyGrant = grant < 0 ? -1 : store.rows(Table.GRANTS).key(grant);
    Gathering gathered;
    synchronized (store) {
      gathered = gather(start, Rows.FOREVER, RoaringBitmap.bitmapOf(person));
    }
    Snapshot state = Change.of(Snapshot.empty(store), gathered.start, start).snapshot();
    boolean is = held ? state.holds(person, entitlement) : state.entitled(person, entitlement);
    if (!is) {
      return start;
    }
    for (Map.Entry<Long, Delta> change : gathered.changes.entrySet()) {
      Change.Result result = Change.of(state, change.getValue(), change.getKey());
      state = result.snapshot();
      Flips.Flip flip = result.flips().of(entitlement);
      if (flip != null && (held ? flip.loss() : flip.entitledLoss()).contains(person)) {
        return change.getKey();
      }
    }
    return Rows.FOREVER;
  }

  /**
   * Everyone who held it at any moment of {@code [from, until)}, in the order of their numbers,
   * with the times, joined where they touch.
   *
   * @throws IllegalArgumentException if the span is empty, or ends after the newest state
   */
  public static Map<PersonId, List<Reference.Held>> during(
      Engine engine, int entitlement, Instant from, Instant until) {
    if (!from.isBefore(until)) {
      throw new IllegalArgumentException("an empty span: " + from + " until " + until);
    }
    return new Spans(engine, entitlement).during(Store.micros(from), Store.micros(until), null);
  }

  /** The times of {@code [from, until)} for which one person held it, joined where they touch. */
  public static List<Reference.Held> of(
      Engine engine, int person, int entitlement, Instant from, Instant until) {
    return new Spans(engine, entitlement)
        .during(Store.micros(from), Store.micros(until), RoaringBitmap.bitmapOf(person))
        .getOrDefault(engine.store().person(person), List.of());
  }

  /**
   * Everyone who held it at any moment of {@code [from, until)}, as a set. Nobody's times are kept,
   * so that it costs what changed and not who held it.
   */
  public static RoaringBitmap set(Engine engine, int entitlement, Instant from, Instant until) {
    return new Spans(engine, entitlement).everyone(Store.micros(from), Store.micros(until));
  }

  private RoaringBitmap everyone(long from, long until) {
    Gathering gathered;
    synchronized (store) {
      gathered = gather(from, until, null);
    }
    Snapshot state = Change.of(Snapshot.empty(store), gathered.start, from).snapshot();
    RoaringBitmap found = state.holders(entitlement);
    for (Map.Entry<Long, Delta> change : gathered.changes.entrySet()) {
      Change.Result result = Change.of(state, change.getValue(), change.getKey());
      state = result.snapshot();
      Flips.Flip flip = result.flips().of(entitlement);
      if (flip != null) {
        found.or(flip.gain());
      }
    }
    return found;
  }

  /**
   * The start of the unbroken time of holding that a moment lies in; null if it is not held then.
   */
  public static @Nullable Instant since(
      Engine engine, int person, int entitlement, Snapshot snapshot, Instant begins) {
    if (!snapshot.holds(person, entitlement)) {
      return null;
    }
    long first = Store.micros(begins);
    RoaringBitmap only = RoaringBitmap.bitmapOf(person);
    Map<PersonId, List<Reference.Held>> held =
        new Spans(engine, entitlement).during(first, snapshot.at + 1, only);
    return requireNonNull(held.get(snapshot.person(person))).getLast().from();
  }

  /** When somebody who does not hold it held it last, to its end; null if never. */
  public static @Nullable Instant lost(
      Engine engine, int person, int entitlement, Snapshot snapshot, Instant begins) {
    if (snapshot.holds(person, entitlement)) {
      return null;
    }
    List<Reference.Held> held =
        new Spans(engine, entitlement)
            .during(Store.micros(begins), snapshot.at + 1, RoaringBitmap.bitmapOf(person))
            .get(snapshot.person(person));
    return held == null || held.isEmpty() ? null : held.getLast().until();
  }

  private Map<PersonId, List<Reference.Held>> during(
      long from, long until, @Nullable RoaringBitmap only) {
    Gathering gathered;
    synchronized (store) {
      gathered = gather(from, until, only);
    }
    Snapshot state = Change.of(Snapshot.empty(store), gathered.start, from).snapshot();
    Map<Integer, Long> open = new TreeMap<>();
    Map<Integer, List<Reference.Held>> held = new TreeMap<>();
    state
        .holders(entitlement)
        .forEach(
            (IntConsumer)
                person -> {
                  if (only == null || only.contains(person)) {
                    open.put(person, from);
                  }
                });
    for (Map.Entry<Long, Delta> change : gathered.changes.entrySet()) {
      long at = change.getKey();
      Change.Result result = Change.of(state, change.getValue(), at);
      state = result.snapshot();
      Flips.Flip flip = result.flips().of(entitlement);
      if (flip == null) {
        continue;
      }
      flip.gain()
          .forEach(
              (IntConsumer)
                  person -> {
                    if (only == null || only.contains(person)) {
                      open.put(person, at);
                    }
                  });
      flip.loss()
          .forEach(
              (IntConsumer)
                  person -> {
                    Long began = open.remove(person);
                    if (began != null) {
                      close(held, person, began, at);
                    }
                  });
    }
    open.forEach((person, began) -> close(held, person, began, until));
    Map<PersonId, List<Reference.Held>> found = new LinkedHashMap<>();
    held.forEach((person, times) -> found.put(store.person(person), times));
    return found;
  }

  private static void close(
      Map<Integer, List<Reference.Held>> held, int person, long from, long until) {
    held.computeIfAbsent(person, p -> new ArrayList<>(1))
        .add(new Reference.Held(Store.instant(from), Store.instant(until)));
  }

  /** The facts of a span that could matter: what is true at its start, and what turns when. */
  private final class Gathering {
    private final long from;
    private final long until;
    private final Delta start = new Delta();
    private final TreeMap<Long, Delta> changes = new TreeMap<>();

    Gathering(long from, long until) {
      this.from = from;
      this.until = until;
    }

    void row(Table table, int row) {
      if (times.on(table, row, from)) {
        start.add(table, row, false, true);
      }
      long begins = times.from(table, row);
      long ends = times.until(table, row);
      if (begins >= ends) {
        return;
      }
      if (begins > from && begins < until) {
        at(begins).add(table, row, false, true);
      }
      if (ends > from && ends < until) {
        at(ends).add(table, row, true, false);
      }
    }

    private Delta at(long instant) {
      return changes.computeIfAbsent(instant, a -> new Delta());
    }

    /** All rows of a key. */
    void key(Table table, int key) {
      Rows rows = store.rows(table);
      for (int row = rows.newest(key); row >= 0; row = rows.earlier(row)) {
        row(table, row);
      }
    }

    void all(Table table) {
      for (int row = 0; row < store.rows(table).size(); row++) {
        row(table, row);
      }
    }
  }

  private Gathering gather(long from, long until, @Nullable RoaringBitmap only) {
    Gathering found = new Gathering(from, until);
    RoaringBitmap filters = new RoaringBitmap();
    IntList grants = granted(found, filters, only);
    IntList edges = new IntList(16);
    RoaringBitmap groups = below(found, subjects(grants), edges);
    if (only != null) {
      groups = leading(found, groups, edges, only);
    }
    Rows given = store.rows(Table.GRANTS);
    for (int i = 0; i < grants.size(); i++) {
      if (groups.contains(Store.subjectOf(given.value(grants.get(i))))) {
        found.row(Table.GRANTS, grants.get(i));
      }
    }
    Rows nested = store.rows(Table.EDGES);
    for (int i = 0; i < edges.size(); i++) {
      if (groups.contains(nested.value(edges.get(i)))) {
        found.row(Table.EDGES, edges.get(i));
      }
    }
    Rows forms = store.rows(Table.FORMS);
    groups.forEach(
        (IntConsumer)
            group -> {
              found.key(Table.GROUPS, group);
              found.key(Table.FORMS, group);
              for (int row = forms.newest(group); row >= 0; row = forms.earlier(row)) {
                if (forms.value(row) > 0 && times.overlaps(Table.FORMS, row, from, until)) {
                  filters.add(forms.value(row) - 1);
                }
              }
              if (only == null) {
                found.key(Table.MEMBERS, group);
              } else {
                places(group, only, row -> found.row(Table.MEMBERS, row));
              }
            });
    people(found, read(filters), only);
    found.key(Table.ROLES, entitlement);
    Rows roles = store.rows(Table.ROLES);
    RoaringBitmap apps = new RoaringBitmap();
    for (int row = roles.newest(entitlement); row >= 0; row = roles.earlier(row)) {
      apps.add(roles.value(row));
    }
    apps.forEach((IntConsumer) app -> found.key(Table.STATES, app));
    return found;
  }

  private void places(int group, RoaringBitmap only, IntConsumer row) {
    only.forEach(
        (IntConsumer) person -> store.rows(Table.MEMBERS).alike(group, person, 0, row::accept));
  }

  /** Of some groups those that one of these people could be in, and what stands above such. */
  private RoaringBitmap leading(
      Gathering found, RoaringBitmap groups, IntList edges, RoaringBitmap only) {
    RoaringBitmap leading = new RoaringBitmap();
    Rows forms = store.rows(Table.FORMS);
    Rows members = store.rows(Table.MEMBERS);
    groups.forEach(
        (IntConsumer)
            group -> {
              for (int row = forms.newest(group); row >= 0; row = forms.earlier(row)) {
                if (forms.value(row) > 0
                    && times.overlaps(Table.FORMS, row, found.from, found.until)) {
                  leading.add(group);
                }
              }
              places(
                  group,
                  only,
                  row -> {
                    if (times.overlaps(Table.MEMBERS, row, found.from, found.until)) {
                      leading.add(group);
                    }
                  });
            });
    Rows nested = store.rows(Table.EDGES);
    boolean more = true;
    while (more) {
      more = false;
      for (int i = 0; i < edges.size(); i++) {
        int edge = edges.get(i);
        more |= leading.contains(nested.value(edge)) && leading.checkedAdd(nested.key(edge));
      }
    }
    return leading;
  }

  private void people(Gathering found, boolean[] read, @Nullable RoaringBitmap only) {
    Rows values = store.rows(Table.ATTRIBUTES);
    Rows defined = store.rows(Table.DEFINED);
    for (int row = 0; row < defined.size(); row++) {
      if (read[defined.key(row)]) {
        found.row(Table.DEFINED, row);
      }
    }
    if (only == null) {
      found.all(Table.PEOPLE);
      found.all(Table.STATUS);
      boolean any = false;
      for (boolean each : read) {
        any |= each;
      }
      for (int row = 0; any && row < values.size(); row++) {
        if (read[values.extra(row) >>> 1]) {
          found.row(Table.ATTRIBUTES, row);
        }
      }
      return;
    }
    only.forEach(
        (IntConsumer)
            person -> {
              found.key(Table.PEOPLE, person);
              found.key(Table.STATUS, person);
              for (int row = values.newest(person); row >= 0; row = values.earlier(row)) {
                if (read[values.extra(row) >>> 1]) {
                  found.row(Table.ATTRIBUTES, row);
                }
              }
            });
  }

  /**
   * Takes note of grants to people and by filter; gives those to groups, and the filters, at some
   * moment of the span.
   */
  private IntList granted(Gathering found, RoaringBitmap filters, @Nullable RoaringBitmap only) {
    IntList toGroups = new IntList(8);
    Rows grants = store.rows(Table.GRANTS);
    for (int row = grants.newestBy(entitlement); row >= 0; row = grants.earlierBy(row)) {
      int subject = grants.value(row);
      int kind = Store.kindOf(subject);
      if ((onlyGrant >= 0 && grants.key(row) != onlyGrant)
          || !times.overlaps(Table.GRANTS, row, found.from, found.until)
          || (only != null && kind == Store.PERSON && !only.contains(Store.subjectOf(subject)))) {
        continue;
      }
      if (kind == Store.GROUP) {
        toGroups.add(row);
        continue;
      }
      found.row(Table.GRANTS, row);
      if (kind == Store.FILTER) {
        filters.add(Store.subjectOf(subject));
      }
    }
    return toGroups;
  }

  private RoaringBitmap subjects(IntList grants) {
    RoaringBitmap groups = new RoaringBitmap();
    Rows rows = store.rows(Table.GRANTS);
    for (int i = 0; i < grants.size(); i++) {
      groups.add(Store.subjectOf(rows.value(grants.get(i))));
    }
    return groups;
  }

  /**
   * Some groups and every group that is below one of them at some moment of the span.
   *
   * @param passed gets the rows of the edges on the way
   */
  private RoaringBitmap below(Gathering found, RoaringBitmap groups, IntList passed) {
    ArrayDeque<Integer> next = new ArrayDeque<>();
    groups.forEach((IntConsumer) next::add);
    Rows edges = store.rows(Table.EDGES);
    while (!next.isEmpty()) {
      int group = next.poll();
      for (int row = edges.newest(group); row >= 0; row = edges.earlier(row)) {
        if (times.overlaps(Table.EDGES, row, found.from, found.until)) {
          passed.add(row);
          if (groups.checkedAdd(edges.value(row))) {
            next.add(edges.value(row));
          }
        }
      }
    }
    return groups;
  }

  /** Attributes whose name stands in one of the filters, whatever they mean by it. */
  private boolean[] read(RoaringBitmap filters) {
    boolean[] read = new boolean[store.attributeCount()];
    String[] names = new String[read.length];
    Arrays.setAll(names, i -> store.attributeName(i).toLowerCase(Locale.ROOT));
    filters.forEach(
        (IntConsumer)
            filter -> {
              String text = store.filter(filter).toLowerCase(Locale.ROOT);
              for (int i = 0; i < read.length; i++) {
                read[i] |= text.contains(names[i]);
              }
            });
    return read;
  }
}
