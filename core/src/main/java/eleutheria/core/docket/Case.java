package eleutheria.core.docket;

import eleutheria.core.access.SeparationRules;
import eleutheria.core.drafts.Draft;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RuleId;
import eleutheria.core.portal.Complaint;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.FormAnswer;
import eleutheria.core.suggestions.Suggestion;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One thing that waits for a decision. */
public sealed interface Case {
  /** By when it must be decided. */
  Instant due();

  /**
   * What makes cases alike, so that they may be decided together; null for what stands alone.
   * Whatever a decider would want to know of one alone is part of it.
   */
  @Nullable Likeness likeness();

  /** What cases must share to be decided together. */
  sealed interface Likeness {
    /**
     * @param form what its form was answered with, which whoever decides wants to have read
     * @param behalf as whose deputy it is decided; null for oneself
     * @param apart what separation rules would keep from it, that nobody has accepted
     */
    record OfRequest(
        EntitlementId entitlement,
        FactValue.Route route,
        int step,
        @Nullable LocalDate until,
        List<FormAnswer> form,
        boolean entitledAlready,
        @Nullable PersonId behalf,
        Set<Apart> apart)
        implements Likeness {}

    /**
     * @param mine whether the reader has suggested it themselves, and cannot decide on it
     */
    record OfSuggestion(String address, boolean mine) implements Likeness {}
  }

  /** A breach of a rule that a yes would bring, of whomever. */
  record Apart(RuleId rule, EntitlementId one, EntitlementId other) {}

  /** A request at a step that waits for this reader. */
  record Asked(
      AccessRequest request, int step, Deciders deciders, Instant due, @Nullable Likeness likeness)
      implements Case {}

  /** Someone leaves soon and owns things alone. */
  record Leaving(PersonId person, Instant due, int holdings, List<ObjectId> lone) implements Case {
    @Override
    public @Nullable Likeness likeness() {
      return null;
    }
  }

  /** Breaches of one separation rule that nobody has accepted. */
  record Breached(SeparationRules.Rule rule, int people, Instant due) implements Case {
    @Override
    public @Nullable Likeness likeness() {
      return null;
    }
  }

  /** An app that somebody has suggested. */
  record Suggested(Suggestion suggestion, Instant due, Likeness likeness) implements Case {}

  /** A problem with a tile. */
  record Reported(Complaint complaint, Instant due) implements Case {
    @Override
    public @Nullable Likeness likeness() {
      return null;
    }
  }

  /** The check of the ledger has found a difference. */
  record LedgerDiffers(Instant due, long entries, String why) implements Case {
    @Override
    public @Nullable Likeness likeness() {
      return null;
    }
  }

  /**
   * Something that the product should have done by itself, and has given up after many tries.
   *
   * @param id of it, among what is parked
   * @param what kind of thing
   * @param person whom it is for; null where it is about nobody
   * @param due when it was given up
   */
  record Parked(String id, String what, @Nullable PersonId person, Instant due, int attempts)
      implements Case {
    @Override
    public @Nullable Likeness likeness() {
      return null;
    }
  }

  /** A draft that waits for this reader's yes, or one of theirs that is on hold. */
  record Drafted(Draft draft, Instant due) implements Case {
    @Override
    public @Nullable Likeness likeness() {
      return null;
    }
  }
}
