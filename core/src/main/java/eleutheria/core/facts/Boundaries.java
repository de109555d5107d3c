package eleutheria.core.facts;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The moments at which facts will begin or end by themselves. */
public final class Boundaries {
  private Boundaries() {}

  /** A fact that changes by itself at a moment. */
  public record Boundary(Instant at, FactKey key) {}

  /** The boundaries that these moves of an act at {@code instant} set. */
  public static List<Boundary> set(List<Move> moves, Instant instant) {
    List<Boundary> found = new ArrayList<>();
    for (Move move : moves) {
      switch (move) {
        case Move.Opened opened -> {
          if (opened.spell().from().isAfter(instant)) {
            found.add(new Boundary(opened.spell().from(), move.key()));
          }
          end(found, move.key(), opened.spell().until(), instant);
        }
        case Move.Ended ended -> end(found, move.key(), ended.until(), instant);
        case Move.Dropped dropped -> {}
      }
    }
    return found;
  }

  private static void end(List<Boundary> found, FactKey key, Instant until, Instant instant) {
    if (until.isAfter(instant) && until.isBefore(Moments.FOREVER)) {
      found.add(new Boundary(until, key));
    }
  }

  /** Whether a boundary that was set once still stands: its end may have been moved since. */
  public static boolean stands(Facts facts, Boundary boundary) {
    return facts.spells(boundary.key()).stream()
        .anyMatch(s -> s.from().equals(boundary.at()) || s.until().equals(boundary.at()));
  }
}
