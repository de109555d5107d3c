package eleutheria.core.apps;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;

/**
 * A role of an application at a moment.
 *
 * @param title application and role as they are written everywhere, "Refund Bench · Approver"
 */
public record Entitlement(EntitlementId id, FactValue.Role role, String title) {
  public ApplicationId application() {
    return role.application();
  }
}
