package eleutheria.server.departures;

import eleutheria.core.access.AccessView;
import eleutheria.core.docket.Case;
import eleutheria.core.docket.Docket;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.OwnedThing;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Someone whose last day is near, as a case on the docket. */
@RestController
class LeavingController {
  private final World world;
  private final Clock clock;

  LeavingController(World world, Clock clock) {
    this.world = world;
    this.clock = clock;
  }

  /**
   * @param lone what they own and nobody else who is active owns beside
   */
  record LeavingCase(
      PersonLine who, Instant at, int holdings, List<OwnedThing> lone, long position) {}

  @GetMapping("/api/docket/leaving/{id}")
  @Needs(Power.DEPARTURES_RUN)
  LeavingCase leaving(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    AccessView access = whole.access();
    return Docket.of(access, Docket.Waits.of(List.of()), viewer.authority(), clock.instant(), false)
        .stream()
        .filter(c -> c instanceof Case.Leaving l && l.person().equals(new PersonId(id)))
        .map(c -> (Case.Leaving) c)
        .findFirst()
        .map(
            c ->
                new LeavingCase(
                    person(access, c.person()),
                    c.due(),
                    c.holdings(),
                    c.lone().stream().map(o -> OwnedThing.of(whole, o)).toList(),
                    world.position()))
        .orElseThrow(() -> Refusal.of(Problem.absent("case")));
  }

  private static PersonLine person(AccessView access, PersonId id) {
    return access.directory().person(id).map(PersonLine::of).orElseThrow();
  }
}
