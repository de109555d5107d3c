package eleutheria.core.facts;

import java.util.UUID;

/** Identity of an entitlement. */
public record EntitlementId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.ENTITLEMENT;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static EntitlementId parse(String text) {
    return new EntitlementId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
