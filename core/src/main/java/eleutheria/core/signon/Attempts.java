package eleutheria.core.signon;

import java.time.Duration;
import java.time.Instant;

/**
 * How guessing is slowed without locking anyone out. Failures are counted for the pair of account
 * and address, for the address, and for the account over addresses from which it never signed in;
 * so a stranger who fails on purpose slows strangers, and not the colleague at the usual place.
 */
public final class Attempts {
  /** Failures of one account from one address before waiting begins. */
  public static final int FREE = 5;

  /** Failures from one address, over all accounts, in {@link #WINDOW}. */
  public static final int PER_ADDRESS = 60;

  /** Failures of one account from addresses unknown to it, in {@link #WINDOW}. */
  public static final int PER_ACCOUNT = 100;

  public static final Duration WINDOW = Duration.ofMinutes(15);

  private static final Duration FIRST_WAIT = Duration.ofSeconds(10);
  private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);

  private Attempts() {}

  /**
   * What is on record when someone tries.
   *
   * @param pair failures of this account from this address since the last success there
   * @param last when the last of them was
   * @param address failures from this address in the window
   * @param account failures of this account in the window from addresses unknown to it
   * @param known whether this account has signed in from this address before
   */
  public record Record(int pair, Instant last, int address, int account, boolean known) {}

  /** How long to wait before this try may be made; zero if at once. */
  public static Duration wait(Record record, Instant now) {
    Duration wait = Duration.ZERO;
    if (record.pair() >= FREE) {
      int doublings = Math.min(record.pair() - FREE, 12);
      Duration pause = FIRST_WAIT.multipliedBy(1L << doublings);
      if (pause.compareTo(LONGEST_WAIT) > 0) {
        pause = LONGEST_WAIT;
      }
      Duration left = Duration.between(now, record.last().plus(pause));
      wait = left.isNegative() ? Duration.ZERO : left;
    }
    boolean flooded =
        !record.known() && (record.address() >= PER_ADDRESS || record.account() >= PER_ACCOUNT);
    return flooded && wait.compareTo(WINDOW) < 0 ? WINDOW : wait;
  }
}
