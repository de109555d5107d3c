package eleutheria.server.signon;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Problem;
import eleutheria.core.signon.AccountDecisions;
import eleutheria.core.signon.Attempts;
import eleutheria.core.signon.PasswordRule;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonView;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What everyone may see and do about themselves. */
@RestController
class MeController {
  private final World world;
  private final Acts acts;
  private final Accounts accounts;
  private final Passwords passwords;
  private final Sessions sessions;
  private final FreshSignIn freshSignIn;
  private final Doors doors;
  private final Clock clock;

  MeController(
      World world,
      Acts acts,
      Accounts accounts,
      Passwords passwords,
      Sessions sessions,
      FreshSignIn freshSignIn,
      Doors doors,
      Clock clock) {
    this.world = world;
    this.acts = acts;
    this.accounts = accounts;
    this.passwords = passwords;
    this.sessions = sessions;
    this.freshSignIn = freshSignIn;
    this.doors = doors;
    this.clock = clock;
  }

  /** Nothing: that it comes is the answer. */
  record Alive() {}

  /** Whether the session still stands; does not prolong it more than any other query does. */
  @GetMapping("/api/session/alive")
  @Needs(signedIn = true)
  Alive alive() {
    return new Alive();
  }

  /**
   * @param rule what a password must be
   */
  record MeView(PersonView person, List<SessionLine> sessions, String rule) {}

  record SessionLine(
      String address, String browser, Instant since, Instant last, boolean current) {}

  record Password(@NotNull @Size(max = 1000) String password) {}

  record Change(
      @NotNull @Size(max = 1000) String current, @NotNull @Size(max = 1000) String wanted) {}

  /**
   * @param ended how many other sessions were ended
   */
  record Ended(int ended) {}

  @GetMapping("/api/me")
  @Needs(signedIn = true)
  MeView me(Viewer viewer, HttpServletRequest request) {
    DirectoryView directory = world.now();
    return new MeView(
        PersonView.of(directory, directory.person(viewer.person()).orElseThrow(), group -> true),
        sessions.of(viewer.person(), request.getSession(false)).stream()
            .map(s -> new SessionLine(s.address(), s.browser(), s.since(), s.last(), s.current()))
            .toList(),
        PasswordRule.STATED);
  }

  /** Makes the sign-in fresh again. */
  @PostMapping("/api/me/confirm")
  @Needs(signedIn = true)
  void confirm(@Valid @RequestBody Password form, Viewer viewer, HttpServletRequest request) {
    check(viewer.person(), form.password(), request, "password");
    freshSignIn.mark(request.getSession());
  }

  @PostMapping("/api/me/password")
  @Needs(signedIn = true)
  Ended password(@Valid @RequestBody Change form, Viewer viewer, HttpServletRequest request) {
    check(viewer.person(), form.current(), request, "current");
    List<Problem> problems =
        world
            .now()
            .person(viewer.person())
            .map(p -> AccountDecisions.passwordProblems(form.wanted(), AccountDecisions.own(p)))
            .orElse(List.of());
    if (!problems.isEmpty()) {
      throw new Refusal(problems);
    }
    String hash = passwords.hash(form.wanted());
    HttpSession current = request.getSession();
    int ended = Math.max(0, sessions.count(viewer.person()) - 1);
    acts.perform(
        viewer.actor(),
        null,
        PersonId.class,
        moment ->
            AccountDecisions.setPassword(
                moment, viewer.person(), ActName.ACCOUNT_PASSWORD, form.wanted(), null),
        (tx, result, entry) -> {
          Accounts.set(tx, viewer.person(), hash, entry.at());
          doors.shut(tx, viewer.person(), current.getId());
        });
    freshSignIn.mark(request.getSession());
    return new Ended(ended);
  }

  @PostMapping("/api/me/sign-out-everywhere")
  @Needs(signedIn = true)
  Ended signOutEverywhere(Viewer viewer, HttpServletRequest request) {
    HttpSession current = request.getSession();
    int others = Math.max(0, sessions.count(viewer.person()) - 1);
    acts.perform(
        viewer.actor(),
        null,
        Integer.class,
        moment -> AccountDecisions.signOutEverywhere(viewer.person(), others),
        (tx, result, entry) -> doors.shut(tx, viewer.person(), current.getId()));
    return new Ended(others);
  }

  private void check(PersonId person, String password, HttpServletRequest request, String field) {
    boolean right =
        passwords.inTurn(
            () -> {
              String account = LedgerChain.hash(person.text());
              Instant now = clock.instant();
              String address = request.getRemoteAddr();
              Duration wait = Attempts.wait(accounts.attempts(account, address, now), now);
              if (!wait.isZero()) {
                throw SignInRefused.wait(wait);
              }
              boolean matches =
                  accounts.hash(person).filter(h -> passwords.matches(password, h)).isPresent();
              accounts.tried(account, person, address, matches, now);
              return matches;
            });
    if (!right) {
      throw Refusal.invalid("password.wrong", field, "That is not your password.");
    }
  }
}
