package eleutheria.core.queries;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.time.LocalDate;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A query that somebody saved. It keeps no answer: that is worked out for whoever asks, cut to what
 * they may see.
 *
 * @param why what it is for, in the owner's words; may be empty
 * @param spec what it asks, as canonical JSON
 * @param shared whether everybody who may look at holdings finds it
 * @param next the day on which it is sent next; null for never
 * @param version one more after each change
 */
public record Query(
    UUID id,
    PersonId owner,
    String name,
    String why,
    String spec,
    boolean shared,
    Every every,
    @Nullable LocalDate next,
    int version,
    Instant changedAt) {
  /** What of it a person sets. */
  public record Terms(String name, String why, String spec, boolean shared, Every every) {}

  public boolean mayBeSeenBy(PersonId person) {
    return shared || owner.equals(person);
  }
}
