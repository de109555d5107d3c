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
 * @param until the last day that the decider set; null for what was asked
 */
public record Decision(
    Step step,
    PersonId by,
    Deciders.Capacity capacity,
    boolean steppedIn,
    boolean yes,
    Instant at,
    @Nullable LocalDate until,
    String note) {}
