package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a grant. */
public record GrantId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.GRANT;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static GrantId parse(String text) {
    return new GrantId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
