package eleutheria.server.holdings;

import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.refs.SubjectView;
import io.swagger.v3.oas.annotations.media.DiscriminatorMapping;
import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A hint as it is listed, each kind with the numbers it rests on. */
@Schema(
    oneOf = {
      HintLine.UnusedHint.class,
      HintLine.RuleHint.class,
      HintLine.UnlikeHint.class,
      HintLine.IdleHint.class,
      HintLine.SameHint.class
    },
    discriminatorProperty = "kind",
    discriminatorMapping = {
      @DiscriminatorMapping(value = "UNUSED", schema = HintLine.UnusedHint.class),
      @DiscriminatorMapping(value = "RULE", schema = HintLine.RuleHint.class),
      @DiscriminatorMapping(value = "UNLIKE", schema = HintLine.UnlikeHint.class),
      @DiscriminatorMapping(value = "IDLE", schema = HintLine.IdleHint.class),
      @DiscriminatorMapping(value = "SAME", schema = HintLine.SameHint.class)
    })
sealed interface HintLine {
  /** In the order in which they are told. */
  enum Kind {
    UNUSED,
    RULE,
    UNLIKE,
    IDLE,
    SAME
  }

  Kind kind();

  /** Stays the same while it is about the same. */
  String key();

  /** What is the same of every hint: what its draft gives and ends, and whether it is dismissed. */
  Draft draft();

  /**
   * What a hint offers.
   *
   * @param gives what its draft gives
   * @param ends grants that its draft ends
   */
  record Draft(List<Give> gives, List<String> ends) {}

  /** A grant that a draft would give. */
  record Give(String entitlement, String kind, String subject) {}

  /** Why it was dismissed. */
  record Aside(String by, Instant at, String reason) {}

  @Nullable Aside aside();

  /**
   * Nobody uses it.
   *
   * @param people how many hold it
   */
  record UnusedHint(
      @Schema(allowableValues = "UNUSED") Kind kind,
      String key,
      EntitlementRef entitlement,
      int people,
      Draft draft,
      @Nullable Aside aside)
      implements HintLine {}

  /**
   * Many have it each by a grant of their own.
   *
   * @param filter that could give it (RFC 7644, section 3.4.2.2)
   * @param filterWords the filter in words
   * @param people whom it fits, who all hold it
   */
  record RuleHint(
      @Schema(allowableValues = "RULE") Kind kind,
      String key,
      EntitlementRef entitlement,
      String filter,
      String filterWords,
      int people,
      Draft draft,
      @Nullable Aside aside)
      implements HintLine {}

  /**
   * Somebody holds what their peers do not.
   *
   * @param peers how many others of the same unit and title there are
   * @param alike how many of them hold it
   */
  record UnlikeHint(
      @Schema(allowableValues = "UNLIKE") Kind kind,
      String key,
      EntitlementRef entitlement,
      PersonLine person,
      int peers,
      int alike,
      Draft draft,
      @Nullable Aside aside)
      implements HintLine {}

  /**
   * A grant changes nothing for anyone.
   *
   * @param subject whom the grant covers
   * @param people how many those are
   */
  record IdleHint(
      @Schema(allowableValues = "IDLE") Kind kind,
      String key,
      EntitlementRef entitlement,
      SubjectView subject,
      int people,
      Draft draft,
      @Nullable Aside aside)
      implements HintLine {}

  /**
   * Two groups have the same members.
   *
   * @param groups both, the one that stays first
   * @param people how many members each has
   */
  record SameHint(
      @Schema(allowableValues = "SAME") Kind kind,
      String key,
      List<PersonView.GroupRef> groups,
      int people,
      Draft draft,
      @Nullable Aside aside)
      implements HintLine {}
}
