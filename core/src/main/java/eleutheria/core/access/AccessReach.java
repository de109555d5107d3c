package eleutheria.core.access;

import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.Set;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Which holdings a viewer may see: by power and reach, as owner of the application, as manager of
 * anyone in the team below, and always their own. Units and teams are those of now.
 */
@NullMarked
public final class AccessReach {
  private final Authority authority;
  private final Reading reading;
  private @Nullable Set<PersonId> team;

  /**
   * @param live the state of now, whatever day is shown
   */
  public AccessReach(Authority authority, DirectoryView live) {
    this.authority = authority;
    this.reading = new Reading(authority, live);
  }

  public Reading reading() {
    return reading;
  }

  /** Whether somebody is below the viewer; everyone below is only looked up if that decides. */
  public boolean leads(PersonId person) {
    Set<PersonId> known = team;
    if (known == null) {
      PersonId self = authority.person();
      known = self == null ? Set.of() : reading.live().team(self);
      team = known;
    }
    return known.contains(person);
  }

  /** Whether everything about this application's holders may be seen by some right of its own. */
  public boolean sees(ApplicationId app) {
    return authority.reaches(Power.ACCESS_READ, app) || authority.owns(app);
  }

  /** Whether everyone who holds it may be seen, so that nothing need be cut. */
  public boolean seesAll(Entitlement entitlement) {
    return authority.owns(entitlement.application())
        || authority.reaches(Power.ACCESS_READ, entitlement.application(), null);
  }

  /** Whether somebody's holding of an entitlement may be seen, if they have it. */
  public boolean sees(Person person, Entitlement entitlement) {
    return authority.owns(entitlement.application())
        || reading.reaches(Power.ACCESS_READ, entitlement.application(), person.id())
        || sees(person);
  }

  /** Whether anything of this person's access may be seen, also that they have none. */
  public boolean sees(Person person) {
    return reading.isSelf(person.id())
        || reading.reachesWhole(Power.ACCESS_READ, person.id())
        || leads(person.id());
  }

  /** Whether somebody is seen here: by themselves, or by a holding that may be seen. */
  public boolean seesHere(AccessView access, Person person) {
    return sees(person) || access.entitlements(person.id()).stream().anyMatch(e -> sees(person, e));
  }

  /** Whether somebody is seen with an entitlement: by themselves, or because they have it. */
  public boolean seesWith(AccessView access, Person person, Entitlement entitlement) {
    return sees(person)
        || (sees(person, entitlement) && access.entitled(person.id(), entitlement.id()));
  }

  /** Whether everybody's access may be seen, so that nothing need be cut. */
  public boolean seesEveryone() {
    return authority.reaches(Power.ACCESS_READ).stream()
        .anyMatch(reach -> reach.units() == null && reach.applications() == null);
  }

  /** Whether somebody's own data may be seen; managers see their people as whole. */
  public boolean seesPerson(Person person) {
    return leads(person.id()) || reading.seesPerson(person.id());
  }
}
