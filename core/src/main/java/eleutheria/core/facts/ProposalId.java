package eleutheria.core.facts;

import java.util.UUID;

/** Identity of an app that somebody has put forward. */
public record ProposalId(UUID value) implements ObjectId {
  @Override
  public ObjectKind kind() {
    return ObjectKind.PROPOSAL;
  }

  /**
   * @throws IllegalArgumentException if {@code text} is not a UUID
   */
  public static ProposalId parse(String text) {
    return new ProposalId(UUID.fromString(text));
  }

  @Override
  public String toString() {
    return text();
  }
}
