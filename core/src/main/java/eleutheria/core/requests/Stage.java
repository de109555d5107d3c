package eleutheria.core.requests;

import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import java.time.Instant;

/** Where a request stands. All but what is open are ends; some can be taken back for a moment. */
public sealed interface Stage {

  /** A step waits for its decision. */
  sealed interface Open extends Stage {
    Step step();

    /** When it lies on the deciders' docket. */
    Instant from();

    /** When it ends by itself, as things stand. */
    Instant lapses();
  }

  /** The clock runs. */
  record Waiting(Step step, Instant from, Instant lapses) implements Open {}

  /**
   * Who decides has asked something. The clock stands until it is answered; it can still be
   * decided.
   *
   * @param since when it was asked
   * @param left how much of the step's time was left then
   * @param goesOn when the clock goes on all the same
   */
  record AskedBack(
      Step step, Instant from, PersonId by, Instant since, Duration left, Instant goesOn)
      implements Open {
    @Override
    public Instant lapses() {
      return goesOn.plus(left);
    }
  }

  /**
   * @param from when the grant begins
   */
  record Given(GrantId grant, Instant from) implements Stage {}

  record Refused(PersonId by, Instant at) implements Stage {}

  record Withdrawn(Instant at) implements Stage {}

  /** Nobody acted in time. */
  record Lapsed(Instant at) implements Stage {}

  /** The asker has departed. */
  record Overtaken(Instant at) implements Stage {}

  default boolean open() {
    return this instanceof Open;
  }
}
