package eleutheria.core.facts;

import java.time.Instant;

/** A value and the time it is true: {@code [from, until)} in UTC. */
public record Spell(FactValue value, Instant from, Instant until) {
  /**
   * @throws IllegalArgumentException if the time is empty
   */
  public Spell {
    if (!from.isBefore(until)) {
      throw new IllegalArgumentException("empty time: " + from + " until " + until);
    }
  }

  public boolean at(Instant moment) {
    return !moment.isBefore(from) && moment.isBefore(until);
  }

  public Spell endingAt(Instant end) {
    return new Spell(value, from, end);
  }
}
