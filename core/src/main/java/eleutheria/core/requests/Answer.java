package eleutheria.core.requests;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * One decision that stands.
 *
 * @param as what made this person decide
 * @param steppedIn whether by the power to decide in another's place
 * @param until the last day that the decider set; null for what was asked
 */
public record Answer(
    Step step,
    PersonId by,
    Deciders.As as,
    boolean steppedIn,
    boolean yes,
    Instant at,
    @Nullable LocalDate until,
    String note) {}
