package eleutheria.core.apps;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An application at a moment.
 *
 * @param since when its state began
 * @param wayIn how it signs people on; null while none is set
 * @param seats what is paid for; null where that is not on record
 * @param entitlements in order of name
 */
public record Application(
    ApplicationId id,
    FactValue.Profile profile,
    ApplicationState state,
    Instant since,
    FactValue.@Nullable WayIn wayIn,
    FactValue.@Nullable Seats seats,
    List<PersonId> owners,
    List<Entitlement> entitlements) {
  public String name() {
    return profile.name();
  }

  public boolean open() {
    return state == ApplicationState.OPEN;
  }
}
