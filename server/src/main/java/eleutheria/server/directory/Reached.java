package eleutheria.server.directory;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.server.web.Refusal;
import eleutheria.server.web.Viewer;
import java.util.Collection;
import java.util.List;

/** A state cut to what a viewer's power reaches. */
record Reached(DirectoryView directory, Authority authority) {
  static Reached by(Viewer viewer, DirectoryView directory) {
    return new Reached(directory, viewer.authority());
  }

  boolean sees(Person person) {
    return authority.reaches(Power.PEOPLE_READ, person.value(Attributes.UNIT));
  }

  boolean everyone() {
    return authority.units(Power.PEOPLE_READ) == null;
  }

  List<Person> people() {
    return everyone()
        ? directory.people()
        : directory.people().stream().filter(this::sees).toList();
  }

  int count(Collection<PersonId> people) {
    return everyone()
        ? people.size()
        : (int)
            people.stream().flatMap(id -> directory.person(id).stream()).filter(this::sees).count();
  }

  Person person(PersonId id) {
    return directory
        .person(id)
        .filter(this::sees)
        .orElseThrow(() -> Refusal.of(Problem.absent("person")));
  }
}
