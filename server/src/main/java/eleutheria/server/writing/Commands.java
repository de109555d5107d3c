package eleutheria.server.writing;

import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * What is done at once, gathered in a draft, or only looked at, as the viewer wants it. Whatever a
 * decision comes to in edits alone can be gathered; what writes something beside the facts is done
 * by {@link Acts}.
 */
@Service
public class Commands {
  private final Acts acts;
  private final World world;
  private final Gatherer gatherer;
  private final Foreseer foreseer;

  Commands(Acts acts, World world, Gatherer gatherer, Foreseer foreseer) {
    this.acts = acts;
    this.world = world;
    this.gatherer = gatherer;
    this.foreseer = foreseer;
  }

  /** Puts what a decision comes to into a draft. */
  public interface Gatherer {
    Receipt gather(
        Viewer viewer, @Nullable String repeatKey, Function<Moment, ? extends Outcome<?>> decision);
  }

  /** Tells what a decision would do. */
  public interface Foreseer {
    ForeseenView foresee(Viewer viewer, Function<Moment, ? extends Outcome<?>> decision);
  }

  public <T> Receipt perform(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision) {
    if (viewer.foresees()) {
      return foresee(viewer, decision);
    }
    // A draft is looked at as a whole.
    return viewer.draft() == null
        ? Receipt.of(acts.perform(viewer.actor(), repeatKey, type, viewer.foreseen(), decision))
        : gatherer.gather(viewer, repeatKey, decision);
  }

  /** What the viewer would do by a decision, which is not done. */
  public Receipt foresee(Viewer viewer, Function<Moment, ? extends Outcome<?>> decision) {
    return Receipt.foreseen(world.position(), foreseer.foresee(viewer, decision));
  }
}
