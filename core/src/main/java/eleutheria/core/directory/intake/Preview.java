package eleutheria.core.directory.intake;

import eleutheria.core.facts.Edit;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.ledger.CanonicalJson;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Problem;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a file would do, worked out against one state.
 *
 * @param lines one for every row of the file, in its order
 * @param ended what is in the source now and not in a file of all of it
 * @param known how many of the source's people (or memberships) stood before
 * @param problems what is wrong with the matching or the whole; nothing can be imported then
 * @param edits everything that the good lines change
 */
public record Preview(
    List<Line> lines,
    List<Ended> ended,
    int known,
    List<Problem> problems,
    List<Edit> edits,
    List<ObjectId> invited) {

  /** A share of endings above this asks for their number to be typed. */
  public static final double ENDING_SHARE = 0.05;

  public enum Verdict {
    ADDED,
    CHANGED,
    SAME,
    BAD
  }

  /**
   * @param label the person or group as people read it
   * @param wrong sentences, only where the verdict is bad
   */
  public record Line(
      long line,
      Verdict verdict,
      String key,
      String label,
      List<Difference> differences,
      List<String> wrong) {}

  /** One value that changes; null where there is none. */
  public record Difference(String what, @Nullable String before, @Nullable String after) {}

  public record Ended(ObjectId object, String key, String label) {}

  public int count(Verdict verdict) {
    return (int) lines.stream().filter(line -> line.verdict() == verdict).count();
  }

  /** Whether so many end that their number must be typed. */
  public boolean endsMany() {
    return !ended.isEmpty() && ended.size() > known * ENDING_SHARE;
  }

  /**
   * SHA-256 over what was shown: equal as long as the file would do the same. Ids of what is new
   * are left out, since each look gives others.
   */
  public String digest() {
    List<Object> all = new ArrayList<>();
    for (Line line : lines) {
      List<Object> one = new ArrayList<>(List.of(line.line(), line.verdict().name(), line.key()));
      for (Difference difference : line.differences()) {
        one.add(difference.what());
        one.add(String.valueOf(difference.before()));
        one.add(String.valueOf(difference.after()));
      }
      all.add(one);
    }
    all.add(ended.stream().map(e -> e.object().text()).sorted().toList());
    return LedgerChain.hash(CanonicalJson.write(all));
  }
}
