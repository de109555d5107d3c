package eleutheria.core.ledger;

import eleutheria.core.facts.Edit;
import java.util.List;

/** What a decision comes to: an act with its edits, or everything that stands in its way. */
public sealed interface Outcome<T> {

  /**
   * @param result what the caller wants to know: a new id, a count
   * @param errands what is to be done outside after the commit
   */
  record Done<T>(Act act, List<Edit> edits, T result, List<Errand> errands) implements Outcome<T> {}

  record Refused<T>(List<Problem> problems) implements Outcome<T> {}

  static <T> Outcome<T> done(Act act, List<Edit> edits, T result) {
    return new Done<>(act, edits, result, List.of());
  }

  static <T> Outcome<T> refused(Problem... problems) {
    return new Refused<>(List.of(problems));
  }

  static <T> Outcome<T> refused(List<Problem> problems) {
    return new Refused<>(List.copyOf(problems));
  }
}
