package eleutheria.core.portal;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Outcome;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;

/** Says the whole order of a collection at once. */
public final class Arranging {
  private Arranging() {}

  public static Outcome<CollectionId> whole(
      Moment m, CollectionId id, List<TileId> wanted, Predicate<TileId> offered) {
    return CollectionDecisions.arrange(m, id, moves(m, id, wanted, offered));
  }

  static List<Placing<TileId, FactValue.Place>> moves(
      Moment m, CollectionId id, List<TileId> wanted, Predicate<TileId> offered) {
    Map<TileId, FactValue.Place> present = new HashMap<>();
    PortalView.at(m)
        .collection(id)
        .orElseThrow()
        .places()
        .forEach(p -> present.put(p.tile(), p.place()));
    List<Placing<TileId, FactValue.Place>> moves = new ArrayList<>();
    present.forEach(
        (tile, place) -> {
          if (!wanted.contains(tile)) {
            moves.add(new Placing<>(tile, place, null));
          }
        });
    TileId last = null;
    for (TileId tile : wanted) {
      moves.add(
          new Placing<>(tile, present.get(tile), new Placing.Spot<>(last, offered.test(tile))));
      last = tile;
    }
    return moves;
  }
}
