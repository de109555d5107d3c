package eleutheria.server.docket;

import eleutheria.core.access.AccessView;
import eleutheria.core.docket.Docket;
import eleutheria.core.mandates.Power;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What waits for a decision; each capability tells its own cases with their evidence. */
@RestController
class DocketController {
  private final World world;
  private final Waiting waiting;

  DocketController(World world, Waiting waiting) {
    this.world = world;
    this.waiting = waiting;
  }

  /**
   * @param forMe how many cases wait for this reader
   * @param all how many wait for anybody whom the reader could stand in for
   * @param folds in order of what is due; alike ones together
   */
  record DocketView(int forMe, int all, boolean mayStepIn, List<FoldView> folds, long position) {}

  /**
   * @param due by when it must be decided
   * @param cases one, or several of one kind that are alike
   */
  record FoldView(Instant due, List<CaseLine> cases) {}

  @GetMapping("/api/docket")
  @Needs(signedIn = true, desk = true)
  DocketView docket(Viewer viewer, @RequestParam(defaultValue = "false") boolean all) {
    AccessView access = world.whole().access();
    Waiting.Cases cases = waiting.of(viewer, access);
    return new DocketView(
        cases.mine().size(),
        cases.all().size(),
        viewer.authority().has(Power.REQUESTS_STEP_IN),
        Docket.folded(all ? cases.all() : cases.mine()).stream()
            .map(
                fold ->
                    new FoldView(
                        fold.getFirst().due(),
                        fold.stream()
                            .map(one -> CaseLine.of(access, viewer.person(), one))
                            .toList()))
            .toList(),
        world.position());
  }
}
