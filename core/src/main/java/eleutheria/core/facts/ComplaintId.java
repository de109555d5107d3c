package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a problem that somebody has reported. */
public record ComplaintId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.COMPLAINT;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static ComplaintId parse(String text) {
    return new ComplaintId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
