package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Application;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.TileId;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A problem with a tile, told by somebody who uses it.
 *
 * @param number for people, {@code T-1001}
 * @param tileName what the tile was called then
 * @param answer null while it waits
 */
public record Complaint(
    ComplaintId id,
    int number,
    PersonId by,
    TileId tile,
    ApplicationId app,
    String tileName,
    String text,
    Instant at,
    @Nullable Reply answer) {

  /**
   * @param by the reporter themselves, if they took it back
   * @param text empty if they took it back
   */
  public record Reply(PersonId by, Instant at, String text) {}

  public String label() {
    return "T-" + number;
  }

  public boolean waits() {
    return answer == null;
  }

  /**
   * Whether it lies on somebody's docket: they own the application; or nobody who is active does,
   * and they may change it.
   */
  public boolean isFor(AccessView access, Authority reader) {
    if (reader.owns(app)) {
      return true;
    }
    boolean owned =
        access.apps().application(app).map(Application::owners).orElse(java.util.List.of()).stream()
            .flatMap(owner -> access.directory().person(owner).stream())
            .anyMatch(owner -> owner.status() == PersonStatus.ACTIVE);
    return !owned && reader.reaches(Power.APPS_EDIT, app);
  }

  /** Whether somebody may read and answer it, though it does not lie on their docket. */
  public boolean mayBeAnsweredBy(AccessView access, Authority reader) {
    return isFor(access, reader) || reader.reaches(Power.APPS_EDIT, app);
  }
}
