package eleutheria.server.web;

import eleutheria.core.facts.ObjectId;
import eleutheria.server.ledger.Acts;

/**
 * What a client hears of an act.
 *
 * @param position the ledger position at which it stands
 * @param result the new thing's id, or a count
 */
public record Receipt(long position, String result) {
  public static Receipt of(Acts.Receipt<?> receipt) {
    Object result = receipt.result();
    return new Receipt(
        receipt.position(),
        result instanceof ObjectId id ? id.value().toString() : String.valueOf(result));
  }
}
