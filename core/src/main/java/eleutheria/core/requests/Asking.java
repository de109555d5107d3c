package eleutheria.core.requests;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Whether something can be asked for.
 *
 * <p>Somebody asks on another's behalf if they may see that person, and whether they hold it. So
 * managers ask for the people below them, and administrators for those whom they reach; asking
 * tells nobody anything that they could not see, and decides nothing.
 */
public final class Asking {
  private Asking() {}

  public static boolean mayAskFor(AccessReach reach, Person person, Entitlement entitlement) {
    return reach.reading().isSelf(person.id())
        || (reach.seesPerson(person) && reach.sees(person, entitlement));
  }

  /** All but oneself for whom one may ask; whoever sees nobody is told so at once. */
  public static Stream<Person> others(
      AccessReach reach, AccessView access, Entitlement entitlement) {
    Authority authority = reach.reading().authority();
    PersonId self = authority.person();
    boolean any =
        authority.has(Power.PEOPLE_READ)
            || (self != null && !access.directory().reports(self).isEmpty());
    return (any ? access.directory().people() : List.<Person>of())
        .stream()
            .filter(p -> p.status() != PersonStatus.DEPARTED && !p.id().equals(self))
            .filter(p -> mayAskFor(reach, p, entitlement));
  }

  /**
   * Why something cannot be asked for, by what is written and as things are.
   *
   * @param others open requests; what is not for that person does not count
   */
  static List<Problem> problems(
      AccessReach reach,
      AccessView access,
      LocalDate today,
      Wish wish,
      @Nullable LocalDate until,
      String reason,
      Collection<AccessRequest> others) {
    Optional<Entitlement> found = access.apps().entitlement(wish.entitlement());
    if (found.isEmpty()) {
      return List.of(Problem.absent("entitlement"));
    }
    Optional<Person> person = access.directory().person(wish.person());
    // Whom else there may be is not told: nobody is found by trying.
    if (person.isEmpty() || !mayAskFor(reach, person.get(), found.get())) {
      return List.of(Problem.forbidden("request.not-for", "You cannot ask for this person."));
    }
    List<Problem> problems =
        new ArrayList<>(standing(access, wish, person.get(), found.get(), others));
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid(
              "request.no-reason",
              "reason",
              wish.forSelf() ? "Say what you need it for." : "Say what it is needed for."));
    }
    AppDecisions.length(problems, "reason", reason, RequestDecisions.LONGEST_REASON);
    problems.addAll(
        RequestDecisions.termProblems(
            today, found.get(), access.apps().form(found.get()).term(), until));
    return problems;
  }

  /** Why something cannot be asked for, whatever is written; empty where it can. */
  public static List<Problem> standing(
      AccessView access,
      Wish wish,
      Person person,
      Entitlement entitlement,
      Collection<AccessRequest> others) {
    String name = person.name().displayed();
    Application app = access.apps().applicationOf(entitlement);
    List<Problem> problems = new ArrayList<>();
    if (person.status() == PersonStatus.DEPARTED) {
      problems.add(Problem.invalid("request.departed", "", "%s has departed.".formatted(name)));
    }
    if (!app.open()) {
      problems.add(
          Problem.invalid(
              "request.app", "", "%s is %s now.".formatted(app.name(), app.state().word())));
    }
    if (!entitlement.role().requestable()) {
      problems.add(
          Problem.invalid(
              "request.closed", "", "%s is not requestable.".formatted(entitlement.title())));
    }
    if (!Deciders.resolves(access, wish)) {
      problems.add(
          Problem.invalid("request.nobody", "", "Nobody could decide on this; tell a steward."));
    }
    if (access.entitled(person.id(), entitlement.id())
        && access.entitledUntil(person.id(), entitlement.id()) == null) {
      problems.add(
          Problem.invalid(
              "request.held",
              "",
              wish.forSelf()
                  ? "You hold %s already.".formatted(entitlement.title())
                  : "%s holds %s already.".formatted(name, entitlement.title())));
    }
    others.stream()
        .filter(r -> r.stage().open())
        .filter(r -> r.person().equals(person.id()) && r.entitlement().equals(entitlement.id()))
        .findFirst()
        .ifPresent(r -> problems.add(waiting(wish, name, r)));
    return problems;
  }

  private static Problem waiting(Wish wish, String name, AccessRequest open) {
    String sentence =
        open.wish().equals(wish)
            ? wish.forSelf()
                ? "You have asked for it already: %s is waiting.".formatted(open.name())
                : "You have asked for %s already: %s is waiting.".formatted(name, open.name())
            : "Someone has asked for it for %s already: %s is waiting."
                .formatted(wish.forSelf() ? "you" : name, open.name());
    return Problem.invalid("request.open", "", sentence);
  }
}
