package eleutheria.server.signon;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.signon.Attempts;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.SecurityLog;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out, and who is signed in. */
@RestController
class SignInController {
  private final World world;
  private final Accounts accounts;
  private final Passwords passwords;
  private final Sessions sessions;
  private final SessionViews views;
  private final Organisation organisation;
  private final Clock clock;
  private final SecurityLog security;

  SignInController(
      World world,
      Accounts accounts,
      Passwords passwords,
      Sessions sessions,
      SessionViews views,
      Organisation organisation,
      Clock clock,
      SecurityLog security) {
    this.world = world;
    this.accounts = accounts;
    this.passwords = passwords;
    this.sessions = sessions;
    this.views = views;
    this.organisation = organisation;
    this.clock = clock;
    this.security = security;
  }

  record SignIn(
      @NotBlank @Size(max = 320) String name,
      @NotBlank @Size(max = 1000) String password,
      @Nullable @Size(max = 320) String account) {}

  @GetMapping("/api/session")
  @Needs(nothing = true)
  SessionViews.SessionView session(HttpServletRequest request) {
    return views.of(request);
  }

  @PostMapping("/api/sign-in")
  @Needs(nothing = true)
  SessionViews.SessionView signIn(
      @Valid @RequestBody SignIn form, HttpServletRequest request, HttpServletResponse response) {
    PersonId person = passwords.inTurn(() -> whoIs(form, request.getRemoteAddr(), clock.instant()));
    sessions.begin(request, response, person);
    security.signIn(request, person, "signed-in");
    return session(request);
  }

  private PersonId whoIs(SignIn form, String address, Instant now) {
    DirectoryView directory = world.now();
    List<PersonId> candidates = candidates(directory, form.name());
    String account =
        LedgerChain.hash(
            candidates.size() == 1 ? candidates.getFirst().text() : Folding.fold(form.name()));
    Duration wait = Attempts.wait(accounts.attempts(account, address, now), now);
    if (!wait.isZero()) {
      throw SignInRefused.wait(wait);
    }
    List<PersonId> right = new ArrayList<>();
    int compared = 0;
    for (PersonId candidate : candidates) {
      Optional<String> hash = accounts.hash(candidate);
      if (hash.isPresent()) {
        compared++;
        if (passwords.matches(form.password(), hash.get())) {
          right.add(candidate);
        }
      }
    }
    // A refusal takes as long as two comparisons, so that time tells neither whether nor how many
    // accounts there are of one name or address.
    for (; right.isEmpty() && compared < 2; compared++) {
      passwords.matchNobody(form.password());
    }
    if (right.isEmpty()) {
      accounts.tried(
          account, candidates.size() == 1 ? candidates.getFirst() : null, address, false, now);
      throw SignInRefused.wrong();
    }
    PersonId person = chosen(directory, right, form.account());
    refuseUnlessAtWork(directory.person(person).orElseThrow());
    accounts.tried(account, person, address, true, now);
    return person;
  }

  private static List<PersonId> candidates(DirectoryView directory, String name) {
    Optional<PersonId> byName = directory.byUserName(name.strip());
    return byName.map(List::of).orElseGet(() -> directory.byMail(name.strip()));
  }

  private static PersonId chosen(
      DirectoryView directory, List<PersonId> right, @Nullable String account) {
    if (right.size() == 1) {
      return right.getFirst();
    }
    if (account != null) {
      Optional<PersonId> named = directory.byUserName(account).filter(right::contains);
      if (named.isPresent()) {
        return named.get();
      }
    }
    throw SignInRefused.which(
        right.stream()
            .flatMap(id -> directory.person(id).stream())
            .flatMap(person -> person.values(Attributes.USER_NAME).stream())
            .toList());
  }

  private void refuseUnlessAtWork(Person person) {
    if (person.status() == PersonStatus.EXPECTED) {
      throw SignInRefused.notActive(
          "Your first day is %s; you can sign in from then on."
              .formatted(person.until().atZone(organisation.zone()).toLocalDate()));
    }
    if (person.status() != PersonStatus.ACTIVE) {
      throw SignInRefused.notActive(
          "This account is closed. If that is a mistake, ask your manager.");
    }
  }

  @PostMapping("/api/sign-out")
  @Needs(nothing = true)
  void signOut(HttpServletRequest request) {
    sessions.end(request);
  }
}
