package eleutheria.core.access;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RuleId;
import org.jspecify.annotations.NullMarked;

/** A breach of a separation rule: one person is entitled to something of both of its sets. */
@NullMarked
public record Conflict(RuleId rule, PersonId person, EntitlementId one, EntitlementId other) {}
