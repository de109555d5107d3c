package eleutheria.core.requests;

import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Where a request stands. All but what is open are ends; some can be taken back for a moment. */
public sealed interface Stage {

  /** A step waits for its decision. */
  sealed interface Open extends Stage {
    /** Which step of the request's route, from 0. */
    int step();

    /** When it lies on the deciders' docket. */
    Instant from();

    /** When it ends by itself, as things stand. */
    Instant lapses();

    /** To whom it was passed on; null where it was not. */
    @Nullable PassedOn passed();

    /** The same, passed on. */
    Open passed(PassedOn on);
  }

  /**
   * Somebody else decides this step, as long as they may.
   *
   * @param to who decides
   * @param by who has passed it on
   */
  record PassedOn(PersonId to, PersonId by) {}

  /** The clock runs. */
  record Waiting(int step, Instant from, Instant lapses, @Nullable PassedOn passed)
      implements Open {
    @Override
    public Waiting passed(PassedOn on) {
      return new Waiting(step, from, lapses, on);
    }
  }

  /**
   * Who decides has asked something. The clock stands until it is answered; it can still be
   * decided.
   *
   * @param since when it was asked
   * @param left how much of the step's time was left then
   * @param goesOn when the clock goes on all the same
   */
  record AskedBack(
      int step,
      Instant from,
      PersonId by,
      Instant since,
      Duration left,
      Instant goesOn,
      @Nullable PassedOn passed)
      implements Open {
    @Override
    public Instant lapses() {
      return goesOn.plus(left);
    }

    @Override
    public AskedBack passed(PassedOn on) {
      return new AskedBack(step, from, by, since, left, goesOn, on);
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
