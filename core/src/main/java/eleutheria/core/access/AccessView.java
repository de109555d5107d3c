package eleutheria.core.access;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Who is entitled to what at one moment: what every capability asks. It never changes. Behind it
 * stand plain collections ({@link #of}) or the engine's snapshot ({@link
 * eleutheria.core.access.engine.EngineAccess}).
 */
public interface AccessView {
  /** The state under the lock, for a decision. */
  static AccessView at(Moment moment) {
    return moment
        .known(AccessView.class)
        .orElseGet(() -> of(moment.facts(), moment.directory(), moment.at()));
  }

  /** A state in plain collections, for what is only tried. */
  static AccessView of(Facts facts, DirectoryView directory, Instant at) {
    return PlainAccess.of(facts, directory, at);
  }

  DirectoryView directory();

  AppsView apps();

  Instant at();

  Optional<Grant> grant(GrantId id);

  /** The grants of an entitlement, oldest first. */
  List<Grant> grants(EntitlementId entitlement);

  /** The grants of which this person alone is the subject. */
  List<Grant> grantsTo(PersonId person);

  /** The grants of which this very group is the subject. */
  List<Grant> grantsTo(GroupId group);

  /** Everyone in a subject. */
  Set<PersonId> members(FactValue.Subject subject);

  /** How many in a subject have not departed. */
  default int population(FactValue.Subject subject) {
    int count = 0;
    for (PersonId member : members(subject)) {
      if (directory().person(member).filter(p -> p.status() != PersonStatus.DEPARTED).isPresent()) {
        count++;
      }
    }
    return count;
  }

  Set<PersonId> entitled(EntitlementId id);

  /** Everyone who holds it: entitled, active, and its application open. */
  Set<PersonId> holders(EntitlementId id);

  boolean entitled(PersonId person, EntitlementId entitlement);

  boolean holds(PersonId person, EntitlementId entitlement);

  /** What a person is entitled to, in order of application and name. */
  List<Entitlement> entitlements(PersonId person);

  /** What a person holds, in order of application and name. */
  List<Entitlement> holdings(PersonId person);

  /** Every ground on which a person is entitled, those of their own first, then oldest first. */
  List<Ground> grounds(PersonId person, EntitlementId entitlement);

  /** Every entitlement that a group leads to, for whoever is in it. */
  Collection<EntitlementId> leadsTo(GroupId group);

  /** The next moment at which the last ground of a holding ends by itself; null if it does not. */
  default @Nullable Instant ends(PersonId person, EntitlementId entitlement) {
    return Ground.last(grounds(person, entitlement));
  }

  /**
   * What moves would do to access: at the act, and at each later moment at which the states with
   * and without them begin to differ anew. Empty where that has to be worked out from the facts.
   */
  default Optional<List<Effects.At>> trial(List<Move> moves, Instant at) {
    return Optional.empty();
  }

  /**
   * Some of those who hold something, in the order of names.
   *
   * @param total how many there are in all
   */
  record Page(List<PersonId> people, int total) {}

  /**
   * A page of those who hold an entitlement.
   *
   * @param unit only people of this unit; empty for all
   * @param skip how many come before the page
   */
  default Page holders(EntitlementId id, String unit, int skip, int size) {
    List<Person> all =
        holders(id).stream()
            .flatMap(p -> directory().person(p).stream())
            .filter(p -> unit.isEmpty() || unit.equals(p.value(Attributes.UNIT)))
            .sorted()
            .toList();
    return new Page(all.stream().skip(skip).limit(size).map(Person::id).toList(), all.size());
  }

  /** How many hold an entitlement, by unit; the empty text stands for people without one. */
  default Map<String, Integer> holdersByUnit(EntitlementId id) {
    Map<String, Integer> counts = new TreeMap<>();
    for (PersonId holder : holders(id)) {
      String unit = directory().person(holder).map(p -> p.value(Attributes.UNIT)).orElse("");
      counts.merge(unit, 1, Integer::sum);
    }
    return counts;
  }

  /** How many people are active, by unit; the empty text stands for people without one. */
  default Map<String, Integer> activeByUnit() {
    Map<String, Integer> counts = new TreeMap<>();
    for (Person person : directory().people()) {
      if (person.status() == PersonStatus.ACTIVE) {
        String unit = person.value(Attributes.UNIT);
        counts.merge(unit == null ? "" : unit, 1, Integer::sum);
      }
    }
    return counts;
  }
}
