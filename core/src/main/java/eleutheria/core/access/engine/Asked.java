package eleutheria.core.access.engine;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Sensitivity;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Which holdings are asked for. What is empty, false or null does not narrow; everything given must
 * fit.
 *
 * @param apps entitlements of these applications
 * @param entitlements these alone
 * @param sensitivities entitlements of these sensitivities
 * @param people a filter over the holder's attributes (RFC 7644, section 3.4.2.2); empty for all
 * @param unused only where it is known not to have been used
 * @param conflict only where the evidence says that a separation rule is broken
 * @param hand only where a ground is the person's own and was granted by an administrator
 * @param ending only what ends by itself before this moment
 */
public record Asked(
    Set<ApplicationId> apps,
    Set<EntitlementId> entitlements,
    Set<Sensitivity> sensitivities,
    String people,
    boolean unused,
    boolean conflict,
    boolean hand,
    @Nullable Instant ending) {
  public static final Asked ALL =
      new Asked(Set.of(), Set.of(), Set.of(), "", false, false, false, null);

  /**
   * Whether some holders of an entitlement may be passed over, so that those without any are left
   * out.
   */
  boolean narrows() {
    return !people.isEmpty() || unused || conflict || hand || ending != null;
  }

  /** Whether some entitlements are left out, so that an open row folds those who have none. */
  boolean selects() {
    return !apps.isEmpty() || !entitlements.isEmpty() || !sensitivities.isEmpty();
  }
}
