package eleutheria.core.access.engine;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.roaringbitmap.IntConsumer;
import org.roaringbitmap.RoaringBitmap;

/**
 * How many people of each value of an attribute hold each entitlement (whether or not its
 * application is open at the moment; a pause hides the column, not the numbers).
 *
 * <p>Structure: per entitlement one row of counts, by code of the value, place 0 for people without
 * one. Built by walking all holdings once (some 15 ms for 4.3 million), then moved by flips: a row
 * is copied when one of its holdings moves.
 */
public final class Matrix {
  static final Matrix EMPTY = new Matrix(-1, Chunks.empty());

  final int attribute;
  private final Chunks<int[]> rows;

  private Matrix(int attribute, Chunks<int[]> rows) {
    this.attribute = attribute;
    this.rows = rows;
  }

  static Matrix of(Snapshot snapshot, int attribute) {
    return new Matrix(
        attribute, rows(snapshot, attribute, snapshot.state.active(), snapshot::entitledSet));
  }

  private interface Sets {
    RoaringBitmap of(int entitlement);
  }

  private static Chunks<int[]> rows(
      Snapshot snapshot, int attribute, RoaringBitmap among, Sets sets) {
    IntChunks column = snapshot.column(attribute);
    Words words = snapshot.store.words(attribute);
    Chunks.Editor<int[]> editor = Chunks.<int[]>empty().edit();
    for (int e = 0; e < snapshot.entitlements(); e++) {
      RoaringBitmap set = sets.of(e);
      if (!set.isEmpty()) {
        int[] row = new int[words.size() + 1];
        set.forEach(
            (IntConsumer)
                person -> {
                  if (among.contains(person)) {
                    count(row, words, column.get(person), 1);
                  }
                });
        editor.set(e, row);
      }
    }
    return editor.done();
  }

  /**
   * The same counts for some of the holdings only, such as the unused ones.
   *
   * @param sets gives for an entitlement the people to count, of whom those who hold it count
   */
  public static Matrix among(
      Snapshot snapshot, String attribute, java.util.function.IntFunction<RoaringBitmap> sets) {
    int number = snapshot.store.attribute(attribute);
    if (number < 0) {
      return EMPTY;
    }
    return new Matrix(
        number,
        rows(
            snapshot,
            number,
            snapshot.state.active(),
            e -> RoaringBitmap.and(sets.apply(e), snapshot.entitledSet(e))));
  }

  static void count(int[] row, Words words, int value, int by) {
    if (value == Words.NONE) {
      row[0] += by;
    } else if (value > 0) {
      row[value] += by;
    } else {
      for (int code : words.set(value)) {
        row[code + 1] += by;
      }
    }
  }

  /** How many of a value hold an entitlement; the empty text asks for people without a value. */
  public int count(Snapshot snapshot, String value, int entitlement) {
    if (attribute < 0) {
      return 0;
    }
    int place = value.isEmpty() ? 0 : snapshot.store.words(attribute).find(value) + 1;
    int[] row = rows.get(entitlement);
    return row == null || place >= row.length || (place == 0 && !value.isEmpty()) ? 0 : row[place];
  }

  /** How many hold an entitlement, by value; the empty text stands for people without one. */
  public Map<String, Integer> counts(Snapshot snapshot, int entitlement) {
    int[] row = rows.get(entitlement);
    return row == null ? Map.of() : counts(row, snapshot.store.words(attribute));
  }

  /** How many active people there are, by value of an attribute. */
  static Map<String, Integer> active(Snapshot snapshot, int attribute) {
    IntChunks column = snapshot.column(attribute);
    Words words = snapshot.store.words(attribute);
    int[] row = new int[words.size() + 1];
    RoaringBitmap.and(snapshot.state.active(), snapshot.state.people())
        .forEach((IntConsumer) person -> count(row, words, column.get(person), 1));
    return counts(row, words);
  }

  private static Map<String, Integer> counts(int[] row, Words words) {
    Map<String, Integer> counts = new HashMap<>();
    for (int place = 0; place < row.length; place++) {
      if (row[place] > 0) {
        counts.put(place == 0 ? "" : words.text(place - 1), row[place]);
      }
    }
    return counts;
  }

  Editor edit(Words words) {
    return new Editor(this, words);
  }

  static final class Editor {
    private final Matrix from;
    private final Words words;
    private final Chunks.Editor<int[]> rows;
    private final java.util.BitSet own = new java.util.BitSet();

    private Editor(Matrix from, Words words) {
      this.from = from;
      this.words = words;
      this.rows = from.rows.edit();
    }

    void count(int entitlement, int value, int by) {
      int[] row = rows.get(entitlement);
      int room = words.size() + 1;
      if (row == null) {
        row = new int[room];
      } else if (!own.get(entitlement) || row.length < room) {
        row = Arrays.copyOf(row, Math.max(row.length, room));
      }
      if (!own.get(entitlement) || row != rows.get(entitlement)) {
        own.set(entitlement);
        rows.set(entitlement, row);
      }
      Matrix.count(row, words, value, by);
    }

    Matrix done() {
      return new Matrix(from.attribute, rows.done());
    }
  }
}
