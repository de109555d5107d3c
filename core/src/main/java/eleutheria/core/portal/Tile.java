package eleutheria.core.portal;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.TileId;

/**
 * A tile at a moment.
 *
 * @param audience who sees it, where it needs nothing
 * @param due whether its dates let it be shown now
 */
public record Tile(TileId id, FactValue.TileFace face, FactValue.Audience audience, boolean due) {
  public String name() {
    return face.name();
  }
}
