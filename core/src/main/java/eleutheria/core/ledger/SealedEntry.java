package eleutheria.core.ledger;

import eleutheria.core.facts.ObjectId;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * An entry as it is chained and stored.
 *
 * @param json the entry in canonical JSON, without its own hash
 * @param hash SHA-256 of {@code json} in lower-case hex
 * @param changes each change in canonical JSON, personal values sealed
 */
public record SealedEntry(
    long position,
    Instant instant,
    Actor actor,
    Act act,
    List<ObjectId> objects,
    Map<String, Object> entry,
    String json,
    String hash,
    List<SealedChange> changes,
    List<Payload> payloads) {

  /** One change: the edit's key and its spells before and after. */
  public record SealedChange(String kind, String key, String json) {}
}
