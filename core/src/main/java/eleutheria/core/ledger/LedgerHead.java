package eleutheria.core.ledger;

import java.time.Instant;

/** The newest entry: its position (0 before the first), its hash, its instant. */
public record LedgerHead(long position, String hash, Instant instant) {
  /** What stands before the first entry. */
  public static final LedgerHead NONE = new LedgerHead(0, "0".repeat(64), Instant.EPOCH);
}
