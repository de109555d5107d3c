package eleutheria.server.drafts;

import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.portal.PortalView;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The state as a draft would make it, for whoever may see the draft. */
@Component
public class DraftStates {
  private final DraftReader reader;
  private final DraftStore store;
  private final World world;
  private final Clock clock;

  DraftStates(DraftReader reader, DraftStore store, World world, Clock clock) {
    this.reader = reader;
    this.store = store;
    this.world = world;
    this.clock = clock;
  }

  /** Is asked about facts and the state that they make, while neither moves. */
  public interface Query<T> {
    /**
     * @param whole good only while this is asked
     */
    T ask(Facts facts, PortalView whole);
  }

  /**
   * Whoever asks must not wait for the database: acts wait meanwhile.
   *
   * @param draft null for the state as it is
   */
  public <T> T with(Viewer viewer, @Nullable UUID draft, Query<T> query) {
    Draft seen = draft == null ? null : reader.seen(viewer, draft);
    if (seen == null || seen.stage().over()) {
      return world.look(query::ask);
    }
    List<DraftEdit> edits = store.edits(seen);
    Instant at = Moments.next(clock.instant(), world.whole().directory().at());
    return world.suppose(edits, at, (overlay, now, with) -> query.ask(overlay.after(), with));
  }
}
