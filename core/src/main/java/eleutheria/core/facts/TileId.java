package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a tile. */
public record TileId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.TILE;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static TileId parse(String text) {
    return new TileId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
