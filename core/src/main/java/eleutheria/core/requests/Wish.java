package eleutheria.core.requests;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is asked for. Whoever asks and whom it is for are mostly the same person; neither of them
 * ever decides on it.
 *
 * @param asker who asks
 * @param person whom it is for, who would hold it
 */
public record Wish(PersonId asker, PersonId person, EntitlementId entitlement) {
  /** Somebody asks for themselves. */
  public static Wish own(PersonId person, EntitlementId entitlement) {
    return new Wish(person, person, entitlement);
  }

  public boolean forSelf() {
    return asker.equals(person);
  }

  /** Whether somebody asks, or is the one whom it is for. */
  public boolean isOf(@Nullable PersonId one) {
    return asker.equals(one) || person.equals(one);
  }

  /** Whom it is for and who asks, each once. */
  public Set<PersonId> people() {
    return new LinkedHashSet<>(List.of(person, asker));
  }
}
