package eleutheria.server.signon;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.FirstSteward;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.signon.AccountDecisions;
import eleutheria.core.signon.PasswordRule;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.writing.Acts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** One-time links: an invitation, or the first steward's beginning. */
@RestController
class LinkController {
  private final OneTimeLinks links;
  private final World world;
  private final Acts acts;
  private final Passwords passwords;
  private final Accounts accounts;
  private final Sessions sessions;
  private final Doors doors;

  LinkController(
      OneTimeLinks links,
      World world,
      Acts acts,
      Passwords passwords,
      Accounts accounts,
      Sessions sessions,
      Doors doors) {
    this.links = links;
    this.world = world;
    this.acts = acts;
    this.passwords = passwords;
    this.accounts = accounts;
    this.sessions = sessions;
    this.doors = doors;
  }

  record Token(@NotBlank @Size(max = 100) String token) {}

  /**
   * @param purpose {@code invite}, {@code reset} or {@code first-steward}
   * @param rule what a password must be
   */
  record LinkView(String purpose, String displayed, String userName, String rule, Instant until) {}

  record Use(
      @NotBlank @Size(max = 100) String token,
      @NotNull @Size(max = 1000) String password,
      @Nullable @Size(max = 80) String given,
      @Nullable @Size(max = 80) String family,
      @Nullable @Size(max = 80) String userName,
      @Nullable @Size(max = 200) String mail) {}

  /**
   * @param signedIn whether this browser is signed in now; before the first day it is not yet
   */
  record Used(boolean signedIn) {}

  @PostMapping("/api/links/look")
  @Needs(nothing = true)
  LinkView look(@Valid @RequestBody Token token) {
    OneTimeLinks.Link link = known(token.token());
    Optional<Person> person =
        Optional.ofNullable(link.person()).flatMap(id -> world.now().person(id));
    return new LinkView(
        link.purpose(),
        person.map(p -> p.name().displayed()).orElse(""),
        person.map(p -> p.value(Attributes.USER_NAME)).orElse(""),
        PasswordRule.STATED,
        link.until());
  }

  private OneTimeLinks.Link known(String token) {
    return links
        .look(token)
        // An invitation opens no account that has a password, however old its mail is.
        .filter(
            link ->
                !OneTimeLinks.INVITE.equals(link.purpose())
                    || link.person() == null
                    || !accounts.exists(link.person()))
        .orElseThrow(
            () ->
                Refusal.of(
                    new Problem(
                        Problem.Kind.ABSENT,
                        "link.gone",
                        "",
                        "This link has been used, has expired, or a newer one was sent."
                            + " Ask for a new one.")));
  }

  @PostMapping("/api/links/use")
  @Needs(nothing = true)
  Used use(@Valid @RequestBody Use form, HttpServletRequest request, HttpServletResponse response) {
    OneTimeLinks.Link link = known(form.token());
    PersonId person =
        OneTimeLinks.FIRST_STEWARD.equals(link.purpose())
            ? beginAsSteward(form)
            : accept(form, link, Objects.requireNonNull(link.person()));
    boolean active =
        world.now().person(person).filter(p -> p.status() == PersonStatus.ACTIVE).isPresent();
    if (active) {
      sessions.begin(request, response, person);
    }
    return new Used(active);
  }

  private PersonId accept(Use form, OneTimeLinks.Link link, PersonId person) {
    boolean reset = OneTimeLinks.RESET.equals(link.purpose());
    // The rule is checked before the costly hash, and again under the lock.
    world.look(
        (facts, whole) -> {
          whole
              .directory()
              .person(person)
              .ifPresent(p -> refuse(AccountDecisions.own(p), form.password()));
          return person;
        });
    String hash = passwords.hash(form.password());
    return acts.perform(
            new Actor.OfPerson(person),
            null,
            PersonId.class,
            moment ->
                AccountDecisions.setPassword(
                    moment,
                    person,
                    reset ? ActName.ACCOUNT_RESET_USED : ActName.ACCOUNT_OPEN,
                    form.password(),
                    link.askedBy()),
            (tx, result, entry) -> {
              OneTimeLinks.useUp(tx, form.token(), entry.at());
              doors.shut(tx, person, null);
              Accounts.set(tx, person, hash, entry.at());
            })
        .result();
  }

  private PersonId beginAsSteward(Use form) {
    String given = text(form.given());
    String family = text(form.family());
    String userName = text(form.userName());
    String mail = text(form.mail());
    List<String> own = List.of(given, family, userName, mail);
    String hash =
        AccountDecisions.passwordProblems(form.password(), own).isEmpty()
            ? passwords.hash(form.password())
            : "";
    return acts.perform(
            new Actor.Setup(),
            null,
            PersonId.class,
            moment -> {
              List<Problem> problems =
                  new ArrayList<>(AccountDecisions.passwordProblems(form.password(), own));
              Outcome<PersonId> made = FirstSteward.make(moment, given, family, userName, mail);
              if (made instanceof Outcome.Refused<PersonId> refused) {
                problems.addAll(refused.problems());
              }
              return problems.isEmpty() ? made : Outcome.refused(problems);
            },
            (tx, result, entry) -> {
              OneTimeLinks.useUp(tx, form.token(), entry.at());
              Accounts.set(tx, result, hash, entry.at());
            })
        .result();
  }

  private static void refuse(List<String> own, String password) {
    List<Problem> problems = AccountDecisions.passwordProblems(password, own);
    if (!problems.isEmpty()) {
      throw new Refusal(problems);
    }
  }

  private static String text(@Nullable String value) {
    return value == null ? "" : value.strip();
  }
}
