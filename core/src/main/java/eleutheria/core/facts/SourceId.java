package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a source. */
public record SourceId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.SOURCE;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static SourceId parse(String text) {
    return new SourceId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
