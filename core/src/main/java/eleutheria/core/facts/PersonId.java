package eleutheria.core.facts;

import java.util.Optional;
import java.util.UUID;

/** Identity of a person. */
public record PersonId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.PERSON;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static PersonId parse(String text) {
    return new PersonId(UUID.fromString(text));
  }

  /** The id that a text is, where it is one. */
  public static Optional<PersonId> read(String text) {
    try {
      return Optional.of(parse(text));
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  @Override
  public String toString() {
    return text();
  }
}
