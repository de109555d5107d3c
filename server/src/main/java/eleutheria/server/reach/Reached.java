package eleutheria.server.reach;

import eleutheria.core.access.Reading;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.web.Viewer;
import java.util.Collection;
import java.util.List;

/**
 * A state cut to what a viewer's power reaches, by the units that people are in now.
 *
 * @param whole whether everybody is seen, as an owner sees their group
 */
public record Reached(DirectoryView directory, Reading reading, boolean whole) {
  /**
   * @param live the state of now, whatever day is shown
   */
  public static Reached by(Viewer viewer, DirectoryView directory, DirectoryView live) {
    return new Reached(directory, new Reading(viewer.authority(), live), false);
  }

  /** The same for one group: its owners see it whole. */
  public Reached of(GroupId group) {
    return new Reached(directory, reading, reading.authority().owns(group));
  }

  public boolean sees(Person person) {
    return whole || reading.reaches(Power.PEOPLE_READ, person.id());
  }

  /** A person as this reader may see them; an owner sees names and units. */
  public PersonLine line(Person person) {
    return PersonLine.by(reading, person);
  }

  /** Whether somebody is found by a text; an owner finds by name alone. */
  public boolean finds(Person person, String wanted) {
    return reading.seesPerson(person.id())
        ? person.foundBy(wanted)
        : Folding.bare(person.name().displayed()).contains(wanted);
  }

  public boolean everyone() {
    return whole || reading.authority().units(Power.PEOPLE_READ) == null;
  }

  public List<Person> people() {
    return everyone()
        ? directory.people()
        : directory.people().stream().filter(this::sees).toList();
  }

  /** How many of these are within reach and have not departed. */
  public int count(Collection<PersonId> people) {
    return count(people, false);
  }

  /** How many of these are within reach and have departed. */
  public int countDeparted(Collection<PersonId> people) {
    return count(people, true);
  }

  private int count(Collection<PersonId> people, boolean departed) {
    return (int)
        people.stream()
            .flatMap(id -> directory.person(id).stream())
            .filter(person -> (person.status() == PersonStatus.DEPARTED) == departed)
            .filter(this::sees)
            .count();
  }

  public Person person(PersonId id) {
    return directory
        .person(id)
        .filter(this::sees)
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }
}
