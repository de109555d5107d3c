package eleutheria.core.facts;

import java.time.Duration;

/**
 * One yes that a request needs.
 *
 * @param days how long whoever decides it has before the request ends by itself, from {@value
 *     #SHORTEST} to {@value #LONGEST}
 */
public record RouteStep(Seat seat, int days) {
  public static final int SHORTEST = 1;

  public static final int LONGEST = 60;

  public Duration patience() {
    return Duration.ofDays(days);
  }
}
