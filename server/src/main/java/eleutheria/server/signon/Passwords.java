package eleutheria.server.signon;

import java.time.Duration;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Hashes passwords with Argon2id (RFC 9106): 19 MiB, 2 passes, 1 lane. Each hash takes that memory
 * and a core for some 50 ms, so two are made at once and the others wait in line; a line that is
 * too long says so instead of growing. They have threads of their own: on those that answer
 * requests, two hashes would keep everybody waiting until one is done.
 */
@Component
public class Passwords {
  private static final int AT_ONCE = 2;
  private static final int LONGEST_LINE = 100;
  private static final Duration LONGEST_WAIT = Duration.ofSeconds(20);

  private final Argon2PasswordEncoder encoder = new Argon2PasswordEncoder(16, 32, 1, 19_456, 2);
  private final ThreadPoolExecutor hashers =
      new ThreadPoolExecutor(
          AT_ONCE,
          AT_ONCE,
          1,
          TimeUnit.MINUTES,
          new ArrayBlockingQueue<>(LONGEST_LINE),
          Thread.ofPlatform().name("hasher-", 1).daemon().factory());
  private final String nobodys = encoder.encode("a password that belongs to nobody");

  Passwords() {
    hashers.allowCoreThreadTimeOut(true);
  }

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
    long asked = System.nanoTime();
    try {
      return hashers
          .submit(
              () -> {
                if (System.nanoTime() - asked > LONGEST_WAIT.toNanos()) {
                  throw new Busy(hashers.getQueue().size());
                }
                return work.get();
              })
          .get();
    } catch (RejectedExecutionException e) {
      throw new Busy(hashers.getQueue().size());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Busy(hashers.getQueue().size());
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException refused) {
        throw refused;
      }
      throw new IllegalStateException(e.getCause());
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
