package eleutheria.core.access.engine;

import java.util.Arrays;
import org.roaringbitmap.RoaringBitmap;

/**
 * The order of people by name at one state. Most stand at their number; whoever came or was renamed
 * after numbers were given is in {@code moved}, sorted, with the place among the others.
 *
 * <p>To put one more in copies as many numbers as there are moved ones: nothing against what a
 * state costs, until some thousands have moved; the next start numbers anew.
 */
final class Order {
  static final Order NONE = new Order(new RoaringBitmap(), IntList.NONE, IntList.NONE);

  private final RoaringBitmap moved;
  // Moved people in the order of their names, and before which number each comes.
  private final int[] sorted;
  private final int[] before;

  private Order(RoaringBitmap moved, int[] sorted, int[] before) {
    this.moved = moved;
    this.sorted = sorted;
    this.before = before;
  }

  /**
   * @param names the number of each person's name at the state
   */
  static Order of(Store store, IntChunks names, RoaringBitmap moved) {
    if (moved.isEmpty()) {
      return NONE;
    }
    Integer[] people = new Integer[moved.getCardinality()];
    int at = 0;
    for (int person : moved) {
      people[at++] = person;
    }
    Arrays.sort(people, (a, b) -> compare(store, names.get(a) - 1, a, names.get(b) - 1, b));
    int[] sorted = new int[people.length];
    int[] before = new int[people.length];
    for (int i = 0; i < people.length; i++) {
      sorted[i] = people[i];
      before[i] = place(store, names.get(sorted[i]) - 1, sorted[i]);
    }
    return new Order(moved, sorted, before);
  }

  private static int compare(Store store, int nameA, int a, int nameB, int b) {
    int byName = Arrays.compareUnsigned(key(store, nameA), key(store, nameB));
    return byName != 0 ? byName : store.people.compare(a, b);
  }

  private static final byte[] UNNAMED = {};

  private static byte[] key(Store store, int name) {
    return name < 0 ? UNNAMED : store.nameKey(name);
  }

  /** The number of the first person put in order whose name comes after this one. */
  private static int place(Store store, int name, int person) {
    int low = 0;
    int high = store.ordered();
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (compare(store, store.orderedName(middle), middle, name, person) < 0) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** Whether everyone stands at their number. */
  boolean plain() {
    return sorted.length == 0;
  }

  RoaringBitmap moved() {
    return moved;
  }

  /** Takes people in the order of their names until it has had enough. */
  interface Taker {
    /**
     * @return false for enough
     */
    boolean take(int person);
  }

  /** Goes through a set in the order of names. */
  void walk(RoaringBitmap people, Taker taker) {
    var numbers = people.getIntIterator();
    int next = 0;
    while (numbers.hasNext()) {
      int person = numbers.next();
      if (sorted.length > 0 && moved.contains(person)) {
        continue;
      }
      while (next < sorted.length && before[next] <= person) {
        if (people.contains(sorted[next]) && !taker.take(sorted[next])) {
          return;
        }
        next++;
      }
      if (!taker.take(person)) {
        return;
      }
    }
    for (; next < sorted.length; next++) {
      if (people.contains(sorted[next]) && !taker.take(sorted[next])) {
        return;
      }
    }
  }
}
