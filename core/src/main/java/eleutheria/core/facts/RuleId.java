package eleutheria.core.facts;

import java.util.UUID;

/** Identity of a separation rule. */
public record RuleId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.RULE;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static RuleId parse(String text) {
    return new RuleId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
