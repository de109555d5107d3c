package eleutheria.core.access.engine;

import static java.util.Objects.requireNonNull;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.ToIntFunction;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * The map of holdings: people by the values of one attribute, or of two, against entitlements. A
 * row can be opened to what is under it, at last to people. Rows and columns are numbered from 0 in
 * the order in which they are shown; only what lies in a window is worked out.
 *
 * <p>Cost: the layout one set for each value, and, where something narrows, one union over all
 * entitlements asked for; a window one intersection for each cell, or nothing where the counts are
 * kept ({@link Matrix}).
 */
public final class HoldingsMap {
  /** The most rows, and the most columns, that can be put in order of likeness. */
  public static final int MOST_ALIKE = 500;

  /** Parts the values of a row's key. */
  public static final String APART = "\t";

  /** In what order rows and columns stand. */
  public enum Ordering {
    NAME,
    SIZE,
    LIKENESS
  }

  /** What columns stand together by. */
  public enum Grouping {
    APPLICATION,
    SENSITIVITY,
    STATE
  }

  /**
   * How it is laid out.
   *
   * @param rows the attribute of the first level
   * @param then that of the second; empty for none
   * @param open keys of the rows that are open
   */
  public record Shape(
      String rows, String then, Ordering ordering, Grouping columns, Set<String> open) {}

  /** What a row stands for. */
  public enum Kind {
    VALUE,
    PERSON,
    /** The people of an open row who have nothing that is asked for. */
    REST
  }

  /**
   * @param key the values on the way to it, parted by {@link #APART}; that of the open row for
   *     people and the rest
   * @param depth 0 for the first level
   * @param people how many active people it stands for, within reach
   */
  public record Row(
      Kind kind, String key, int depth, @Nullable PersonId person, int people, boolean open) {}

  /**
   * @param count how many have it, of those asked for
   */
  public record Column(Entitlement entitlement, int count) {}

  /**
   * A cell that is not empty.
   *
   * @param unused how many are known not to have used it; −1 where that is not known
   * @param conflicts how many break a separation rule by it
   * @param signs for a person, by what and whence ({@link Signs}); 0 for a row of many
   * @param lost in a comparison, how many of the count have lost it, the others gained it; else 0
   */
  public record Cell(
      int row, int column, int count, int unused, int conflicts, int signs, int lost) {}

  public record Window(List<Row> rows, List<Column> columns, List<Cell> cells) {}

  private record Block(
      int start,
      int size,
      Kind kind,
      String key,
      int depth,
      RoaringBitmap people,
      int count,
      boolean open) {}

  private final Cut cut;
  private final @Nullable Cut lost;
  private final Snapshot snapshot;
  private final Shape shape;
  private final List<Entitlement> columns;
  private final int[] numbers;
  private final List<Block> blocks = new ArrayList<>();
  private final int rows;
  private final long holdings;
  private final int people;
  private final @Nullable Matrix kept;

  private HoldingsMap(Cut cut, @Nullable Cut lost, AppsView apps, Shape shape) {
    this.cut = cut;
    this.lost = lost;
    this.snapshot = cut.snapshot;
    this.shape = shape;
    List<Entitlement> all = cut.entitlements(apps);
    RoaringBitmap reached = cut.reached(all);
    RoaringBitmap active = RoaringBitmap.and(snapshot.state.people(), snapshot.state.active());
    if (reached != null) {
      active.and(reached);
    }
    RoaringBitmap having = null;
    if (!cut.plain() || cut.asked.selects()) {
      having = new RoaringBitmap();
      for (Entitlement each : all) {
        having.or(cut.people(snapshot.number(each.id())));
      }
    }
    List<Map.Entry<String, RoaringBitmap>> values =
        values(shape.rows(), having == null ? active : RoaringBitmap.or(active, having));
    if (cut.asked.narrows() && having != null) {
      RoaringBitmap some = having;
      values.removeIf(each -> !RoaringBitmap.intersects(each.getValue(), some));
    }
    columns = arranged(all, apps, values);
    numbers = columns.stream().mapToInt(e -> snapshot.number(e.id())).toArray();
    sort(values);
    int at = 0;
    for (Map.Entry<String, RoaringBitmap> each : values) {
      at = put(at, each.getKey(), 0, each.getValue(), active, having);
    }
    rows = at;
    people = active.getCardinality();
    long sum = 0;
    for (int number : numbers) {
      sum += cut.count(number);
    }
    holdings = sum;
    kept = cut.plain() ? snapshot.matrix(shape.rows()) : null;
  }

  /**
   * Lays the map out.
   *
   * @param apps applications of the same moment
   * @throws IllegalArgumentException if the order of likeness is asked for and there are more than
   *     {@value #MOST_ALIKE} rows or columns
   */
  public static HoldingsMap of(Cut cut, AppsView apps, Shape shape) {
    return new HoldingsMap(cut, null, apps, shape);
  }

  /**
   * Lays out what differs between two moments.
   *
   * @param cut whoever gained or lost something
   * @param lost of them those who lost it
   */
  public static HoldingsMap comparing(Cut cut, Cut lost, AppsView apps, Shape shape) {
    return new HoldingsMap(cut, lost, apps, shape);
  }

  private int put(
      int at,
      String key,
      int depth,
      RoaringBitmap set,
      RoaringBitmap active,
      @Nullable RoaringBitmap having) {
    boolean open = shape.open().contains(key);
    blocks.add(
        new Block(
            at, 1, Kind.VALUE, key, depth, set, RoaringBitmap.andCardinality(set, active), open));
    int next = at + 1;
    if (!open) {
      return next;
    }
    if (depth == 0 && !shape.then().isEmpty()) {
      List<Map.Entry<String, RoaringBitmap>> under = values(shape.then(), set);
      if (cut.asked.narrows() && having != null) {
        under.removeIf(each -> !RoaringBitmap.intersects(each.getValue(), having));
      }
      sort(under);
      for (Map.Entry<String, RoaringBitmap> each : under) {
        next = put(next, key + APART + each.getKey(), 1, each.getValue(), active, having);
      }
      return next;
    }
    RoaringBitmap shown = having == null ? set : RoaringBitmap.and(set, having);
    int size = shown.getCardinality();
    if (size > 0) {
      blocks.add(new Block(next, size, Kind.PERSON, key, depth + 1, shown, size, false));
      next += size;
    }
    int rest = RoaringBitmap.andNot(RoaringBitmap.and(set, active), shown).getCardinality();
    if (rest > 0) {
      blocks.add(new Block(next, 1, Kind.REST, key, depth + 1, Snapshot.NOBODY, rest, false));
      next++;
    }
    return next;
  }

  /** Everyone of a set by the values of an attribute; the empty text for those without one. */
  private List<Map.Entry<String, RoaringBitmap>> values(String attribute, RoaringBitmap of) {
    List<Map.Entry<String, RoaringBitmap>> found = new ArrayList<>();
    int number = snapshot.store.attribute(attribute);
    RoaringBitmap without = of.clone();
    if (number >= 0) {
      Words words = snapshot.store.words(number);
      for (int code = 0; code < words.size(); code++) {
        RoaringBitmap having = RoaringBitmap.and(snapshot.having(number, code), of);
        if (!having.isEmpty()) {
          found.add(Map.entry(words.text(code), having));
          without.andNot(having);
        }
      }
    }
    if (!without.isEmpty()) {
      found.add(Map.entry("", without));
    }
    return found;
  }

  private static final Comparator<Map.Entry<String, RoaringBitmap>> BY_NAME =
      Comparator.<Map.Entry<String, RoaringBitmap>, Boolean>comparing(e -> e.getKey().isEmpty())
          .thenComparing(e -> Folding.bare(e.getKey()))
          .thenComparing(Map.Entry::getKey);

  private void sort(List<Map.Entry<String, RoaringBitmap>> values) {
    switch (shape.ordering()) {
      case NAME -> values.sort(BY_NAME);
      case SIZE ->
          values.sort(
              Comparator.comparing(
                      (Map.Entry<String, RoaringBitmap> e) -> -e.getValue().getCardinality())
                  .thenComparing(BY_NAME));
      case LIKENESS -> {
        values.sort(BY_NAME);
        limit(values.size(), "rows");
        int[] order = Seriation.order(shares(values));
        List<Map.Entry<String, RoaringBitmap>> copy = List.copyOf(values);
        for (int i = 0; i < order.length; i++) {
          values.set(i, copy.get(order[i]));
        }
      }
    }
  }

  private static void limit(int size, String what) {
    if (size > MOST_ALIKE) {
      throw new IllegalArgumentException(
          "%d %s are too many to order by similarity; at most %d."
              .formatted(size, what, MOST_ALIKE));
    }
  }

  /** For each row the share of its people who have each entitlement. */
  private double[][] shares(List<Map.Entry<String, RoaringBitmap>> values) {
    return values.stream()
        .map(
            each ->
                Arrays.stream(numbers)
                    .mapToDouble(
                        e ->
                            (double) RoaringBitmap.andCardinality(each.getValue(), cut.people(e))
                                / each.getValue().getCardinality())
                    .toArray())
        .toArray(double[][]::new);
  }

  private List<Entitlement> arranged(
      List<Entitlement> all, AppsView apps, List<Map.Entry<String, RoaringBitmap>> values) {
    List<Entitlement> sorted = new ArrayList<>(all);
    if (shape.ordering() == Ordering.LIKENESS) {
      limit(all.size(), "entitlements");
      limit(values.size(), "rows");
      double[][] shares =
          all.stream()
              .map(
                  each ->
                      values.stream()
                          .mapToDouble(
                              v ->
                                  (double)
                                          RoaringBitmap.andCardinality(
                                              v.getValue(), cut.people(snapshot.number(each.id())))
                                      / v.getValue().getCardinality())
                          .toArray())
              .toArray(double[][]::new);
      return Arrays.stream(Seriation.order(shares)).mapToObj(all::get).toList();
    }
    Function<Entitlement, Integer> group =
        switch (shape.columns()) {
          case APPLICATION -> placesOfApps(apps)::get;
          case SENSITIVITY -> e -> Sensitivity.HIGH.ordinal() - e.role().sensitivity().ordinal();
          case STATE -> e -> apps.applicationOf(e).state().ordinal();
        };
    Comparator<Entitlement> byName = Comparator.comparing(apps::place);
    if (shape.ordering() == Ordering.NAME) {
      sorted.sort(Comparator.comparing(group).thenComparing(byName));
      return sorted;
    }
    Map<Integer, Long> sizes = new HashMap<>();
    ToIntFunction<Entitlement> size = e -> cut.count(snapshot.number(e.id()));
    all.forEach(e -> sizes.merge(group.apply(e), (long) size.applyAsInt(e), Long::sum));
    sorted.sort(
        Comparator.<Entitlement, Long>comparing(e -> -requireNonNull(sizes.get(group.apply(e))))
            .thenComparing(group)
            .thenComparing(e -> -size.applyAsInt(e))
            .thenComparing(byName));
    return sorted;
  }

  private static Map<Entitlement, Integer> placesOfApps(AppsView apps) {
    Map<Entitlement, Integer> places = new HashMap<>();
    int place = 0;
    for (var app : apps.applications()) {
      for (Entitlement each : app.entitlements()) {
        places.put(each, place);
      }
      place++;
    }
    return places;
  }

  // ---- how large it is

  public int rows() {
    return rows;
  }

  public List<Entitlement> columns() {
    return columns;
  }

  /** How many active people are within reach. */
  public int people() {
    return people;
  }

  /** How many holdings fit, in all columns. */
  public long holdings() {
    return holdings;
  }

  // ---- what is seen

  /**
   * Rows and columns of a window, with the cells in it that are not empty.
   *
   * @param size at most so many rows
   * @param width at most so many columns
   */
  public Window window(int row, int size, int column, int width) {
    int lastColumn = Math.min(column + width, columns.size());
    List<Column> heads = new ArrayList<>();
    for (int c = column; c < lastColumn; c++) {
      heads.add(new Column(columns.get(c), cut.count(numbers[c])));
    }
    List<Row> lines = new ArrayList<>();
    List<Cell> cells = new ArrayList<>();
    int last = Math.min(row + size, rows);
    int at = row;
    while (at < last) {
      Block block = block(at);
      if (block.kind() == Kind.PERSON) {
        int until = Math.min(last, block.start() + block.size());
        for (int person : persons(block.people(), at - block.start(), until - at)) {
          lines.add(
              new Row(Kind.PERSON, block.key(), block.depth(), snapshot.person(person), 1, false));
          personCells(cells, at++, person, column, lastColumn);
        }
      } else {
        lines.add(
            new Row(block.kind(), block.key(), block.depth(), null, block.count(), block.open()));
        if (block.kind() == Kind.VALUE) {
          valueCells(cells, at, block, column, lastColumn);
        }
        at++;
      }
    }
    return new Window(lines, heads, cells);
  }

  private Block block(int row) {
    int low = 0;
    int high = blocks.size() - 1;
    while (low < high) {
      int middle = (low + high + 1) >>> 1;
      if (blocks.get(middle).start() <= row) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return blocks.get(low);
  }

  private int[] persons(RoaringBitmap set, int skip, int size) {
    IntList found = new IntList(size);
    if (snapshot.state.order().plain()) {
      for (int i = 0; i < size; i++) {
        found.add(set.select(skip + i));
      }
      return found.toArray();
    }
    int[] passed = {0};
    snapshot
        .state
        .order()
        .walk(
            set,
            person -> {
              if (passed[0]++ >= skip) {
                found.add(person);
              }
              return found.size() < size;
            });
    return found.toArray();
  }

  private void personCells(List<Cell> into, int row, int person, int column, int last) {
    for (int c = column; c < last; c++) {
      int e = numbers[c];
      if (has(person, e)) {
        RoaringBitmap unused = cut.evidence.unused().apply(e);
        into.add(
            new Cell(
                row,
                c,
                1,
                unused == null ? -1 : unused.contains(person) ? 1 : 0,
                cut.evidence.conflicts().apply(e).contains(person) ? 1 : 0,
                Signs.of(snapshot, person, e),
                lost != null && lost.people(e).contains(person) ? 1 : 0));
      }
    }
  }

  private boolean has(int person, int entitlement) {
    return cut.plain(entitlement)
        ? snapshot.holds(person, entitlement)
        : cut.people(entitlement).contains(person);
  }

  private void valueCells(List<Cell> into, int row, Block block, int column, int last) {
    for (int c = column; c < last; c++) {
      int e = numbers[c];
      int count = count(block, e);
      if (count > 0) {
        RoaringBitmap unused = cut.evidence.unused().apply(e);
        RoaringBitmap conflicts = cut.evidence.conflicts().apply(e);
        into.add(
            new Cell(
                row,
                c,
                count,
                unused == null ? -1 : both(unused, e, block),
                conflicts.isEmpty() ? 0 : both(conflicts, e, block),
                0,
                lost == null ? 0 : RoaringBitmap.andCardinality(block.people(), lost.people(e))));
      }
    }
  }

  private int both(RoaringBitmap some, int entitlement, Block block) {
    return RoaringBitmap.andCardinality(
        RoaringBitmap.and(some, block.people()), cut.people(entitlement));
  }

  private int count(Block block, int entitlement) {
    if (kept != null && kept != Matrix.EMPTY && block.depth() == 0) {
      return snapshot.open(entitlement) ? kept.count(snapshot, block.key(), entitlement) : 0;
    }
    return RoaringBitmap.andCardinality(block.people(), cut.people(entitlement));
  }

  // ---- as a list

  /** A cell of the table that says the same. */
  public record Line(String key, int people, Entitlement entitlement, Cell cell) {}

  /**
   * The cells of rows that are no people, one after the other, those that are empty left out.
   *
   * @param skip how many come before
   * @param size at most so many
   */
  public List<Line> lines(int skip, int size) {
    List<Line> found = new ArrayList<>();
    List<Cell> cells = new ArrayList<>();
    int passed = 0;
    for (Block block : blocks) {
      if (block.kind() != Kind.VALUE) {
        continue;
      }
      cells.clear();
      valueCells(cells, block.start(), block, 0, columns.size());
      for (Cell cell : cells) {
        if (passed++ >= skip) {
          found.add(new Line(block.key(), block.count(), columns.get(cell.column()), cell));
          if (found.size() == size) {
            return found;
          }
        }
      }
    }
    return found;
  }

  /** How many cells of rows that are no people are not empty. */
  public int filled() {
    int filled = 0;
    for (Block block : blocks) {
      if (block.kind() == Kind.VALUE) {
        for (int number : numbers) {
          if (count(block, number) > 0) {
            filled++;
          }
        }
      }
    }
    return filled;
  }

  // ---- what is marked

  /**
   * Some rows and columns, explained.
   *
   * @param people how many people have any of it
   * @param holdings how many holdings there are
   * @param of how many active people the rows stand for
   * @param elsewhere how many more people have any of it, in other rows
   * @param unused how many holdings are known not to have been used
   * @param unknown how many holdings nothing is known of
   * @param conflicts how many holdings break a rule
   * @param signs how many holdings stand on each set of signs ({@link Signs})
   */
  public record Explained(
      int people,
      long holdings,
      int of,
      int elsewhere,
      long unused,
      long unknown,
      long conflicts,
      Map<Integer, Integer> signs) {}

  /**
   * Explains what is marked.
   *
   * @param keys of rows; none for all
   * @param person one person instead of rows; null for none
   * @param wanted of these entitlements; none for all
   */
  public Explained explain(Set<String> keys, @Nullable PersonId person, List<Entitlement> wanted) {
    RoaringBitmap rows = marked(keys, person);
    RoaringBitmap all = new RoaringBitmap();
    RoaringBitmap here = new RoaringBitmap();
    long sum = 0;
    long unused = 0;
    long unknown = 0;
    long conflicts = 0;
    Map<Integer, Integer> signs = new HashMap<>();
    for (Entitlement each : wanted.isEmpty() ? columns : wanted) {
      int e = snapshot.number(each.id());
      RoaringBitmap set = cut.people(e);
      RoaringBitmap own = RoaringBitmap.and(set, rows);
      all.or(set);
      here.or(own);
      sum += own.getCardinality();
      RoaringBitmap known = cut.evidence.unused().apply(e);
      if (known == null) {
        unknown += own.getCardinality();
      } else {
        unused += RoaringBitmap.andCardinality(known, own);
      }
      conflicts += RoaringBitmap.andCardinality(cut.evidence.conflicts().apply(e), own);
      Signs.count(snapshot, own, e)
          .forEach((sign, count) -> signs.merge(sign, count, Integer::sum));
    }
    RoaringBitmap active = RoaringBitmap.and(snapshot.state.active(), snapshot.state.people());
    return new Explained(
        here.getCardinality(),
        sum,
        RoaringBitmap.andCardinality(rows, active),
        RoaringBitmap.andNot(all, rows).getCardinality(),
        unused,
        unknown,
        conflicts,
        signs);
  }

  /** The people of what is marked who have an entitlement, in the order of names. */
  public List<PersonId> marked(
      Set<String> keys, @Nullable PersonId person, Entitlement entitlement, int most) {
    return people(
        RoaringBitmap.and(marked(keys, person), cut.people(snapshot.number(entitlement.id()))),
        most);
  }

  /** Those of them who are known not to have used it. */
  public List<PersonId> unused(
      Set<String> keys, @Nullable PersonId person, Entitlement entitlement, int most) {
    RoaringBitmap unused = cut.unused(snapshot.number(entitlement.id()));
    return unused == null
        ? List.of()
        : people(RoaringBitmap.and(marked(keys, person), unused), most);
  }

  /** Those of them who break a separation rule by it. */
  public List<PersonId> conflicts(
      Set<String> keys, @Nullable PersonId person, Entitlement entitlement, int most) {
    return people(
        RoaringBitmap.and(marked(keys, person), cut.conflicts(snapshot.number(entitlement.id()))),
        most);
  }

  private List<PersonId> people(RoaringBitmap set, int most) {
    return Arrays.stream(persons(set, 0, Math.min(most, set.getCardinality())))
        .mapToObj(snapshot::person)
        .toList();
  }

  private RoaringBitmap marked(Set<String> keys, @Nullable PersonId person) {
    if (person != null) {
      int number = snapshot.number(person);
      return number < 0 ? new RoaringBitmap() : RoaringBitmap.bitmapOf(number);
    }
    RoaringBitmap found = new RoaringBitmap();
    if (keys.isEmpty()) {
      for (Block block : blocks) {
        if (block.depth() == 0 && block.kind() == Kind.VALUE) {
          found.or(block.people());
        }
      }
      return found;
    }
    for (String key : keys) {
      int apart = key.indexOf(APART);
      RoaringBitmap set = new RoaringBitmap();
      String first = apart < 0 ? key : key.substring(0, apart);
      for (Block block : blocks) {
        if (block.depth() == 0 && block.kind() == Kind.VALUE && block.key().equals(first)) {
          set.or(block.people());
        }
      }
      if (apart >= 0) {
        String second = key.substring(apart + 1);
        RoaringBitmap under = new RoaringBitmap();
        values(shape.then(), set).stream()
            .filter(e -> e.getKey().equals(second))
            .forEach(e -> under.or(e.getValue()));
        set = under;
      }
      found.or(set);
    }
    return found;
  }
}
