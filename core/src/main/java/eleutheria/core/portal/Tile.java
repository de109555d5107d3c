package eleutheria.core.portal;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.TileId;

/** A tile at a moment. */
public record Tile(TileId id, FactValue.TileFace face) {
  public String name() {
    return face.name();
  }
}
