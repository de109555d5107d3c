package eleutheria.server.problems;

import eleutheria.core.ledger.Problem;
import java.util.List;

/** Carries problems from a decision to the answer; changes nothing on its way. */
public final class Refusal extends RuntimeException {
  private final transient List<Problem> problems;

  public Refusal(List<Problem> problems) {
    super(problems.isEmpty() ? "refused" : problems.getFirst().sentence());
    this.problems = List.copyOf(problems);
  }

  public static Refusal of(Problem problem) {
    return new Refusal(List.of(problem));
  }

  public static Refusal invalid(String code, String field, String sentence) {
    return of(Problem.invalid(code, field, sentence));
  }

  public List<Problem> problems() {
    return problems;
  }
}
