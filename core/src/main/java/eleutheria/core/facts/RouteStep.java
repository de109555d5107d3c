package eleutheria.core.facts;

import java.time.Duration;

/**
 * One yes that a request needs.
 *
 * @param days how long whoever decides it has before the request ends by itself, from {@value
 *     #SHORTEST} to {@value #LONGEST}
 * @param onlyIf a filter (RFC 7644, section 3.4.2.2) over the answers to the request form and the
 *     asker's attributes; empty where the step is always needed. A request keeps the steps that it
 *     needs, without it.
 */
public record RouteStep(Seat seat, int days, String onlyIf) {
  public static final int SHORTEST = 1;

  public static final int LONGEST = 60;

  /** A step that is always needed. */
  public RouteStep(Seat seat, int days) {
    this(seat, days, "");
  }

  public boolean always() {
    return onlyIf.isEmpty();
  }

  public Duration patience() {
    return Duration.ofDays(days);
  }
}
