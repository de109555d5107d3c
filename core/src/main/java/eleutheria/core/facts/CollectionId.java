package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a collection. */
public record CollectionId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.COLLECTION;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static CollectionId parse(String text) {
    return new CollectionId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
