package eleutheria.core.directory;

import eleutheria.core.directory.filter.Folding;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;

/**
 * Finding things by what somebody types, with slips. A typed word fits the words that it begins; if
 * it begins none at all, those nearest to it, within one slip from four letters and two from eight.
 * The portal's own filter does the same in the browser; both are held against the same vectors.
 */
public final class NearWords {
  private static final Pattern BETWEEN = Pattern.compile("[\\s,.·/()-]+");

  private NearWords() {}

  /** How many slips a typed word may have. */
  public static int slips(String word) {
    int letters = word.codePointCount(0, word.length());
    return letters < 4 ? 0 : letters < 8 ? 1 : 2;
  }

  /**
   * The least Damerau–Levenshtein distance (letters left out, put in, changed, or two neighbours
   * changed over) between a typed word and any beginning of another; {@code most + 1} where it is
   * more than {@code most}.
   */
  public static int nearness(String typed, String word, int most) {
    int[] a = typed.codePoints().toArray();
    int[] whole = word.codePoints().toArray();
    int[] b = Arrays.copyOf(whole, Math.min(whole.length, a.length + most));
    if (a.length - b.length > most) {
      return most + 1;
    }
    int far = a.length + b.length;
    // Row and column 0 stand for "before anything", so that a swap at the beginning has a place.
    int[][] rows = new int[a.length + 2][b.length + 2];
    Arrays.fill(rows[0], far);
    for (int j = 0; j <= b.length; j++) {
      rows[1][j + 1] = j;
    }
    rows[1][0] = far;
    Map<Integer, Integer> lastRow = new HashMap<>();
    for (int i = 1; i <= a.length; i++) {
      rows[i + 1][0] = far;
      rows[i + 1][1] = i;
      int lastColumn = 0;
      for (int j = 1; j <= b.length; j++) {
        int swapRow = lastRow.getOrDefault(b[j - 1], 0);
        int swapColumn = lastColumn;
        boolean same = a[i - 1] == b[j - 1];
        if (same) {
          lastColumn = j;
        }
        int swapped = rows[swapRow][swapColumn] + (i - swapRow - 1) + 1 + (j - swapColumn - 1);
        rows[i + 1][j + 1] =
            Math.min(
                Math.min(rows[i][j] + (same ? 0 : 1), rows[i][j + 1] + 1),
                Math.min(rows[i + 1][j] + 1, swapped));
      }
      lastRow.put(a[i - 1], i);
    }
    int least = most + 1;
    for (int j = 0; j <= b.length; j++) {
      least = Math.min(least, rows[a.length + 1][j + 1]);
    }
    return least;
  }

  /**
   * The things in which every typed word fits a word of some field: those first that have it in
   * their first field, then the others, each in the given order. All of them where nothing is
   * typed.
   */
  public static <T> List<T> find(List<T> all, String text, Function<T, List<String>> fields) {
    List<String> typed = words(text);
    if (typed.isEmpty()) {
      return all;
    }
    record Entry<T>(T thing, Set<String> first, Set<String> every) {}
    List<Entry<T>> entries = new ArrayList<>();
    Set<String> vocabulary = new LinkedHashSet<>();
    for (T thing : all) {
      List<String> own = fields.apply(thing);
      Set<String> first = new HashSet<>(own.isEmpty() ? List.of() : words(own.getFirst()));
      Set<String> every = new HashSet<>();
      own.forEach(field -> every.addAll(words(field)));
      vocabulary.addAll(every);
      entries.add(new Entry<>(thing, first, every));
    }
    List<Set<String>> each = typed.stream().map(word -> fits(vocabulary, word)).toList();
    return entries.stream()
        .filter(e -> each.stream().allMatch(fits -> fits.stream().anyMatch(e.every()::contains)))
        .sorted(
            Comparator.comparing(
                e -> each.stream().noneMatch(f -> f.stream().anyMatch(e.first()::contains))))
        .map(Entry::thing)
        .toList();
  }

  /** The words of a vocabulary that a typed word fits. */
  static Set<String> fits(Set<String> vocabulary, String typed) {
    Set<String> found = new HashSet<>();
    vocabulary.stream().filter(word -> word.startsWith(typed)).forEach(found::add);
    int least = slips(typed);
    if (!found.isEmpty() || least == 0) {
      return found;
    }
    for (String word : vocabulary) {
      int distance = nearness(typed, word, least);
      if (distance < least) {
        found.clear();
        least = distance;
      }
      if (distance <= least) {
        found.add(word);
      }
    }
    return found;
  }

  private static List<String> words(String text) {
    return BETWEEN.splitAsStream(Folding.bare(text)).filter(word -> !word.isEmpty()).toList();
  }
}
