package eleutheria.server.directory;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.server.web.Refusal;
import eleutheria.server.web.Viewer;
import java.util.Collection;
import java.util.List;

/**
 * A state cut to what a viewer's power reaches.
 *
 * @param whole whether everybody is seen, as an owner sees their group
 */
record Reached(DirectoryView directory, Authority authority, boolean whole) {
  static Reached by(Viewer viewer, DirectoryView directory) {
    return new Reached(directory, viewer.authority(), false);
  }

  /** The same for one group: its owners see it whole. */
  Reached of(GroupId group) {
    return new Reached(directory, authority, authority.owns(group));
  }

  boolean sees(Person person) {
    return whole || authority.reaches(Power.PEOPLE_READ, person.value(Attributes.UNIT));
  }

  boolean everyone() {
    return whole || authority.units(Power.PEOPLE_READ) == null;
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
