package eleutheria.server.web;

import eleutheria.core.ledger.LedgerChain;
import org.jspecify.annotations.Nullable;

/**
 * What somebody sends with an act so that sending it again does nothing more: the header {@code
 * Idempotency-Key}, 1 to 80 printable ASCII characters. An endpoint that takes it answers a repeat
 * with what it answered first.
 *
 * @param value null where none was sent
 */
public record IdempotencyKey(@Nullable String value) {
  public static final String HEADER = "Idempotency-Key";

  /** The key of one part of what was sent, so that each part is done once. */
  public @Nullable String of(Object part) {
    return value == null ? null : LedgerChain.hash(value + " " + part);
  }
}
