package eleutheria.core.access;

import eleutheria.core.apps.Application;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Who is entitled to what at one moment: what every capability asks. It never changes. Behind it
 * stand plain collections ({@link #of}) or the engine's snapshot ({@link
 * eleutheria.core.access.engine.EngineAccess}).
 */
@NullMarked
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

  /** Everyone who holds anything of an application. */
  default Set<PersonId> holders(Application application) {
    Set<PersonId> all = new HashSet<>();
    application.entitlements().forEach(e -> all.addAll(holders(e.id())));
    return all;
  }

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

  /**
   * Until when somebody holds something: the first moment at which they do not, by anything that is
   * on record now; null if there is none. Where it is not held though they are entitled, the first
   * at which they are not entitled.
   */
  @Nullable Instant ends(PersonId person, EntitlementId entitlement);

  /**
   * The first moment at which somebody is not entitled, by anything that is on record now, whatever
   * becomes of them or of the application; null if there is none, or they are not.
   */
  @Nullable Instant entitledUntil(PersonId person, EntitlementId entitlement);

  /**
   * What moves would do to access: at the act, and at each later moment at which the states with
   * and without them begin to differ anew. Empty where that has to be worked out from the facts.
   */
  default Optional<List<Effects.At>> trial(List<Move> moves, Instant at) {
    return Optional.empty();
  }

  /** Everyone whose status is active. */
  default Set<PersonId> active() {
    Set<PersonId> found = new HashSet<>();
    for (Person person : directory().people()) {
      if (person.status() == PersonStatus.ACTIVE) {
        found.add(person.id());
      }
    }
    return found;
  }

  /** Everyone who is active, and was neither active nor paused until after a moment. */
  default Set<PersonId> begunAfter(Instant moment) {
    Set<PersonId> found = new HashSet<>();
    for (Person person : directory().people()) {
      if (person.status() == PersonStatus.ACTIVE && person.begun().isAfter(moment)) {
        found.add(person.id());
      }
    }
    return found;
  }

  /**
   * Who stands on fewer grounds in another state than in this one, by entitlement: whoever was in
   * the subject of a grant and is not any more, or the grant is gone.
   */
  default Map<EntitlementId, Set<PersonId>> lostGrounds(AccessView other) {
    Map<EntitlementId, Set<PersonId>> found = new LinkedHashMap<>();
    for (Entitlement entitlement : apps().entitlements()) {
      Set<PersonId> lost = new HashSet<>();
      for (Grant grant : grants(entitlement.id())) {
        FactValue.Subject subject = grant.given().subject();
        Set<PersonId> was = new HashSet<>(members(subject));
        if (other.grant(grant.id()).isPresent()) {
          was.removeAll(other.members(subject));
        }
        lost.addAll(was);
      }
      if (!lost.isEmpty()) {
        found.put(entitlement.id(), lost);
      }
    }
    return found;
  }

  /** What another state differs by from this one: who gains and who loses. */
  default Effects.At differ(AccessView other) {
    return Effects.between(this, other, other.at());
  }

  /** Is shown the states without and with some edits, one moment after the other. */
  interface Watcher {
    /**
     * @param anew whether what the two differ by in access may have changed since the last moment
     * @return whether to go on to the next moment
     */
    boolean at(Instant instant, AccessView without, AccessView with, boolean anew);
  }

  /**
   * Some edits laid over the facts.
   *
   * @param before the facts that the edits were made for
   * @param after the same with the moves taken up
   * @param moves what {@link Facts#apply} made of the edits
   */
  record Supposition(Facts before, Facts after, List<Edit> edits, List<Move> moves, Instant at) {
    public static Supposition of(Facts facts, List<Edit> edits, List<Move> moves, Instant at) {
      return new Supposition(facts, facts.with(moves), edits, moves, at);
    }
  }

  /**
   * Shows the states without and with some edits: at the act, and at every later moment at which
   * they may begin to differ anew. Changes nothing. What is shown is good only while it is shown.
   *
   * @param more further moments to be shown
   */
  default void suppose(Supposition supposed, Set<Instant> more, Watcher watcher) {
    Set<Instant> instants = new TreeSet<>(more);
    for (Facts facts : List.of(supposed.before(), supposed.after())) {
      facts.forEach(
          (key, spells) ->
              spells.forEach(
                  spell -> {
                    instants.add(spell.from());
                    instants.add(spell.until());
                  }));
    }
    instants.removeIf(t -> !t.isAfter(supposed.at()) || t.equals(Moments.FOREVER));
    instants.add(supposed.at());
    for (Instant instant : instants) {
      DirectoryView plain = directory().later(supposed.before(), instant);
      DirectoryView varied = directory().after(supposed.after(), supposed.moves(), instant);
      if (!watcher.at(
          instant,
          of(supposed.before(), plain, instant),
          of(supposed.after(), varied, instant),
          true)) {
        return;
      }
    }
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
