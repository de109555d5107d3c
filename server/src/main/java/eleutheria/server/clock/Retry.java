package eleutheria.server.clock;

import java.time.Duration;
import java.util.concurrent.ThreadLocalRandom;

/**
 * How what has failed is tried again: after 10 s, 20 s, 40 s … at most 6 h, each a quarter shorter
 * or longer, so that what has failed together does not come back together. After twelve tries it is
 * parked.
 */
public final class Retry {
  private static final int MOST_TRIES = 12;
  private static final long FIRST = 10;
  private static final long LONGEST = Duration.ofHours(6).toSeconds();
  private static final int LONGEST_ERROR = 300;

  private Retry() {}

  /**
   * @param attempts how often it has failed, this time included
   */
  public static boolean parks(int attempts) {
    return attempts >= MOST_TRIES;
  }

  public static Duration pause(int attempts) {
    double seconds = Math.min(LONGEST, FIRST << Math.min(attempts - 1, 12));
    return Duration.ofMillis(
        (long) (1000 * seconds * ThreadLocalRandom.current().nextDouble(0.75, 1.25)));
  }

  /** What is kept of what went wrong: its kind and its words, which name no secret. */
  public static String error(Throwable failed) {
    String text = failed.getClass().getSimpleName() + ": " + failed.getMessage();
    return text.substring(0, Math.min(LONGEST_ERROR, text.length()));
  }
}
