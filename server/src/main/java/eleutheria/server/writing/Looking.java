package eleutheria.server.writing;

import eleutheria.core.access.AccessView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Moments;
import eleutheria.core.portal.PortalView;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Instant;
import java.util.UUID;
import java.util.function.BiFunction;
import org.springframework.stereotype.Component;

/** What somebody could decide now, without the lock and without doing it. */
@Component
public class Looking {
  private final World world;
  private final Organisation organisation;
  private final Clock clock;

  Looking(World world, Organisation organisation, Clock clock) {
    this.world = world;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** Asks with the viewer's powers; no database inside. */
  public <T> T as(Viewer viewer, BiFunction<Moment, PortalView, T> query) {
    Instant at = Moments.next(clock.instant(), world.whole().directory().at());
    return world.look(
        (facts, now) ->
            query.apply(
                new Moment(
                        facts,
                        now.directory(),
                        at,
                        organisation.zone(),
                        UUID::randomUUID,
                        viewer.authority())
                    .with(AccessView.class, now.access()),
                now));
  }
}
