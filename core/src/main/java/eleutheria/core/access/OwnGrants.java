package eleutheria.core.access;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.NullMarked;

/**
 * What ends some holdings as far as they stand on grants to these very people. A grant to a group
 * or a filter is not touched: to end it is a decision about others too, so whoever stands on one
 * keeps what they hold, and that is told.
 */
@NullMarked
public final class OwnGrants {
  private final List<GrantId> grants = new ArrayList<>();
  private final List<Stays> stays = new ArrayList<>();
  private int ends;

  /**
   * A holding that stays.
   *
   * @param on a ground that is not the person's own
   */
  public record Stays(PersonId person, EntitlementId entitlement, Ground on) {}

  /** Takes one more holding in. */
  public void add(AccessView access, PersonId person, EntitlementId entitlement) {
    Ground other = null;
    for (Ground ground : access.grounds(person, entitlement)) {
      if (ground.grant().given().subject() instanceof FactValue.Subject.OfPerson) {
        grants.add(ground.grant().id());
      } else if (other == null) {
        other = ground;
      }
    }
    if (other == null) {
      ends++;
    } else {
      stays.add(new Stays(person, entitlement, other));
    }
  }

  /** The grants to be ended. */
  public List<GrantId> grants() {
    return grants;
  }

  /** How many holdings that takes away. */
  public int ends() {
    return ends;
  }

  /** Those that it does not take away. */
  public List<Stays> stays() {
    return stays;
  }
}
