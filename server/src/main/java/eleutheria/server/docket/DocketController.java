package eleutheria.server.docket;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.docket.Case;
import eleutheria.core.docket.Docket;
import eleutheria.core.drafts.Draft;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.AccessRequest;
import eleutheria.server.drafts.WaitingDrafts;
import eleutheria.server.ledger.LedgerTrust;
import eleutheria.server.parked.ParkedStore;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.state.World;
import eleutheria.server.suggestions.SuggestionStore;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What waits for a decision, and each case with its evidence. */
@RestController
class DocketController {
  private final World world;
  private final RequestStore requests;
  private final WaitingDrafts drafts;
  private final SuggestionStore suggestions;
  private final ComplaintStore complaints;
  private final LedgerTrust trust;
  private final ParkedStore parked;
  private final Clock clock;

  DocketController(
      World world,
      RequestStore requests,
      WaitingDrafts drafts,
      SuggestionStore suggestions,
      ComplaintStore complaints,
      LedgerTrust trust,
      ParkedStore parked,
      Clock clock) {
    this.world = world;
    this.requests = requests;
    this.drafts = drafts;
    this.suggestions = suggestions;
    this.complaints = complaints;
    this.trust = trust;
    this.parked = parked;
    this.clock = clock;
  }

  /**
   * @param forMe how many cases wait for this reader
   * @param all how many wait for anybody whom the reader could stand in for
   * @param folds in order of what is due; alike ones together
   */
  record DocketView(int forMe, int all, boolean mayStepIn, List<FoldView> folds, long position) {}

  /**
   * @param due by when it must be decided
   * @param cases one, or several that are alike
   */
  record FoldView(CaseKind kind, Instant due, List<CaseLine> cases) {}

  /**
   * @param id of the request, the draft, or the person who leaves
   * @param who the person it is about; null for a rule
   * @param what what they ask for; null where nobody asks for access
   * @param named the draft that waits for a yes or is on hold, the rule that is broken, the
   *     suggested app, the tile with a problem, or the kind of what is parked
   * @param lone how many things lack an owner, how many people break the rule, or how often it was
   *     tried
   */
  record CaseLine(
      String id,
      @Nullable PersonLine who,
      @Nullable EntitlementRef what,
      @Nullable String number,
      @Nullable LocalDate until,
      int holdings,
      int lone,
      @Nullable NamedCase named,
      boolean mine) {}

  /**
   * A draft, a separation rule, a suggested app, or a tile.
   *
   * @param stage of a draft: waiting for a yes, or held; of a rule: breached; suggested; reported
   */
  record NamedCase(String name, String stage) {}

  @GetMapping("/api/docket")
  @Needs(signedIn = true, desk = true)
  DocketView docket(Viewer viewer, @RequestParam(defaultValue = "false") boolean all) {
    AccessView access = world.whole().access();
    List<AccessRequest> open = requests.open();
    Instant now = clock.instant();
    List<Draft> waiting = drafts.of(viewer);
    SeparationRules rules = rules();
    Docket.Waits waits =
        new Docket.Waits(open, waiting, rules, suggestions.waiting(), complaints.waiting());
    List<Case> mine = new ArrayList<>(differing(viewer));
    mine.addAll(parked.cases(viewer.authority()));
    mine.addAll(Docket.of(access, waits, viewer.authority(), now, false));
    List<Case> every = new ArrayList<>(differing(viewer));
    every.addAll(parked.cases(viewer.authority()));
    every.addAll(Docket.of(access, waits, viewer.authority(), now, true));
    return new DocketView(
        mine.size(),
        every.size(),
        viewer.authority().has(Power.REQUESTS_STEP_IN),
        Docket.folded(all ? every : mine).stream().map(f -> fold(access, viewer, f)).toList(),
        world.position());
  }

  /** What the last check of the ledger found, first of all, for whoever reads all of it. */
  private List<Case> differing(Viewer viewer) {
    LedgerTrust.Difference found =
        viewer.authority().hasEverywhere(Power.LEDGER_READ) ? trust.difference() : null;
    return found == null
        ? List.of()
        : List.of(new Case.LedgerDiffers(found.at(), found.entries(), found.why()));
  }

  private static FoldView fold(AccessView access, Viewer viewer, List<Case> fold) {
    return new FoldView(
        switch (fold.getFirst()) {
          case Case.Asked c -> CaseKind.REQUEST;
          case Case.Leaving c -> CaseKind.LEAVING;
          case Case.Drafted c -> CaseKind.DRAFT;
          case Case.Breached c -> CaseKind.RULE;
          case Case.Suggested c -> CaseKind.SUGGESTION;
          case Case.Reported c -> CaseKind.COMPLAINT;
          case Case.LedgerDiffers c -> CaseKind.LEDGER;
          case Case.Parked c -> CaseKind.PARKED;
        },
        fold.getFirst().due(),
        fold.stream().map(c -> line(access, viewer, c)).toList());
  }

  private static CaseLine line(AccessView access, Viewer viewer, Case one) {
    return switch (one) {
      case Case.Asked c ->
          new CaseLine(
              c.request().id().value().toString(),
              person(access, c.request().asker()),
              access
                  .apps()
                  .entitlement(c.request().entitlement())
                  .map(e -> EntitlementRef.of(access.apps(), e))
                  .orElseThrow(),
              c.request().name(),
              c.request().lastDay(),
              0,
              0,
              null,
              c.deciders().people().contains(viewer.person()));
      case Case.Leaving c ->
          new CaseLine(
              c.person().value().toString(),
              person(access, c.person()),
              null,
              null,
              null,
              c.holdings(),
              c.lone().size(),
              null,
              true);
      case Case.Breached c ->
          new CaseLine(
              c.rule().id().value().toString(),
              null,
              null,
              null,
              null,
              0,
              c.people(),
              new NamedCase(c.rule().terms().name(), "breached"),
              true);
      case Case.Suggested c ->
          new CaseLine(
              c.suggestion().id().value().toString(),
              person(access, c.suggestion().by()),
              null,
              c.suggestion().label(),
              null,
              0,
              0,
              new NamedCase(c.suggestion().name(), "suggested"),
              true);
      case Case.Reported c ->
          new CaseLine(
              c.complaint().id().value().toString(),
              person(access, c.complaint().by()),
              null,
              c.complaint().label(),
              null,
              0,
              0,
              new NamedCase(c.complaint().tileName(), "reported"),
              true);
      case Case.LedgerDiffers c ->
          new CaseLine(
              "difference",
              null,
              null,
              null,
              null,
              (int) c.entries(),
              0,
              new NamedCase(c.why(), "differs"),
              true);
      case Case.Parked c ->
          new CaseLine(
              c.id(),
              c.person() == null ? null : person(access, c.person()),
              null,
              null,
              null,
              0,
              c.attempts(),
              new NamedCase(c.what(), "parked"),
              true);
      case Case.Drafted c ->
          new CaseLine(
              c.draft().id().value().toString(),
              person(
                  access,
                  c.draft().plan() == null ? c.draft().holder() : c.draft().plan().publisher()),
              null,
              null,
              null,
              0,
              0,
              new NamedCase(c.draft().name(), c.draft().stage().word()),
              true);
    };
  }

  private static PersonLine person(AccessView access, PersonId id) {
    return access.directory().person(id).map(PersonLine::of).orElseThrow();
  }

  private SeparationRules rules() {
    return world.look((facts, whole) -> SeparationRules.of(facts, whole.access().at()));
  }
}
