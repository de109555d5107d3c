package eleutheria.core.facts;

import java.util.UUID;

/** Identity of an app that somebody has suggested. */
public record SuggestionId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.SUGGESTION;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static SuggestionId parse(String text) {
    return new SuggestionId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
