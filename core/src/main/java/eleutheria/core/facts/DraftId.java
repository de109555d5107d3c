package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a draft. */
public record DraftId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.DRAFT;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static DraftId parse(String text) {
    return new DraftId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
