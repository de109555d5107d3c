package eleutheria.core.facts;

import java.util.List;

/** The result of {@link Facts#apply}: the moves, or why there are none. */
public sealed interface Applied {
  record Moves(List<Move> moves) implements Applied {}

  record Clashes(List<Clash> clashes) implements Applied {}
}
