package eleutheria.server.ledger;

import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.web.Receipt;
import eleutheria.server.web.Viewer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * What is done at once or gathered in a draft, as the viewer wants it. Whatever a decision comes to
 * in edits alone can be gathered; what writes something beside the facts is done by {@link Acts}.
 */
@Service
public class Commands {
  private final Acts acts;
  private final Gatherer gatherer;

  Commands(Acts acts, Gatherer gatherer) {
    this.acts = acts;
    this.gatherer = gatherer;
  }

  /** Puts what a decision comes to into a draft. */
  public interface Gatherer {
    Receipt gather(
        Viewer viewer, @Nullable String repeatKey, Function<Moment, ? extends Outcome<?>> decision);
  }

  public <T> Receipt perform(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision) {
    return perform(viewer, repeatKey, type, null, decision);
  }

  /**
   * @param digest of the effects that the viewer has seen; a draft is looked at as a whole instead
   */
  public <T> Receipt perform(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      @Nullable String digest,
      Function<Moment, Outcome<T>> decision) {
    return viewer.draft() == null
        ? Receipt.of(acts.perform(viewer.actor(), repeatKey, type, digest, decision))
        : gatherer.gather(viewer, repeatKey, decision);
  }
}
