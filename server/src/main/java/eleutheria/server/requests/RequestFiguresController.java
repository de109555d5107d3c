package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Reading;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.access.engine.Seen;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.RequestFigures;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.use.UseBook;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How requests have fared, for whoever may decide them on someone else's behalf. */
@RestController
class RequestFiguresController {
  private static final int LONGEST = 730;
  private static final int MOST_UNUSED = 50;

  private final World world;
  private final RequestStore requests;
  private final UseBook use;
  private final Clock clock;

  RequestFiguresController(World world, RequestStore requests, UseBook use, Clock clock) {
    this.use = use;
    this.world = world;
    this.requests = requests;
    this.clock = clock;
  }

  /**
   * Of all requests that the reader may decide on someone else's behalf, and of no others.
   *
   * @param days of how many days those are that were asked; all that are open count
   * @param open how many are open, by days since they were asked: under 1, 3, 7 and 14 days, and
   *     older
   * @param pace from asking to the last decision; null where too few were decided
   */
  record FiguresView(
      int days,
      List<Integer> open,
      int given,
      int refused,
      int withdrawn,
      int lapsed,
      int overtaken,
      @Nullable PaceView pace,
      List<StepFigures> steps,
      List<DeciderFigures> deciders,
      List<UnusedFigures> unused) {}

  /**
   * What was granted and is held for 60 days or longer, of people whose use the reader may see.
   *
   * @param unused how many of them have not used it in the last 60 days
   */
  record UnusedFigures(EntitlementRef entitlement, int granted, int unused) {}

  /**
   * @param as what made people decide
   */
  record StepFigures(String as, int decided, @Nullable PaceView took) {}

  /**
   * @param took null where they decided fewer than five
   * @param waiting how many wait for them now
   * @param oldestMinutes how long the one that waits longest has waited
   */
  record DeciderFigures(
      PersonLine who,
      int decided,
      @Nullable PaceView took,
      int waiting,
      long oldestMinutes,
      boolean slow) {}

  @GetMapping("/api/requests/figures")
  @Needs(Power.REQUESTS_STEP_IN)
  FiguresView figures(Viewer viewer, @RequestParam(defaultValue = "90") int days) {
    if (days < 1 || days > LONGEST) {
      throw Refusal.invalid(
          "figures.days", "days", "It is between 1 and %d days.".formatted(LONGEST));
    }
    AccessView access = world.whole().access();
    Instant now = clock.instant();
    List<AccessRequest> within =
        requests.since(now.minus(Duration.ofDays(days))).stream()
            .filter(r -> Deciders.maySteward(access, viewer.authority(), r.wish()))
            .toList();
    RequestFigures figures = RequestFigures.of(access, within, now);
    return new FiguresView(
        days,
        figures.open(),
        figures.given(),
        figures.refused(),
        figures.withdrawn(),
        figures.lapsed(),
        figures.overtaken(),
        PaceView.of(figures.pace()),
        figures.steps().stream()
            .map(
                s ->
                    new StepFigures(
                        RequestView.word(s.capacity()), s.decided(), PaceView.of(s.pace())))
            .toList(),
        figures.deciders().stream()
            .flatMap(
                d ->
                    access.directory().person(d.person()).stream()
                        .map(
                            person ->
                                new DeciderFigures(
                                    PersonLine.named(person),
                                    d.decided(),
                                    PaceView.of(d.pace()),
                                    d.waiting(),
                                    d.oldest().toMinutes(),
                                    d.slow())))
            .toList(),
        unused(viewer, within));
  }

  private List<UnusedFigures> unused(Viewer viewer, List<AccessRequest> within) {
    PortalView whole = world.whole();
    AccessView access = whole.access();
    Snapshot snapshot = ((EngineAccess) access).snapshot();
    Reading reading = new Reading(viewer.authority(), access.directory());
    int days = RequestFigures.UNUSED_DAYS;
    IntFunction<@Nullable RoaringBitmap> alone =
        use.unused(whole, snapshot, Seen.everything(snapshot), days);
    return RequestFigures.unused(
            access,
            within,
            use.daysAgo(days),
            (person, id) -> {
              RoaringBitmap people = alone.apply(snapshot.number(id));
              boolean known =
                  people != null
                      && access
                          .apps()
                          .entitlement(id)
                          .filter(e -> reading.seesUse(e.application(), person))
                          .isPresent();
              return known
                  ? Optional.of(people.contains(snapshot.number(person)))
                  : Optional.empty();
            })
        .stream()
        .limit(MOST_UNUSED)
        .flatMap(
            line ->
                access.apps().entitlement(line.entitlement()).stream()
                    .map(
                        e ->
                            new UnusedFigures(
                                EntitlementRef.of(access.apps(), e),
                                line.granted(),
                                line.unused())))
        .toList();
  }
}
