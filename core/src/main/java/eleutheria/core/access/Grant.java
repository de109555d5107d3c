package eleutheria.core.access;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import java.time.Instant;

/**
 * A grant in force.
 *
 * @param until when it ends by itself, {@link eleutheria.core.facts.Moments#FOREVER} if it does not
 */
public record Grant(GrantId id, FactValue.Given given, Instant from, Instant until) {}
