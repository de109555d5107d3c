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

/**
 * Which holdings a viewer may see: by power and reach, as owner of the application, as manager of
 * anyone in the team below, and always their own.
 */
@NullMarked
public final class AccessReach {
  private final Viewer viewer;
  private final DirectoryView directory;
  private final Set<PersonId> team;

  public AccessReach(Viewer viewer, DirectoryView directory) {
    this.viewer = viewer;
    this.directory = directory;
    this.team = directory.team(viewer.person());
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
        || team.contains(person.id())
        || viewer
            .authority()
            .reaches(Power.ACCESS_READ, entitlement.application(), person.value(Attributes.UNIT));
  }

  /** Whether something of this person's access may be seen. */
  public boolean sees(Person person) {
    return person.id().equals(viewer.person())
        || team.contains(person.id())
        || viewer.authority().reaches(Power.ACCESS_READ, person.value(Attributes.UNIT));
  }

  public boolean leads(PersonId person) {
    return team.contains(person);
  }

  public DirectoryView directory() {
    return directory;
  }
}
