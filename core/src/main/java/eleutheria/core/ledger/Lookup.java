package eleutheria.core.ledger;

import java.util.List;

/** A thing that somebody may do something with, or what stands in their way. It is no act. */
public sealed interface Lookup<T> {
  record Found<T>(T thing) implements Lookup<T> {
    @Override
    public List<Problem> problems() {
      return List.of();
    }
  }

  record Refused<T>(List<Problem> problems) implements Lookup<T> {}

  /** What stands in the way; empty where nothing does. */
  List<Problem> problems();

  static <T> Lookup<T> found(T thing) {
    return new Found<>(thing);
  }

  static <T> Lookup<T> refused(Problem... problems) {
    return new Refused<>(List.of(problems));
  }
}
