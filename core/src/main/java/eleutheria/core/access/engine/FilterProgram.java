package eleutheria.core.access.engine;

import eleutheria.core.directory.filter.Filter;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.roaringbitmap.BitSetUtil;
import org.roaringbitmap.RoaringBitmap;

/**
 * A filter made ready for columns: each comparison remembers what it said of each text, so that a
 * text is looked at once, however many people have it and however often it is asked.
 *
 * <p>Cost: for everyone one step a person and comparison, over arrays; for one person some tens of
 * nanoseconds. The memory is one byte a text and comparison. What a comparison says of a text never
 * changes, so that two threads that write the same byte do no harm.
 */
final class FilterProgram {
  final Filter filter;
  private final Node root;
  private final int[] reads;

  private FilterProgram(Filter filter, Node root, int[] reads) {
    this.filter = filter;
    this.root = root;
    this.reads = reads;
  }

  static FilterProgram of(Filter filter, Store store) {
    Set<String> names = filter.reads();
    int[] reads = names.stream().mapToInt(store::attribute).filter(a -> a >= 0).sorted().toArray();
    return new FilterProgram(filter, node(filter, store), reads);
  }

  private static Node node(Filter filter, Store store) {
    return switch (filter) {
      case Filter.And f -> new And(node(f.left(), store), node(f.right(), store));
      case Filter.Or f -> new Or(node(f.left(), store), node(f.right(), store));
      case Filter.Not f -> new Not(node(f.inner(), store));
      case Filter.Has f -> new Has(store.attribute(f.attribute()));
      case Filter.Compare f -> {
        int attribute = store.attribute(f.attribute());
        yield attribute < 0 ? new Has(-1) : new Compare(attribute, f, store.words(attribute));
      }
    };
  }

  /** Whether the filter looks at an attribute. */
  boolean reads(int attribute) {
    return IntList.has(reads, attribute);
  }

  boolean fits(IntChunks[] columns, int person) {
    return root.fits(columns, person);
  }

  /**
   * Everyone of these people whose attributes fit.
   *
   * @param size one more than the highest number of a person
   */
  RoaringBitmap everyone(IntChunks[] columns, RoaringBitmap people, int size) {
    long[] bits = root.everyone(columns, size);
    RoaringBitmap found = BitSetUtil.bitmapOf(bits);
    found.and(people);
    return found;
  }

  private static IntChunks column(IntChunks[] columns, int attribute) {
    return attribute < 0 || attribute >= columns.length ? NO_COLUMN : columns[attribute];
  }

  private static final IntChunks NO_COLUMN = IntChunks.empty();

  private sealed interface Node {
    boolean fits(IntChunks[] columns, int person);

    long[] everyone(IntChunks[] columns, int size);
  }

  private record And(Node left, Node right) implements Node {
    @Override
    public boolean fits(IntChunks[] columns, int person) {
      return left.fits(columns, person) && right.fits(columns, person);
    }

    @Override
    public long[] everyone(IntChunks[] columns, int size) {
      long[] one = left.everyone(columns, size);
      int fit = 0;
      for (long word : one) {
        fit += Long.bitCount(word);
      }
      if (fit < size / 16) {
        for (int i = 0; i < one.length; i++) {
          for (long word = one[i]; word != 0; word &= word - 1) {
            int place = Long.numberOfTrailingZeros(word);
            if (!right.fits(columns, (i << 6) + place)) {
              one[i] &= ~(1L << place);
            }
          }
        }
        return one;
      }
      long[] other = right.everyone(columns, size);
      for (int i = 0; i < one.length; i++) {
        one[i] &= other[i];
      }
      return one;
    }
  }

  private record Or(Node left, Node right) implements Node {
    @Override
    public boolean fits(IntChunks[] columns, int person) {
      return left.fits(columns, person) || right.fits(columns, person);
    }

    @Override
    public long[] everyone(IntChunks[] columns, int size) {
      long[] one = left.everyone(columns, size);
      long[] other = right.everyone(columns, size);
      for (int i = 0; i < one.length; i++) {
        one[i] |= other[i];
      }
      return one;
    }
  }

  private record Not(Node inner) implements Node {
    @Override
    public boolean fits(IntChunks[] columns, int person) {
      return !inner.fits(columns, person);
    }

    @Override
    public long[] everyone(IntChunks[] columns, int size) {
      long[] one = inner.everyone(columns, size);
      for (int i = 0; i < one.length; i++) {
        one[i] = ~one[i];
      }
      return one;
    }
  }

  private record Has(int attribute) implements Node {
    @Override
    public boolean fits(IntChunks[] columns, int person) {
      return column(columns, attribute).get(person) != Words.NONE;
    }

    @Override
    public long[] everyone(IntChunks[] columns, int size) {
      long[] bits = new long[(size + 63) >>> 6];
      IntChunks column = column(columns, attribute);
      for (int base = 0; base < size; base += Chunks.SIZE) {
        int[] chunk = column.chunk(base);
        if (chunk != null) {
          int end = Math.min(Chunks.SIZE, size - base);
          for (int i = 0; i < end; i++) {
            bits[(base + i) >>> 6] |= (chunk[i] == Words.NONE ? 0L : 1L) << (base + i);
          }
        }
      }
      return bits;
    }
  }

  private static final class Compare implements Node {
    private final int attribute;
    private final Filter.Compare test;
    private final Words words;
    private byte[] known;

    Compare(int attribute, Filter.Compare test, Words words) {
      this.attribute = attribute;
      this.test = test;
      this.words = words;
      this.known = new byte[Math.max(16, words.size())];
    }

    @Override
    public boolean fits(IntChunks[] columns, int person) {
      return accepts(column(columns, attribute).get(person));
    }

    @Override
    public long[] everyone(IntChunks[] columns, int size) {
      long[] bits = new long[(size + 63) >>> 6];
      IntChunks column = column(columns, attribute);
      // An attribute of which everyone has another text is looked at person by person.
      byte[] said = words.size() < size ? table() : new byte[1];
      for (int base = 0; base < size; base += Chunks.SIZE) {
        int[] chunk = column.chunk(base);
        if (chunk != null) {
          scan(chunk, base, Math.min(Chunks.SIZE, size - base), said, bits);
        }
      }
      return bits;
    }

    /** A whole word of people at a time, by a table of what is said of each text. */
    private void scan(int[] chunk, int base, int end, byte[] said, long[] bits) {
      for (int from = 0; from < end; from += 64) {
        long word = 0;
        int until = Math.min(64, end - from);
        for (int i = 0; i < until; i++) {
          int value = chunk[from + i];
          if (value >= 0 && value < said.length) {
            word |= (long) said[value] << i;
          } else if (accepts(value)) {
            word |= 1L << i;
          }
        }
        bits[(base + from) >>> 6] = word;
      }
    }

    /** By value: 1 where the comparison holds; value 0 is nobody's text. */
    private byte[] table() {
      byte[] table = new byte[words.size() + 1];
      for (int code = 0; code + 1 < table.length; code++) {
        table[code + 1] = (byte) (code(code) ? 1 : 0);
      }
      return table;
    }

    private boolean accepts(int value) {
      if (value == Words.NONE) {
        return false;
      }
      if (value > 0) {
        return code(value - 1);
      }
      for (int code : words.set(value)) {
        if (code(code)) {
          return true;
        }
      }
      return false;
    }

    private boolean code(int code) {
      byte[] now = known;
      if (code >= now.length) {
        now = Arrays.copyOf(now, Math.max(code + 1, now.length * 2));
        known = now;
      }
      byte said = now[code];
      if (said == 0) {
        List<String> text = List.of(words.text(code));
        said = test.matches(name -> text) ? (byte) 1 : 2;
        now[code] = said;
      }
      return said == 1;
    }
  }
}
