package eleutheria.core.ledger;

import eleutheria.core.facts.ObjectId;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What an entry says beside its changes.
 *
 * @param name what was done
 * @param objects the things it is about
 * @param reason why, in the actor's words; empty if none was asked; sealed, since it may name
 *     people
 * @param details whatever else must be on record, never personal: counts, file hashes, addresses of
 *     requests; text, integers and longs only
 */
public record Act(
    ActName name, List<ObjectId> objects, String reason, Map<String, Object> details) {
  public static Act of(ActName name, ObjectId... objects) {
    return new Act(name, List.of(objects), "", Map.of());
  }

  public Act because(String why) {
    return new Act(name, objects, why, details);
  }

  public Act with(Map<String, Object> more) {
    return new Act(name, objects, reason, more);
  }

  /** The detail that a fresh sign-in stood for a second person's yes, which nobody could give. */
  public static final String ALONE = "alone";

  /** The same, done alone where a second person's yes would be needed and nobody could give it. */
  public Act alone() {
    Map<String, Object> more = new LinkedHashMap<>(details);
    more.put(ALONE, "fresh sign-in");
    return new Act(name, objects, reason, more);
  }

  public boolean isAlone() {
    return details.containsKey(ALONE);
  }
}
