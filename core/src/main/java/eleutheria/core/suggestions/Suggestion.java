package eleutheria.core.suggestions;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SuggestionId;
import java.time.Instant;

/**
 * An app that somebody has suggested.
 *
 * @param number for people, {@code P-1001}
 * @param whom who needs it, in their words
 * @param why what for
 */
public record Suggestion(
    SuggestionId id,
    int number,
    PersonId by,
    String name,
    String address,
    String whom,
    String why,
    Instant at,
    State state) {

  /** Where it stands. All but waiting are ends. */
  public sealed interface State {
    enum Waiting implements State {
      WAITING
    }

    record Accepted(PersonId by, Instant at, ApplicationId app, String answer) implements State {}

    record Declined(PersonId by, Instant at, String answer) implements State {}

    record Withdrawn(Instant at) implements State {}
  }

  public String label() {
    return "P-" + number;
  }

  public boolean waits() {
    return state == State.Waiting.WAITING;
  }

  /** Suggestions of the same app have the same. */
  public String likeness() {
    return Approved.likeness(address);
  }

  Suggestion at(State next) {
    return new Suggestion(id, number, by, name, address, whom, why, at, next);
  }
}
