package eleutheria.core.ledger;

import eleutheria.core.facts.Edit;
import java.util.List;

/** What a decision comes to: an act with its edits, or everything that stands in its way. */
public sealed interface Outcome<T> {

  /**
   * @param result what the caller wants to know: a new id, a count
   * @param errands what is to be done outside after the commit
   */
  record Done<T>(Act act, List<Edit> edits, T result, List<Errand> errands, Right right)
      implements Outcome<T> {
    public Done<T> by(Right other) {
      return new Done<>(act, edits, result, errands, other);
    }

    public Done<T> with(List<Errand> more) {
      return new Done<>(act, edits, result, more, right);
    }
  }

  /** On what it rests that the actor may move access by the edits. */
  enum Right {
    /** On the power to give and end whatever they give and end; judged after the decision. */
    BY_EFFECT,
    /**
     * On owning the group whose members change; entitlements of high sensitivity are judged by
     * effect still.
     */
    AS_GROUP_OWNER,
    /** On a rule that the decision itself has applied: a route, a departure, the clock. */
    BY_RULE
  }

  record Refused<T>(List<Problem> problems) implements Outcome<T> {}

  static <T> Done<T> done(Act act, List<Edit> edits, T result) {
    return new Done<>(act, edits, result, List.of(), Right.BY_EFFECT);
  }

  static <T> Outcome<T> refused(Problem... problems) {
    return new Refused<>(List.of(problems));
  }

  static <T> Outcome<T> refused(List<Problem> problems) {
    return new Refused<>(List.copyOf(problems));
  }
}
