package eleutheria.core.facts;

import java.util.UUID;

/** Identity of an access request. */
public record RequestId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.REQUEST;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static RequestId parse(String text) {
    return new RequestId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
