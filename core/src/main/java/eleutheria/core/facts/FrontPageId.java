package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a front page. */
public record FrontPageId(UUID value) implements ObjectId {
  /** The front page that everyone meets for whom there is no other. */
  public static final FrontPageId EVERYONE =
      new FrontPageId(new UUID(0x0000_0000_0000_7000L, 0x8000_0000_0000_0101L));

  @Override
  public ObjectKind kind() {
    return ObjectKind.FRONT_PAGE;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static FrontPageId parse(String text) {
    return new FrontPageId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
