package eleutheria.core.directory;

import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Who answers for a group, an application or a collection. */
public final class Owners {
  private Owners() {}

  /**
   * Sets the owners of something; who may, has been decided.
   *
   * @param base the owners that the editor saw
   */
  public static <T extends ObjectId> Outcome<T> set(
      Moment moment,
      T thing,
      ActName act,
      Collection<PersonId> current,
      Collection<PersonId> base,
      Collection<PersonId> owners) {
    if (!new HashSet<>(current).equals(new HashSet<>(base))) {
      return Outcome.refused(Problem.stale("owners", "Someone has changed the owners meanwhile."));
    }
    List<Problem> problems = problems(moment, owners);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    Set<PersonId> wanted = new LinkedHashSet<>(owners);
    current.stream()
        .filter(owner -> !wanted.contains(owner))
        .sorted()
        .forEach(owner -> edits.end(new FactKey.Ownership(thing, owner)));
    wanted.forEach(o -> edits.put(new FactKey.Ownership(thing, o), FactValue.Present.PRESENT));
    return Outcome.done(Act.of(act, thing), edits.list(), thing);
  }

  /** What stands in the way of these people owning something. */
  public static List<Problem> problems(Moment moment, Collection<PersonId> owners) {
    List<Problem> problems = new ArrayList<>();
    for (PersonId owner : owners) {
      Optional<Person> person = moment.directory().person(owner);
      if (person.isEmpty()) {
        problems.add(Problem.absent("person"));
      } else if (person.get().status() == PersonStatus.DEPARTED) {
        problems.add(
            Problem.invalid(
                "owner.departed", "owners", person.get().name().displayed() + " has departed."));
      }
    }
    return problems;
  }
}
