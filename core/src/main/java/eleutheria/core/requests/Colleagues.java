package eleutheria.core.requests;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Whom somebody works with, so that they may be named without being looked for. */
final class Colleagues {
  private Colleagues() {}

  /**
   * Their manager, whom they manage, who has the same manager, and who owns an application or a
   * group with them; also who is away, but nobody who has departed. In order of name.
   */
  static List<PersonId> of(DirectoryView directory, PersonId person) {
    Set<PersonId> known = new LinkedHashSet<>(directory.reports(person));
    directory
        .manager(person)
        .ifPresent(
            manager -> {
              known.add(manager);
              known.addAll(directory.reports(manager));
            });
    for (ObjectId thing : directory.owned(person)) {
      known.addAll(directory.owners(thing));
    }
    known.remove(person);
    return known.stream()
        .flatMap(one -> directory.person(one).stream())
        .filter(one -> one.status() != PersonStatus.DEPARTED)
        .sorted()
        .map(Person::id)
        .toList();
  }
}
