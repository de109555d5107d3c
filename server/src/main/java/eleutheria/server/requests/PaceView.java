package eleutheria.server.requests;

import eleutheria.core.requests.Pace;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * How long decisions took.
 *
 * @param decided how many there were
 * @param halfMinutes within how many minutes half of them were made
 * @param mostMinutes within how many minutes nine in ten of them were made
 */
record PaceView(int decided, long halfMinutes, long mostMinutes) {
  static @Nullable PaceView of(@Nullable Pace pace) {
    return pace == null
        ? null
        : new PaceView(pace.decided(), minutes(pace.half()), minutes(pace.most()));
  }

  /** Rounded up, so that "within" is true. */
  private static long minutes(Duration took) {
    return Math.ceilDiv(took.toMillis(), Duration.ofMinutes(1).toMillis());
  }
}
