package eleutheria.core.access.engine;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.filter.Folding;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The texts that one attribute has or had, each with a number. People of one unit then share one
 * text, and a filter looks at each text once and not at each person's.
 *
 * <p>One thread adds, others read what was published, as with {@link Ids}.
 */
final class Words {
  /** One or several values of one person, as one number: see {@link #encode}. */
  static final int NONE = 0;

  private @Nullable String[] texts = new String[8];
  private volatile int size;
  private int[] slots = new int[16];
  private int[] @Nullable [] sets = new int[8][];
  private int setCount;
  private @Nullable Object[] lists = new Object[8];
  private final Map<String, IntList> codesFolded = new HashMap<>();
  private int foldedUpTo;
  private final Map<String, Integer> setNumbers = new HashMap<>();

  int size() {
    return size;
  }

  int find(String text) {
    // Whatever has a number below this was written before; what is just being added is passed over.
    int known = size;
    int[] now = slots;
    int mask = now.length - 1;
    for (int at = spread(text) & mask; ; at = (at + 1) & mask) {
      int code = now[at] - 1;
      if (code < 0) {
        return -1;
      }
      if (code < known && text.equals(texts[code])) {
        return code;
      }
    }
  }

  int code(String text) {
    int found = find(text);
    if (found >= 0) {
      return found;
    }
    int code = size;
    if (code == texts.length) {
      texts = Arrays.copyOf(texts, code * 2);
    }
    texts[code] = text;
    if ((code + 1) * 3L > slots.length * 2L) {
      int[] wider = new int[slots.length * 2];
      for (int i = 0; i <= code; i++) {
        put(wider, text(i), i);
      }
      slots = wider;
    } else {
      put(slots, text, code);
    }
    size = code + 1;
    return code;
  }

  private static void put(int[] slots, String text, int code) {
    int mask = slots.length - 1;
    int at = spread(text) & mask;
    while (slots[at] != 0) {
      at = (at + 1) & mask;
    }
    slots[at] = code + 1;
  }

  private static int spread(String text) {
    int mixed = text.hashCode() * 0x9E3779B9;
    return mixed ^ (mixed >>> 16);
  }

  String text(int code) {
    return requireNonNull(texts[code]);
  }

  /** The texts of a value, sorted; a single one is a list that is made once. */
  @SuppressWarnings("unchecked")
  List<String> texts(int value) {
    if (value > 0) {
      Object[] now = lists;
      int code = value - 1;
      if (code < now.length && now[code] != null) {
        return (List<String>) now[code];
      }
      List<String> made = List.of(text(code));
      if (code >= now.length) {
        now = Arrays.copyOf(now, Math.max(size, code + 1));
        lists = now;
      }
      now[code] = made;
      return made;
    }
    return Arrays.stream(set(value)).mapToObj(this::text).sorted().toList();
  }

  /** All texts that are the same when folded. */
  synchronized int[] folded(String folded) {
    for (; foldedUpTo < size; foldedUpTo++) {
      codesFolded
          .computeIfAbsent(Folding.fold(text(foldedUpTo)), f -> new IntList(1))
          .add(foldedUpTo);
    }
    IntList found = codesFolded.get(folded);
    return found == null ? IntList.NONE : found.toArray();
  }

  // ---- several values of one person

  /**
   * 0 for no value, code + 1 for one, −1 − n for the set numbered n. Also a reader who has a past
   * state made comes here, so one at a time.
   */
  synchronized int encode(int[] codes) {
    if (codes.length == 0) {
      return NONE;
    }
    if (codes.length == 1) {
      return codes[0] + 1;
    }
    int[] sorted = codes.clone();
    Arrays.sort(sorted);
    int number =
        setNumbers.computeIfAbsent(
            Arrays.toString(sorted),
            k -> {
              if (setCount == sets.length) {
                sets = Arrays.copyOf(sets, setCount * 2);
              }
              sets[setCount] = sorted;
              return setCount++;
            });
    return -1 - number;
  }

  int[] decode(int value) {
    if (value == NONE) {
      return IntList.NONE;
    }
    return value > 0 ? new int[] {value - 1} : set(value);
  }

  /** The codes behind a negative value. */
  int[] set(int value) {
    return requireNonNull(sets[-1 - value]);
  }
}
