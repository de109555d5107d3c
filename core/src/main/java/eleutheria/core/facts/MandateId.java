package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a mandate. */
public record MandateId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.MANDATE;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static MandateId parse(String text) {
    return new MandateId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
