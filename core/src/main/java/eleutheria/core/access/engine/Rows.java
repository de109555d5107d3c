package eleutheria.core.access.engine;

import java.util.Arrays;
import java.util.function.IntConsumer;

/**
 * The facts of one kind, past and to come, in columns: three numbers that say what, and the time it
 * is true, in microseconds since 1970.
 *
 * <p>Structure: six arrays, 32 bytes a row with the chain of its key, and an index over the three
 * numbers (open addressing, 4 to 8 bytes a row) that is built when it is first needed. An object
 * for each would be four times as big, and a million of them slow to walk.
 *
 * <p>Rows are only added; an end may move, but never to or from before the act that moves it. So a
 * reader who asks about a moment before the newest act gets the same answer with and without what
 * is written meanwhile, and needs no lock: that is the law of as-of, put to use.
 */
final class Rows {
  static final long FOREVER = 253_402_214_400_000_000L;

  private int[] key;
  private int[] value;
  private int[] extra;
  private long[] from;
  private long[] until;
  // Rows of one key, newest first: the newest + 1 by key, and the one before by row.
  private int[] heads = {};
  private int[] before;
  // The same by what stands in extra, without its lowest bits; where it is wanted.
  private final int chainedBy;
  private int[] extraHeads = {};
  private int[] extraBefore = {};
  private volatile int size;
  private int[] slots = {};

  Rows(int room) {
    this(room, -1);
  }

  /**
   * @param chainedBy how many low bits of extra to leave away for a second chain; −1 for none
   */
  Rows(int room, int chainedBy) {
    this.chainedBy = chainedBy;
    key = new int[room];
    value = new int[room];
    extra = new int[room];
    from = new long[room];
    until = new long[room];
    before = new int[room];
  }

  int size() {
    return size;
  }

  int key(int row) {
    return key[row];
  }

  int value(int row) {
    return value[row];
  }

  int extra(int row) {
    return extra[row];
  }

  long from(int row) {
    return from[row];
  }

  long until(int row) {
    return until[row];
  }

  boolean on(int row, long at) {
    return from[row] <= at && at < until[row];
  }

  int add(int key, int value, int extra, long from, long until) {
    int row = size;
    if (row == this.key.length) {
      int room = Math.max(16, row + (row >> 1));
      this.key = Arrays.copyOf(this.key, room);
      this.value = Arrays.copyOf(this.value, room);
      this.extra = Arrays.copyOf(this.extra, room);
      this.from = Arrays.copyOf(this.from, room);
      this.until = Arrays.copyOf(this.until, room);
      before = Arrays.copyOf(before, room);
    }
    if (key >= heads.length) {
      heads = Arrays.copyOf(heads, Math.max(16, key + (key >> 1) + 1));
    }
    before[row] = heads[key];
    heads[key] = row + 1;
    if (chainedBy >= 0) {
      chain(row, extra >>> chainedBy);
    }
    this.key[row] = key;
    this.value[row] = value;
    this.extra[row] = extra;
    this.from[row] = from;
    this.until[row] = until;
    size = row + 1;
    if (slots.length > 0) {
      index(row);
    }
    return row;
  }

  /** The newest row of a key, or −1. */
  int newest(int key) {
    int[] now = heads;
    return key < now.length ? now[key] - 1 : -1;
  }

  /** The row of the same key that came before this one, or −1. */
  int earlier(int row) {
    return before[row] - 1;
  }

  boolean dropped(int row) {
    return from[row] == Long.MAX_VALUE;
  }

  private void chain(int row, int by) {
    if (extraBefore.length < key.length) {
      extraBefore = Arrays.copyOf(extraBefore, key.length);
    }
    if (by >= extraHeads.length) {
      extraHeads = Arrays.copyOf(extraHeads, Math.max(16, by + (by >> 1) + 1));
    }
    extraBefore[row] = extraHeads[by];
    extraHeads[by] = row + 1;
  }

  /** The newest row of the second chain, or −1. */
  int newestBy(int by) {
    int[] now = extraHeads;
    return by < now.length ? now[by] - 1 : -1;
  }

  int earlierBy(int row) {
    return extraBefore[row] - 1;
  }

  void until(int row, long until) {
    this.until[row] = until;
  }

  /** Takes the newest rows away again: those of a trial, which no published state has seen. */
  void truncate(int rows) {
    for (int row = size - 1; row >= rows; row--) {
      heads[key[row]] = before[row];
      if (chainedBy >= 0) {
        extraHeads[extra[row] >>> chainedBy] = extraBefore[row];
      }
      if (slots.length > 0) {
        // Taken away in the reverse order of coming, a row leaves no gap that another went round.
        int mask = slots.length - 1;
        int at = spread(key[row], value[row], extra[row]) & mask;
        while (slots[at] != row + 1) {
          at = (at + 1) & mask;
        }
        slots[at] = 0;
      }
      size = row;
    }
  }

  /** A row that never came into force is never true from now on. */
  void drop(int row) {
    from[row] = Long.MAX_VALUE;
    until[row] = Long.MAX_VALUE;
  }

  /**
   * The row with this content that begins at a moment.
   *
   * @throws IllegalStateException if there is none: the caller's state and this one differ
   */
  int starting(int key, int value, int extra, long from) {
    for (int at = first(key, value, extra); ; at = (at + 1) & (slots.length - 1)) {
      int row = slots[at] - 1;
      if (row < 0) {
        throw new IllegalStateException(
            "no such fact: %d %d %d from %d".formatted(key, value, extra, from));
      }
      if (same(row, key, value, extra) && this.from[row] == from) {
        return row;
      }
    }
  }

  /** The row with this content that is true at a moment, or −1. */
  int onAt(int key, int value, int extra, long at) {
    int[] now = indexed();
    int mask = now.length - 1;
    for (int place = spread(key, value, extra) & mask; ; place = (place + 1) & mask) {
      int row = now[place] - 1;
      if (row < 0) {
        return -1;
      }
      if (same(row, key, value, extra) && on(row, at)) {
        return row;
      }
    }
  }

  /** Visits all rows with this content, in no order; dropped ones too. */
  void alike(int key, int value, int extra, IntConsumer visitor) {
    int[] now = indexed();
    int mask = now.length - 1;
    for (int place = spread(key, value, extra) & mask; ; place = (place + 1) & mask) {
      int row = now[place] - 1;
      if (row < 0) {
        return;
      }
      if (same(row, key, value, extra)) {
        visitor.accept(row);
      }
    }
  }

  private boolean same(int row, int key, int value, int extra) {
    return this.key[row] == key && this.value[row] == value && this.extra[row] == extra;
  }

  private int first(int key, int value, int extra) {
    return spread(key, value, extra) & (indexed().length - 1);
  }

  private synchronized int[] indexed() {
    if (slots.length == 0) {
      int[] next = new int[Math.max(64, Integer.highestOneBit(Math.max(1, size)) * 4)];
      for (int row = 0; row < size; row++) {
        put(next, row);
      }
      slots = next;
    }
    return slots;
  }

  private synchronized void index(int row) {
    if (size * 3L > slots.length * 2L) {
      slots = new int[0];
      indexed();
    } else {
      put(slots, row);
    }
  }

  private void put(int[] slots, int row) {
    int mask = slots.length - 1;
    int at = spread(key[row], value[row], extra[row]) & mask;
    while (slots[at] != 0) {
      at = (at + 1) & mask;
    }
    slots[at] = row + 1;
  }

  private static int spread(int key, int value, int extra) {
    long mixed =
        (key * 0x9E3779B97F4A7C15L) ^ (value * 0xC2B2AE3D27D4EB4FL) ^ (extra * 0x165667B19E3779F9L);
    mixed ^= mixed >>> 29;
    mixed *= 0xBF58476D1CE4E5B9L;
    return (int) (mixed >>> 32);
  }
}
