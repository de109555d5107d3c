package eleutheria.server.directory;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.access.Reading;
import eleutheria.server.web.Refusal;
import eleutheria.server.web.Viewer;
import java.util.Collection;
import java.util.List;

/**
 * A state cut to what a viewer's power reaches, by the units that people are in now.
 *
 * @param whole whether everybody is seen, as an owner sees their group
 */
record Reached(DirectoryView directory, Reading reading, boolean whole) {
  /**
   * @param live the state of now, whatever day is shown
   */
  static Reached by(Viewer viewer, DirectoryView directory, DirectoryView live) {
    return new Reached(directory, new Reading(viewer.authority(), live), false);
  }

  /** The same for one group: its owners see it whole. */
  Reached of(GroupId group) {
    return new Reached(directory, reading, reading.authority().owns(group));
  }

  boolean sees(Person person) {
    return whole || reading.reaches(Power.PEOPLE_READ, person.id());
  }

  /** A person as this reader may see them; an owner sees names and units. */
  PersonLine line(Person person) {
    return reading.line(person);
  }

  /** Whether somebody is found by a text; an owner finds by name alone. */
  boolean finds(Person person, String wanted) {
    return reading.seesPerson(person.id())
        ? PeopleController.found(person, wanted)
        : Folding.bare(person.name().displayed()).contains(wanted);
  }

  boolean everyone() {
    return whole || reading.authority().units(Power.PEOPLE_READ) == null;
  }

  List<Person> people() {
    return everyone()
        ? directory.people()
        : directory.people().stream().filter(this::sees).toList();
  }

  /** How many of these are within reach and have not departed. */
  int count(Collection<PersonId> people) {
    return count(people, false);
  }

  /** How many of these are within reach and have departed. */
  int countDeparted(Collection<PersonId> people) {
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

  Person person(PersonId id) {
    return directory
        .person(id)
        .filter(this::sees)
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }
}
