package eleutheria.core.signon;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Identity;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Acts around signing in that change no fact and stand in the ledger all the same. */
public final class AccountDecisions {
  private AccountDecisions() {}

  /** How long whoever changed somebody's address sends no link to it. */
  public static final Duration YOUNG = Duration.ofDays(7);

  /**
   * What is known of somebody's account.
   *
   * @param password whether they have set a password
   * @param changed when their mail address last replaced another; null if it never did
   * @param changedBy who did that; null for a source's clock or where nobody is known
   */
  public record Account(
      boolean password, @Nullable Instant changed, @Nullable PersonId changedBy) {}

  /** Sends someone a one-time link to set their first password. */
  public static Outcome<PersonId> invite(Moment moment, PersonId id, Account account) {
    List<Problem> problems = linkProblems(moment, id, account);
    if (problems.isEmpty() && account.password()) {
      problems.add(
          Problem.invalid(
              "invite.has-password",
              "",
              name(moment, id) + " has a password already. Send a link to set a new one instead."));
    }
    return problems.isEmpty()
        ? Outcome.done(Act.of(ActName.ACCOUNT_INVITE, id), List.of(), id)
            .with(List.of(new Errand.Invite(id)))
        : Outcome.refused(problems);
  }

  /** Sends someone who has a password a one-time link to set a new one. */
  public static Outcome<PersonId> reset(Moment moment, PersonId id, Account account) {
    List<Problem> problems = linkProblems(moment, id, account);
    if (problems.isEmpty() && !account.password()) {
      problems.add(
          Problem.invalid(
              "reset.no-password",
              "",
              name(moment, id) + " has no password yet. Send an invitation instead."));
    }
    return problems.isEmpty()
        ? Outcome.done(Act.of(ActName.ACCOUNT_RESET, id), List.of(), id)
            .with(List.of(new Errand.Reset(id)))
        : Outcome.refused(problems);
  }

  private static String name(Moment moment, PersonId id) {
    return moment.directory().person(id).map(p -> p.name().displayed()).orElse("This person");
  }

  /** What keeps the actor from sending a link that lets somebody set a password. */
  private static List<Problem> linkProblems(Moment moment, PersonId id, Account account) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty()) {
      return new ArrayList<>(List.of(Problem.absent("person")));
    }
    Person person = found.get();
    List<Problem> problems = new ArrayList<>(helps(moment, person));
    if (!problems.isEmpty()) {
      return problems;
    }
    Identity.missing(moment, id).ifPresent(problems::add);
    if (account.changed() != null
        && account.changedBy() != null
        && account.changedBy().equals(moment.authority().person())
        && moment.at().isBefore(account.changed().plus(YOUNG))) {
      problems.add(
          Problem.forbidden(
              "address.young",
              "You changed %s’s address yourself less than 7 days ago. Ask someone else to send the link, or wait until the 7 days are over."
                  .formatted(person.name().displayed())));
    }
    if (person.status() == PersonStatus.DEPARTED) {
      problems.add(
          Problem.invalid("invite.departed", "", person.name().displayed() + " has departed."));
    }
    if (person.value(Attributes.MAIL) == null) {
      problems.add(
          Problem.invalid(
              "invite.no-mail", "", person.name().displayed() + " has no email address."));
    }
    return problems;
  }

  private static List<Problem> helps(Moment moment, Person person) {
    String unit = person.value(Attributes.UNIT);
    return moment.authority().reaches(Power.PEOPLE_EDIT, unit)
            || moment.authority().reaches(Power.SIGNIN_HELP, unit)
        ? List.of()
        : List.of(
            Problem.forbidden(
                "power", "This needs the power “people.edit” or “signin.help” for this person."));
  }

  /** Ends everything by which somebody is signed in, on their behalf. */
  public static Outcome<PersonId> endSessions(Moment moment, PersonId id, int sessions) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("person"));
    }
    List<Problem> problems = helps(moment, found.get());
    return problems.isEmpty()
        ? Outcome.done(
            Act.of(ActName.ACCOUNT_END_SESSIONS, id).with(Map.of("sessions", sessions)),
            List.of(),
            id)
        : Outcome.refused(problems);
  }

  /** A token by which a person's tiles are read elsewhere is made, or no longer works. */
  public static Outcome<PersonId> feed(PersonId id, boolean made) {
    return Outcome.done(
        Act.of(made ? ActName.ACCOUNT_FEED : ActName.ACCOUNT_FEED_END, id), List.of(), id);
  }

  /**
   * Sets the first password by a one-time link, or another one later.
   *
   * @param askedBy who had the link sent; null where there was none
   */
  public static Outcome<PersonId> setPassword(
      Moment moment, PersonId id, ActName act, String password, @Nullable PersonId askedBy) {
    Optional<Person> found = moment.directory().person(id);
    if (found.isEmpty() || found.get().status() == PersonStatus.DEPARTED) {
      return Outcome.refused(Problem.absent("account"));
    }
    List<Problem> problems = passwordProblems(password, own(found.get()));
    return problems.isEmpty()
        ? Outcome.done(
            Act.of(act, id).with(askedBy == null ? Map.of() : Map.of("askedBy", askedBy.text())),
            List.of(),
            id)
        : Outcome.refused(problems);
  }

  public static Outcome<Integer> signOutEverywhere(PersonId id, int sessions) {
    return Outcome.done(
        Act.of(ActName.ACCOUNT_SIGN_OUT_EVERYWHERE, id).with(Map.of("sessions", sessions)),
        List.of(),
        sessions);
  }

  /** All that is wrong with a password, for the form's field. */
  public static List<Problem> passwordProblems(String password, List<String> own) {
    return PasswordRule.wrong(password, own).stream()
        .map(sentence -> Problem.invalid("password", "password", sentence))
        .toList();
  }

  /** Words that others would try first for this very person. */
  public static List<String> own(Person person) {
    List<String> own = new ArrayList<>();
    own.add(person.name().given());
    own.add(person.name().family());
    own.add(person.name().displayed());
    own.addAll(person.values(Attributes.USER_NAME));
    own.addAll(person.values(Attributes.MAIL));
    return own;
  }
}
