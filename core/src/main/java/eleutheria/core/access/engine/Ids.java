package eleutheria.core.access.engine;

import java.util.Arrays;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Ids of one kind and their dense numbers, from 0 in the order of coming.
 *
 * <p>Structure: two arrays of halves of UUIDs and an open-addressing table of numbers (linear
 * probing, at most two thirds full): about 22 bytes an id, where a map of objects takes 90.
 *
 * <p>One thread adds, others read meanwhile without a lock. A reader takes the arrays once; within
 * one set of arrays a place is only ever filled, and a half-filled one does not equal the id that
 * is looked for. What a published state names was there before it was published.
 */
final class Ids {
  private record Arrays3(long[] high, long[] low, int[] slots) {}

  private Arrays3 arrays = new Arrays3(new long[16], new long[16], new int[64]);
  private int size;

  int size() {
    return size;
  }

  /** The number of an id, or −1. */
  int find(UUID id) {
    return find(id.getMostSignificantBits(), id.getLeastSignificantBits());
  }

  int find(long high, long low) {
    Arrays3 now = arrays;
    int mask = now.slots.length - 1;
    for (int at = spread(high, low) & mask; ; at = (at + 1) & mask) {
      int number = now.slots[at] - 1;
      if (number < 0) {
        return -1;
      }
      if (number < now.high.length && now.low[number] == low && now.high[number] == high) {
        return number;
      }
    }
  }

  int number(UUID id) {
    return number(id.getMostSignificantBits(), id.getLeastSignificantBits());
  }

  /** The number of an id, which is given one if it is new. */
  int number(long high, long low) {
    int found = find(high, low);
    if (found >= 0) {
      return found;
    }
    int number = size++;
    if (number == arrays.high.length) {
      int room = number * 2;
      arrays =
          new Arrays3(
              Arrays.copyOf(arrays.high, room), Arrays.copyOf(arrays.low, room), arrays.slots);
    }
    arrays.high[number] = high;
    arrays.low[number] = low;
    if (size * 3L > arrays.slots.length * 2L) {
      int[] slots = new int[arrays.slots.length * 2];
      for (int i = 0; i < number; i++) {
        put(slots, arrays.high[i], arrays.low[i], i);
      }
      put(slots, high, low, number);
      arrays = new Arrays3(arrays.high, arrays.low, slots);
    } else {
      put(arrays.slots, high, low, number);
    }
    return number;
  }

  private static void put(int[] slots, long high, long low, int number) {
    int mask = slots.length - 1;
    int at = spread(high, low) & mask;
    while (slots[at] != 0) {
      at = (at + 1) & mask;
    }
    slots[at] = number + 1;
  }

  private static int spread(long high, long low) {
    long mixed = (high ^ Long.rotateLeft(low, 32)) * 0x9E3779B97F4A7C15L;
    return (int) (mixed >>> 32) ^ (int) mixed;
  }

  UUID id(int number) {
    Arrays3 now = arrays;
    return new UUID(now.high[number], now.low[number]);
  }

  /**
   * Typed ids by number, each made once, when it is first wanted: pages and grounds are full of the
   * same ones.
   */
  static final class Typed<T> {
    private final Ids ids;
    private final Function<UUID, T> type;
    private @Nullable Object[] made = new Object[16];

    Typed(Ids ids, Function<UUID, T> type) {
      this.ids = ids;
      this.type = type;
    }

    // Two threads may make the same one; either will do, and its fields are final.
    @SuppressWarnings("unchecked")
    T get(int number) {
      Object[] now = made;
      if (number < now.length && now[number] != null) {
        return (T) now[number];
      }
      T fresh = type.apply(ids.id(number));
      if (number >= now.length) {
        now = Arrays.copyOf(now, Math.max(ids.size(), number + 1));
        made = now;
      }
      now[number] = fresh;
      return fresh;
    }
  }

  /** In the order of their texts. */
  int compare(int one, int other) {
    Arrays3 now = arrays;
    int high = Long.compareUnsigned(now.high[one], now.high[other]);
    return high != 0 ? high : Long.compareUnsigned(now.low[one], now.low[other]);
  }
}
