package eleutheria.core.signon;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Acts around signing in that change no fact and stand in the ledger all the same. */
public final class AccountDecisions {
  private AccountDecisions() {}

  /** Sends someone a one-time link to set a password. */
  public static Outcome<PersonId> invite(Moment moment, PersonId id) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("person"));
    }
    Person person = found.get();
    String unit = person.value(Attributes.UNIT);
    if (!moment.authority().reaches(Power.PEOPLE_EDIT, unit)
        && !moment.authority().reaches(Power.SIGNIN_HELP, unit)) {
      return Outcome.refused(
          Problem.forbidden(
              "power", "This needs the power “people.edit” or “signin.help” for this person."));
    }
    List<Problem> problems = new ArrayList<>();
    if (person.status() == PersonStatus.DEPARTED) {
      problems.add(
          Problem.invalid("invite.departed", "", person.name().displayed() + " has departed."));
    }
    if (person.value(Attributes.MAIL) == null) {
      problems.add(
          Problem.invalid(
              "invite.no-mail", "", person.name().displayed() + " has no mail address."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    return Outcome.done(Act.of("account.invite", id), List.of(), id)
        .with(List.of(new Errand.Invite(id)));
  }

  /** Sets the first password by a one-time link, or another one later. */
  public static Outcome<PersonId> setPassword(
      Moment moment, PersonId id, String act, String password) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty() || found.get().status() == PersonStatus.DEPARTED) {
      return Outcome.refused(Problem.absent("account"));
    }
    List<Problem> problems = passwordProblems(password, own(found.get()));
    return problems.isEmpty()
        ? Outcome.done(Act.of(act, id), List.of(), id)
        : Outcome.refused(problems);
  }

  public static Outcome<Integer> signOutEverywhere(PersonId id, int sessions) {
    return Outcome.done(
        Act.of("account.sign-out-everywhere", id).with(Map.of("sessions", sessions)),
        List.of(),
        sessions);
  }

  /** All that is wrong with a password, for the form's field. */
  public static List<Problem> passwordProblems(String password, List<String> own) {
    return PasswordRule.wrong(password, own).stream()
        .map(sentence -> Problem.invalid("password", "password", sentence))
        .toList();
  }

  private static List<String> own(Person person) {
    List<String> own = new ArrayList<>();
    own.add(person.name().given());
    own.add(person.name().family());
    own.add(person.name().displayed());
    own.addAll(person.values(Attributes.USER_NAME));
    own.addAll(person.values(Attributes.MAIL));
    return own;
  }
}
