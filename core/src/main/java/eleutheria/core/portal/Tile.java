package eleutheria.core.portal;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.TileId;
import java.time.Instant;

/**
 * A tile at a moment.
 *
 * @param audience who sees it, where it needs nothing
 * @param due whether its dates let it be shown now
 * @param begun when it was made
 * @param changed when it became what it is now; {@code begun} if it was never changed
 */
public record Tile(
    TileId id,
    FactValue.TileFace face,
    FactValue.Audience audience,
    boolean due,
    Instant begun,
    Instant changed) {
  public String name() {
    return face.name();
  }
}
