package eleutheria.core.directory;

import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Erasing what is personal of somebody who has departed, as the law may demand. It changes no fact
 * by the usual way: values are taken from the ledger's payloads and from the facts of every day.
 */
public final class ErasureDecisions {
  /** The act that names the payloads it has erased. */
  public static final ActName ACT = ActName.PERSON_ERASE;

  /** The detail that names them: {@code position:place}, separated by blanks. */
  public static final String ERASED = "erased";

  private ErasureDecisions() {}

  /**
   * @param places the payloads to erase, {@code position:place}
   * @param reason by which law or wish; never a name
   */
  public static Outcome<Integer> erase(
      Moment moment, PersonId id, List<String> places, String reason) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("person"));
    }
    Person person = found.get();
    List<Problem> problems = new ArrayList<>();
    if (!moment.authority().reaches(Power.PEOPLE_EDIT, person.value(Attributes.UNIT))) {
      problems.add(
          Problem.forbidden("power", "This needs the power “people.edit” for this person’s unit."));
    }
    Identity.missing(moment, id).ifPresent(problems::add);
    if (person.status() != PersonStatus.DEPARTED) {
      problems.add(
          Problem.invalid(
              "erase.not-departed",
              "",
              "Only the data of someone who has departed can be erased. Run the departure first."));
    }
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid(
              "erase.no-reason", "reason", "Say which law or whose request this follows."));
    }
    if (problems.isEmpty() && places.isEmpty()) {
      problems.add(Problem.invalid("erase.nothing", "", "Nothing personal is left to erase."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Map<String, Object> details = new LinkedHashMap<>();
    details.put("values", places.size());
    details.put(ERASED, String.join(" ", places));
    return Outcome.done(
        Act.of(ACT, id).because(reason.strip()).with(details), List.of(), places.size());
  }
}
