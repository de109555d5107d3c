package eleutheria.server.signon;

import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Hashes passwords with Argon2id (RFC 9106): 19 MiB, 2 passes, 1 lane. Each hash takes that memory
 * and a core for some 50 ms, so two are made at once and the others wait in line; a line that is
 * too long says so instead of growing.
 */
@Component
public class Passwords {
  private static final int AT_ONCE = 2;
  private static final int LONGEST_LINE = 100;
  private static final int LONGEST_WAIT_SECONDS = 10;

  private final Argon2PasswordEncoder encoder = new Argon2PasswordEncoder(16, 32, 1, 19_456, 2);
  private final Semaphore places = new Semaphore(AT_ONCE, true);
  private final AtomicInteger waiting = new AtomicInteger();
  private final String nobodys = encoder.encode("a password that belongs to nobody");

  /** So many wait that one more is turned away. */
  public static final class Busy extends RuntimeException {
    private final int waiting;

    Busy(int waiting) {
      super(waiting + " wait", null, false, false);
      this.waiting = waiting;
    }

    public int waiting() {
      return waiting;
    }
  }

  /** Does something in one of the two places, when it is this caller's turn. */
  <T> T inTurn(Supplier<T> work) {
    int line = waiting.incrementAndGet();
    try {
      if (line > LONGEST_LINE || !places.tryAcquire(LONGEST_WAIT_SECONDS, TimeUnit.SECONDS)) {
        throw new Busy(line - 1);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Busy(line - 1);
    } finally {
      waiting.decrementAndGet();
    }
    try {
      return work.get();
    } finally {
      places.release();
    }
  }

  public String hash(String password) {
    return inTurn(() -> encoder.encode(password));
  }

  /** Only inside {@link #inTurn}. */
  boolean matches(String password, String hash) {
    return encoder.matches(password, hash);
  }

  /** Takes as long as a real comparison, so that time does not tell which accounts there are. */
  void matchNobody(String password) {
    encoder.matches(password, nobodys);
  }
}
