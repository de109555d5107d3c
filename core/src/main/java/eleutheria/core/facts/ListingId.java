package eleutheria.core.facts;

import java.util.UUID;

/** Identity of an entry of the approved list. */
public record ListingId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.LISTING;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static ListingId parse(String text) {
    return new ListingId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
