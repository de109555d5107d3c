package eleutheria.server.problems;

import eleutheria.core.ledger.Problem;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A problem answer (RFC 9457, section 3).
 *
 * @param type stable: {@code urn:eleutheria:problem:} and a code
 * @param detail the first sentence to act on
 * @param problems everything that is wrong, each with the form's field it belongs to
 * @param retryAfterSeconds when to try again, where that is known
 */
public record ProblemView(
    String type,
    String title,
    int status,
    String detail,
    List<Item> problems,
    @Nullable Long retryAfterSeconds) {

  public static final String TYPE = "urn:eleutheria:problem:";

  public record Item(String code, String field, String sentence) {
    public static Item of(Problem problem) {
      return new Item(problem.code(), problem.field(), problem.sentence());
    }
  }

  public static ProblemView of(int status, String code, String title, String detail) {
    return new ProblemView(TYPE + code, title, status, detail, List.of(), null);
  }
}
