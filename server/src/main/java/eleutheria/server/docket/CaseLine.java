package eleutheria.server.docket;

import eleutheria.core.access.AccessView;
import eleutheria.core.docket.Case;
import eleutheria.core.facts.PersonId;
import eleutheria.core.requests.Stage;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import io.swagger.v3.oas.annotations.media.DiscriminatorMapping;
import io.swagger.v3.oas.annotations.media.Schema;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/** A case as the docket lists it, each kind with what is told of it in a line. */
@Schema(
    oneOf = {
      CaseLine.AskedLine.class,
      CaseLine.LeavingLine.class,
      CaseLine.DraftedLine.class,
      CaseLine.BreachedLine.class,
      CaseLine.SuggestedLine.class,
      CaseLine.ReportedLine.class,
      CaseLine.DifferingLine.class,
      CaseLine.ParkedLine.class
    },
    discriminatorProperty = "kind",
    discriminatorMapping = {
      @DiscriminatorMapping(value = "REQUEST", schema = CaseLine.AskedLine.class),
      @DiscriminatorMapping(value = "LEAVING", schema = CaseLine.LeavingLine.class),
      @DiscriminatorMapping(value = "DRAFT", schema = CaseLine.DraftedLine.class),
      @DiscriminatorMapping(value = "RULE", schema = CaseLine.BreachedLine.class),
      @DiscriminatorMapping(value = "SUGGESTION", schema = CaseLine.SuggestedLine.class),
      @DiscriminatorMapping(value = "COMPLAINT", schema = CaseLine.ReportedLine.class),
      @DiscriminatorMapping(value = "LEDGER", schema = CaseLine.DifferingLine.class),
      @DiscriminatorMapping(value = "PARKED", schema = CaseLine.ParkedLine.class)
    })
sealed interface CaseLine {
  CaseKind kind();

  /** Of the request, the draft, the rule and so on; it opens the case. */
  String id();

  /**
   * Somebody asks for access.
   *
   * @param who whom it is for
   * @param asker who has asked for them; null where they have themselves
   * @param mine whether it waits for this reader
   * @param behalf as whose deputy they decide it; null for themselves
   * @param askedBack whether it waits for an answer of who asked
   */
  record AskedLine(
      @Schema(allowableValues = "REQUEST") CaseKind kind,
      String id,
      PersonLine who,
      @Nullable String asker,
      EntitlementRef what,
      String number,
      @Nullable LocalDate until,
      boolean mine,
      @Nullable String behalf,
      boolean askedBack)
      implements CaseLine {}

  /**
   * Somebody leaves.
   *
   * @param holdings that end by themselves
   * @param lone how many things will lack an owner
   */
  record LeavingLine(
      @Schema(allowableValues = "LEAVING") CaseKind kind,
      String id,
      PersonLine who,
      int holdings,
      int lone)
      implements CaseLine {}

  /**
   * A draft waits for a yes, or is on hold.
   *
   * @param who holds it, or is to publish it
   */
  record DraftedLine(
      @Schema(allowableValues = "DRAFT") CaseKind kind,
      String id,
      PersonLine who,
      String name,
      String stage)
      implements CaseLine {}

  /**
   * A separation rule is broken.
   *
   * @param people how many break it
   */
  record BreachedLine(
      @Schema(allowableValues = "RULE") CaseKind kind, String id, String name, int people)
      implements CaseLine {}

  /** Somebody suggests an app. */
  record SuggestedLine(
      @Schema(allowableValues = "SUGGESTION") CaseKind kind,
      String id,
      PersonLine who,
      String number,
      String name)
      implements CaseLine {}

  /**
   * Somebody reports a problem with a tile.
   *
   * @param name the tile's
   */
  record ReportedLine(
      @Schema(allowableValues = "COMPLAINT") CaseKind kind,
      String id,
      PersonLine who,
      String number,
      String name)
      implements CaseLine {}

  /**
   * The check of the ledger has found something.
   *
   * @param why what is wrong first
   * @param entries up to which entry was checked
   */
  record DifferingLine(
      @Schema(allowableValues = "LEDGER") CaseKind kind, String id, String why, long entries)
      implements CaseLine {}

  /**
   * The product has given something up.
   *
   * @param who whom it is for; null where it is about nobody
   * @param task which kind of errand, or of what the clock does
   * @param attempts how often it was tried
   */
  record ParkedLine(
      @Schema(allowableValues = "PARKED") CaseKind kind,
      String id,
      @Nullable PersonLine who,
      String task,
      int attempts)
      implements CaseLine {}

  static CaseLine of(AccessView access, PersonId reader, Case one) {
    return switch (one) {
      case Case.Asked c ->
          new AskedLine(
              CaseKind.REQUEST,
              c.request().id().value().toString(),
              person(access, c.request().person()),
              c.request().wish().forSelf() ? null : name(access, c.request().asker()),
              access
                  .apps()
                  .entitlement(c.request().entitlement())
                  .map(e -> EntitlementRef.of(access.apps(), e))
                  .orElseThrow(),
              c.request().name(),
              c.request().lastDay(),
              c.deciders().include(reader),
              name(access, c.deciders().behalf(reader)),
              c.request().stage() instanceof Stage.AskedBack);
      case Case.Leaving c ->
          new LeavingLine(
              CaseKind.LEAVING,
              c.person().value().toString(),
              person(access, c.person()),
              c.holdings(),
              c.lone().size());
      case Case.Drafted c ->
          new DraftedLine(
              CaseKind.DRAFT,
              c.draft().id().value().toString(),
              person(
                  access,
                  c.draft().plan() == null ? c.draft().holder() : c.draft().plan().publisher()),
              c.draft().name(),
              c.draft().stage().word());
      case Case.Breached c ->
          new BreachedLine(
              CaseKind.RULE, c.rule().id().value().toString(), c.rule().terms().name(), c.people());
      case Case.Suggested c ->
          new SuggestedLine(
              CaseKind.SUGGESTION,
              c.suggestion().id().value().toString(),
              person(access, c.suggestion().by()),
              c.suggestion().label(),
              c.suggestion().name());
      case Case.Reported c ->
          new ReportedLine(
              CaseKind.COMPLAINT,
              c.complaint().id().value().toString(),
              person(access, c.complaint().by()),
              c.complaint().label(),
              c.complaint().tileName());
      case Case.LedgerDiffers c ->
          new DifferingLine(CaseKind.LEDGER, "difference", c.why(), c.entries());
      case Case.Parked c ->
          new ParkedLine(
              CaseKind.PARKED,
              c.id(),
              c.person() == null ? null : person(access, c.person()),
              c.what(),
              c.attempts());
    };
  }

  private static PersonLine person(AccessView access, PersonId id) {
    return access.directory().person(id).map(PersonLine::of).orElseThrow();
  }

  private static @Nullable String name(AccessView access, @Nullable PersonId id) {
    return id == null
        ? null
        : access.directory().person(id).map(p -> p.name().displayed()).orElse(null);
  }
}
