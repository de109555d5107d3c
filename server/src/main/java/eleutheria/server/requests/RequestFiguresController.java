package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.RequestFigures;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How requests have fared, for whoever may decide them on someone else's behalf. */
@RestController
class RequestFiguresController {
  private static final int LONGEST = 730;

  private final World world;
  private final RequestStore requests;
  private final Clock clock;

  RequestFiguresController(World world, RequestStore requests, Clock clock) {
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
      List<DeciderFigures> deciders) {}

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
            .toList());
  }
}
