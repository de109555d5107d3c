package eleutheria.server.access;

import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Power;
import eleutheria.server.web.Viewer;
import java.util.Set;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Which holdings a viewer may see: by power and reach, as owner of the application, as manager of
 * anyone in the team below, and always their own.
 */
@NullMarked
public final class AccessReach {
  private final Viewer viewer;
  private final DirectoryView directory;
  private @Nullable Set<PersonId> team;

  public AccessReach(Viewer viewer, DirectoryView directory) {
    this.viewer = viewer;
    this.directory = directory;
  }

  /** Whether somebody is below the viewer; everyone below is only looked up if that decides. */
  public boolean leads(PersonId person) {
    Set<PersonId> known = team;
    if (known == null) {
      known = directory.team(viewer.person());
      team = known;
    }
    return known.contains(person);
  }

  /** Whether everything about this application's holders may be seen by some right of its own. */
  public boolean sees(ApplicationId app) {
    return viewer.authority().reaches(Power.ACCESS_READ, app) || viewer.authority().owns(app);
  }

  /** Whether everyone who holds it may be seen, so that nothing need be cut. */
  public boolean seesAll(Entitlement entitlement) {
    return viewer.authority().owns(entitlement.application())
        || viewer.authority().reaches(Power.ACCESS_READ, entitlement.application(), null);
  }

  public boolean sees(Person person, Entitlement entitlement) {
    return person.id().equals(viewer.person())
        || viewer.authority().owns(entitlement.application())
        || viewer
            .authority()
            .reaches(Power.ACCESS_READ, entitlement.application(), person.value(Attributes.UNIT))
        || leads(person.id());
  }

  /** Whether something of this person's access may be seen. */
  public boolean sees(Person person) {
    return person.id().equals(viewer.person())
        || viewer.authority().reaches(Power.ACCESS_READ, person.value(Attributes.UNIT))
        || leads(person.id());
  }

  /** Whether everybody's access may be seen, so that nothing need be cut. */
  public boolean seesEveryone() {
    return viewer.authority().units(Power.ACCESS_READ) == null;
  }

  public DirectoryView directory() {
    return directory;
  }
}
