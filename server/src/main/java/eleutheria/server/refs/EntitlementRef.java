package eleutheria.server.refs;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;

/**
 * An entitlement where it is named.
 *
 * @param title application and role, "Refund Bench · Approver"
 */
public record EntitlementRef(
    String id, String title, String name, String line, String sensitivity, AppRef app) {
  public static EntitlementRef of(AppsView apps, Entitlement entitlement) {
    return new EntitlementRef(
        entitlement.id().value().toString(),
        entitlement.title(),
        entitlement.role().name(),
        entitlement.role().line(),
        entitlement.role().sensitivity().word(),
        AppRef.of(apps.applicationOf(entitlement)));
  }
}
