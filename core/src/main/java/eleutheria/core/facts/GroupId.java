package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a group. */
public record GroupId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.GROUP;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static GroupId parse(String text) {
    return new GroupId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
