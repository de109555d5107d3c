package eleutheria.server.docket;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.docket.Case;
import eleutheria.core.docket.Docket;
import eleutheria.core.mandates.Power;
import eleutheria.server.drafts.WaitingDrafts;
import eleutheria.server.ledger.LedgerTrust;
import eleutheria.server.parked.ParkedStore;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.state.World;
import eleutheria.server.suggestions.SuggestionStore;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Everything that waits for somebody, from each capability. */
@Component
class Waiting {
  private final World world;
  private final RequestStore requests;
  private final WaitingDrafts drafts;
  private final SuggestionStore suggestions;
  private final ComplaintStore complaints;
  private final LedgerTrust trust;
  private final ParkedStore parked;
  private final Clock clock;

  Waiting(
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
   * @param mine what waits for this reader
   * @param all what waits for anybody whom the reader could stand in for
   */
  record Cases(List<Case> mine, List<Case> all) {}

  /** As of one state, so that every case can be told of it. */
  Cases of(Viewer viewer, AccessView access) {
    Docket.Waits waits =
        new Docket.Waits(
            requests.open(),
            drafts.of(viewer),
            world.look((facts, whole) -> SeparationRules.of(facts, whole.access().at())),
            suggestions.waiting(),
            complaints.waiting());
    Instant now = clock.instant();
    List<Case> first = new ArrayList<>(differing(viewer));
    first.addAll(parked.cases(viewer.authority()));
    List<Case> mine = new ArrayList<>(first);
    mine.addAll(Docket.of(access, waits, viewer.authority(), now, false));
    List<Case> all = new ArrayList<>(first);
    all.addAll(Docket.of(access, waits, viewer.authority(), now, true));
    return new Cases(mine, all);
  }

  /** What the last check of the ledger found, first of all, for whoever reads all of it. */
  private List<Case> differing(Viewer viewer) {
    LedgerTrust.Difference found =
        viewer.authority().hasEverywhere(Power.LEDGER_READ) ? trust.difference() : null;
    return found == null
        ? List.of()
        : List.of(new Case.LedgerDiffers(found.at(), found.entries(), found.why()));
  }
}
