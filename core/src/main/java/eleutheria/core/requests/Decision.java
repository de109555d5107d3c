package eleutheria.core.requests;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * One decision that stands.
 *
 * @param capacity what made this person decide
 * @param steppedIn whether by the power to decide in another's place
 * @param behalf as whose deputy; null for themselves
 * @param until the last day that the decider set; null for what was asked
 * @param before where the request stood, so that taking the decision back leads there
 */
public record Decision(
    PersonId by,
    Deciders.Capacity capacity,
    boolean steppedIn,
    @Nullable PersonId behalf,
    boolean yes,
    Instant at,
    @Nullable LocalDate until,
    String note,
    Stage.Open before) {
  public int step() {
    return before.step();
  }
}
