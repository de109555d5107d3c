package eleutheria.core.access;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Whom a reader's powers reach. Powers and reach are those of the present, and so are the units
 * that people are in: a past day is shown to whoever may see the people now, not to whoever would
 * have seen them then. Everything that tells people, holdings, counts, times or names asks here.
 */
@NullMarked
public final class Reading {
  /** Figures of fewer people are as good as named. */
  public static final int FEWEST = 5;

  private final Authority authority;
  private final DirectoryView live;

  /**
   * @param live the state of now, whatever day is shown
   */
  public Reading(Authority authority, DirectoryView live) {
    this.authority = authority;
    this.live = live;
  }

  public Authority authority() {
    return authority;
  }

  public DirectoryView live() {
    return live;
  }

  private @Nullable String unit(PersonId person) {
    return live.person(person).map(p -> p.value(Attributes.UNIT)).orElse(null);
  }

  public boolean isSelf(PersonId person) {
    return person.equals(authority.person());
  }

  /** Whether the reader may see when somebody used an application. */
  public boolean seesUse(ApplicationId app, PersonId person) {
    return isSelf(person) || reaches(Power.USE_READ, app, person);
  }

  /** Whether the reader may see when anybody at all used an application. */
  public boolean seesEveryonesUse(ApplicationId app) {
    return authority.reaches(Power.USE_READ, app, null);
  }

  /**
   * Whether the reader may be told how often an application is used, by nobody named: who owns it
   * or may read use of it at all, as long as enough people hold it.
   */
  public boolean seesFigures(ApplicationId app, int holders) {
    return seesEveryonesUse(app)
        || (holders >= FEWEST && (authority.owns(app) || authority.reaches(Power.USE_READ, app)));
  }

  /** Whether the reader may see when somebody used anything, and when they signed in. */
  public boolean seesAllUse(PersonId person) {
    return isSelf(person) || reachesWhole(Power.USE_READ, person);
  }

  /** Whether a power reaches somebody. */
  public boolean reaches(Power power, PersonId person) {
    return authority.reaches(power, unit(person));
  }

  /** Whether a power reaches somebody, for an application. */
  public boolean reaches(Power power, ApplicationId app, PersonId person) {
    return authority.reaches(power, app, unit(person));
  }

  /** Whether a power reaches somebody for every application, so that all of theirs may be seen. */
  public boolean reachesWhole(Power power, PersonId person) {
    String unit = unit(person);
    return authority.reaches(power).stream()
        .anyMatch(
            reach ->
                reach.applications() == null
                    && (reach.units() == null || (unit != null && reach.units().contains(unit))));
  }

  /** Whether somebody's own data may be seen, beside name and unit. */
  public boolean seesPerson(PersonId person) {
    return isSelf(person) || reaches(Power.PEOPLE_READ, person);
  }
}
