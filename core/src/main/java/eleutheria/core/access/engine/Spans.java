package eleutheria.core.access.engine;

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
 * what does not matter costs nothing. What matters is found by one walk over the rows: grants of
 * the entitlement, groups that are or were below a granted group, attributes that a filter on the
 * way names, and what makes people and applications active.
 *
 * <p>Cost: one walk over the rows (some ms for four million), and some microseconds for each change
 * that matters.
 */
public final class Spans {
  private final Store store;
  private final int entitlement;

  Spans(Engine engine, int entitlement) {
    this.store = engine.store();
    this.entitlement = entitlement;
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
    return held.get(snapshot.person(person)).getLast().from();
  }

  private Map<PersonId, List<Reference.Held>> during(
      long from, long until, @Nullable RoaringBitmap only) {
    Delta start = new Delta();
    TreeMap<Long, Delta> changes = changes(from, until, only, start);
    Snapshot state = Change.of(Snapshot.empty(store), start, from).snapshot();
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
    for (Map.Entry<Long, Delta> change : changes.entrySet()) {
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

  /**
   * What becomes true or ceases to be in a span and could matter, by instant.
   *
   * @param start takes what is true at the beginning
   */
  private TreeMap<Long, Delta> changes(
      long from, long until, @Nullable RoaringBitmap only, Delta start) {
    RoaringBitmap filters = new RoaringBitmap();
    RoaringBitmap groups = granted(from, until, filters);
    below(groups, from, until);
    Rows forms = store.rows(Table.FORMS);
    for (int row = 0; row < forms.size(); row++) {
      if (forms.value(row) > 0
          && overlaps(forms, row, from, until)
          && groups.contains(forms.key(row))) {
        filters.add(forms.value(row) - 1);
      }
    }
    boolean[] read = read(filters);
    TreeMap<Long, Delta> changes = new TreeMap<>();
    RoaringBitmap apps = new RoaringBitmap();
    Rows roles = store.rows(Table.ROLES);
    for (int row = 0; row < roles.size(); row++) {
      if (roles.key(row) == entitlement) {
        apps.add(roles.value(row));
      }
    }
    for (Table table : Table.values()) {
      Rows rows = store.rows(table);
      int size = rows.size();
      for (int row = 0; row < size; row++) {
        boolean begins = rows.from(row) > from && rows.from(row) < until;
        boolean ends = rows.until(row) > from && rows.until(row) < until;
        boolean there = rows.on(row, from);
        if (!(begins || ends || there)) {
          continue;
        }
        boolean matters =
            switch (table) {
              case NAMES, REASONS -> false;
              case PEOPLE, STATUS -> only == null || only.contains(rows.key(row));
              case ATTRIBUTES ->
                  read[rows.extra(row) >>> 1] && (only == null || only.contains(rows.key(row)));
              case DEFINED -> read[rows.key(row)];
              case GROUPS, FORMS, EDGES -> groups.contains(rows.key(row));
              case MEMBERS ->
                  groups.contains(rows.key(row))
                      && (only == null || only.contains(rows.value(row)));
              case GRANTS -> store.given(row) == entitlement;
              case ROLES -> rows.key(row) == entitlement;
              case STATES -> apps.contains(rows.key(row));
            };
        if (!matters) {
          continue;
        }
        if (there) {
          start.add(table, row, false, true);
        }
        if (begins) {
          changes.computeIfAbsent(rows.from(row), at -> new Delta()).add(table, row, false, true);
        }
        if (ends) {
          changes.computeIfAbsent(rows.until(row), at -> new Delta()).add(table, row, true, false);
        }
      }
    }
    return changes;
  }

  private static boolean overlaps(Rows rows, int row, long from, long until) {
    return rows.from(row) < until && rows.until(row) > from;
  }

  /** Groups and filters that are granted it at some moment of the span. */
  private RoaringBitmap granted(long from, long until, RoaringBitmap filters) {
    RoaringBitmap groups = new RoaringBitmap();
    Rows grants = store.rows(Table.GRANTS);
    for (int row = 0; row < grants.size(); row++) {
      if (store.given(row) == entitlement && overlaps(grants, row, from, until)) {
        int subject = grants.value(row);
        switch (Store.kindOf(subject)) {
          case Store.GROUP -> groups.add(Store.subjectOf(subject));
          case Store.FILTER -> filters.add(Store.subjectOf(subject));
          default -> {}
        }
      }
    }
    return groups;
  }

  /** Adds every group that is below one of these at some moment of the span. */
  private void below(RoaringBitmap groups, long from, long until) {
    if (groups.isEmpty()) {
      return;
    }
    Map<Integer, IntList> nested = new TreeMap<>();
    Rows edges = store.rows(Table.EDGES);
    for (int row = 0; row < edges.size(); row++) {
      if (overlaps(edges, row, from, until)) {
        nested.computeIfAbsent(edges.key(row), g -> new IntList(2)).add(edges.value(row));
      }
    }
    ArrayDeque<Integer> next = new ArrayDeque<>();
    groups.forEach((IntConsumer) next::add);
    while (!next.isEmpty()) {
      IntList below = nested.get(next.poll());
      for (int i = 0; below != null && i < below.size(); i++) {
        if (groups.checkedAdd(below.get(i))) {
          next.add(below.get(i));
        }
      }
    }
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
