package eleutheria.server.writing;

import eleutheria.core.facts.ObjectId;
import org.jspecify.annotations.Nullable;

/**
 * What a client hears of an act.
 *
 * @param position the ledger position at which it stands
 * @param result the new thing's id, or a count
 * @param edit its number in the draft that has gathered it; null where it is done, 0 where it is so
 *     already
 * @param foreseen what it would do, where that alone was asked; nothing is done then
 */
public record Receipt(
    long position, String result, @Nullable Integer edit, @Nullable ForeseenView foreseen) {
  public static Receipt of(Acts.Receipt<?> receipt) {
    return new Receipt(receipt.position(), told(receipt.result()), null, null);
  }

  /** Of something that a draft has gathered. */
  public static Receipt gathered(long position, @Nullable Object result, int edit) {
    return new Receipt(position, told(result), edit, null);
  }

  /** Of something that is only looked at. */
  public static Receipt foreseen(long position, ForeseenView foreseen) {
    return new Receipt(position, "", null, foreseen);
  }

  /** A result as a client reads it. */
  public static String told(@Nullable Object result) {
    return result instanceof ObjectId id ? id.value().toString() : String.valueOf(result);
  }
}
