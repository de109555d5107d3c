package eleutheria.core.requests;

import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;

/** Where a request stands. All but waiting are ends; some can be taken back for ten seconds. */
public sealed interface Stage {

  /**
   * @param from when it lies on the deciders' docket
   * @param lapses when it ends by itself
   */
  record Waiting(Step step, Instant from, Instant lapses) implements Stage {}

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
    return this instanceof Waiting;
  }
}
