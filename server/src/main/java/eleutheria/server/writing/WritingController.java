package eleutheria.server.writing;

import eleutheria.core.ledger.Actor;
import eleutheria.core.mandates.Power;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** Whom an act waits for: one is written at a time, and a large one takes seconds. */
@RestController
class WritingController {
  private final Acts acts;
  private final World world;

  WritingController(Acts acts, World world) {
    this.acts = acts;
    this.world = world;
  }

  /**
   * @param busy whether an act is being written
   * @param who by whom; null where that is the clock, the reader, or somebody they may not see
   * @param since when it began
   */
  record WritingView(boolean busy, @Nullable String who, @Nullable Instant since) {}

  @GetMapping("/api/writing")
  @Needs(signedIn = true)
  WritingView writing(Viewer viewer) {
    Acts.Holding holding = acts.holding();
    if (holding == null) {
      return new WritingView(false, null, null);
    }
    String who =
        holding.actor() instanceof Actor.OfPerson one
                && !one.person().equals(viewer.person())
                && viewer.authority().has(Power.PEOPLE_READ)
            ? world.now().person(one.person()).map(p -> p.name().displayed()).orElse(null)
            : null;
    return new WritingView(true, who, holding.since());
  }
}
