package eleutheria.core.access.engine;

import java.util.Arrays;

/** Numbers in the order they were added, without boxes. */
final class IntList {
  static final int[] NONE = {};

  private int[] items;
  private int size;

  IntList() {
    this(8);
  }

  IntList(int room) {
    items = new int[room];
  }

  void add(int item) {
    if (size == items.length) {
      items = Arrays.copyOf(items, Math.max(8, size * 2));
    }
    items[size++] = item;
  }

  int get(int index) {
    return items[index];
  }

  int size() {
    return size;
  }

  boolean isEmpty() {
    return size == 0;
  }

  int[] toArray() {
    return size == 0 ? NONE : Arrays.copyOf(items, size);
  }

  // ---- sorted arrays as small sets

  static int[] with(int[] sorted, int item) {
    int place = Arrays.binarySearch(sorted, item);
    if (place >= 0) {
      return sorted;
    }
    int at = -place - 1;
    int[] next = new int[sorted.length + 1];
    System.arraycopy(sorted, 0, next, 0, at);
    next[at] = item;
    System.arraycopy(sorted, at, next, at + 1, sorted.length - at);
    return next;
  }

  static int[] without(int[] sorted, int item) {
    int at = Arrays.binarySearch(sorted, item);
    if (at < 0) {
      return sorted;
    }
    if (sorted.length == 1) {
      return NONE;
    }
    int[] next = new int[sorted.length - 1];
    System.arraycopy(sorted, 0, next, 0, at);
    System.arraycopy(sorted, at + 1, next, at, next.length - at);
    return next;
  }

  static boolean has(int[] sorted, int item) {
    if (sorted.length <= 8) {
      for (int each : sorted) {
        if (each == item) {
          return true;
        }
      }
      return false;
    }
    return Arrays.binarySearch(sorted, item) >= 0;
  }
}
