package eleutheria.core.facts;

import java.util.UUID;

/** Identity of an application. */
public record ApplicationId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.APPLICATION;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static ApplicationId parse(String text) {
    return new ApplicationId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
