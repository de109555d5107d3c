package eleutheria.core.drafts;

import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A named set of wanted changes, without its edits.
 *
 * @param holder who works on it
 * @param shared whether colleagues may see it, comment on it and take it over
 * @param version counts whatever changes in it
 * @param plan how it is to be published, or was; null before
 * @param heldWhy why it is on hold; null otherwise
 * @param position the ledger position at which it was published
 * @param reverts the position of what it reverts; null if it is no such draft
 */
public record Draft(
    DraftId id,
    String name,
    PersonId holder,
    PersonId openedBy,
    Instant openedAt,
    DraftStage stage,
    boolean shared,
    long version,
    @Nullable Plan plan,
    @Nullable String heldWhy,
    @Nullable Long position,
    @Nullable Long reverts) {

  /**
   * @param publisher whose power it stands on, also where the clock or somebody else says yes
   * @param at when; null for at once
   * @param revert when it puts itself back; null if it does not
   * @param tell whether those who gain or lose get a mail
   * @param seen the digest of what the publisher has seen
   */
  public record Plan(
      PersonId publisher,
      String reason,
      @Nullable Instant at,
      @Nullable Instant revert,
      boolean tell,
      String seen) {}
}
