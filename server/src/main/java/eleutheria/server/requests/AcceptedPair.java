package eleutheria.server.requests;

import eleutheria.core.access.Conflict;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RuleId;
import jakarta.validation.constraints.NotNull;
import java.time.LocalDate;
import java.util.UUID;

/**
 * What a rule keeps apart, and a decider accepts with their yes.
 *
 * @param until the last day, at most a year ahead
 */
record AcceptedPair(
    @NotNull UUID rule, @NotNull UUID one, @NotNull UUID other, @NotNull LocalDate until) {
  SeparationDecisions.Acceptance by(PersonId asker) {
    return new SeparationDecisions.Acceptance(
        new Conflict(new RuleId(rule), asker, new EntitlementId(one), new EntitlementId(other)),
        until);
  }
}
