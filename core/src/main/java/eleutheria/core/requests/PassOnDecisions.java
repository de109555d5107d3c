package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Passing a step on: whoever decides hands it to somebody who could as well, with a word. The clock
 * runs on as it did, and whoever has passed it on reads along but decides no longer.
 *
 * <p>A deputy does not pass on what they decide for somebody.
 *
 * <p>Laws: it never reaches the asker or whom it is for; it goes only to people whom {@link #to}
 * names; it gives the step no time; it goes to nobody who decides another step; the next step has
 * its own people again; where the one it went to leaves, it comes back to those who decide by the
 * path.
 */
public final class PassOnDecisions {
  private PassOnDecisions() {}

  /**
   * To whom somebody may pass it on, in order of name: the line of managers above whom it is for,
   * the owners of the application, the stewards who could step in, and whoever manages or is
   * managed by the one who passes it on. Nobody has to be told of anybody whom they do not know
   * already. Who decides another step of it is not among them, unless they decide this one by the
   * path: no step is passed on so that one person says yes to two.
   */
  public static List<PersonId> to(
      AccessView access, AccessRequest request, Stage.Open open, PersonId by) {
    DirectoryView directory = access.directory();
    Set<PersonId> some = new LinkedHashSet<>(line(directory, request.person()));
    access
        .apps()
        .entitlement(request.entitlement())
        .map(Entitlement::application)
        .ifPresent(app -> some.addAll(directory.owners(app)));
    directory.mandated().stream()
        .filter(one -> Deciders.maySteward(access, directory.authority(one), request.wish()))
        .forEach(some::add);
    directory.manager(by).ifPresent(some::add);
    some.addAll(directory.reports(by));
    some.remove(by);
    some.removeAll(request.wish().people());
    some.removeAll(Deciders.of(access, request, open).people());
    some.removeAll(elsewhere(access, request, open));
    return some.stream()
        .filter(one -> Deciders.works(directory, one))
        .flatMap(one -> directory.person(one).stream())
        .sorted()
        .map(Person::id)
        .toList();
  }

  /** Who has decided or will decide another step, and not this one by the path. */
  private static Set<PersonId> elsewhere(
      AccessView access, AccessRequest request, Stage.Open open) {
    Set<PersonId> people = new HashSet<>();
    request.answers().forEach(answer -> people.add(answer.by()));
    for (int step = open.step() + 1; step < request.route().steps().size(); step++) {
      people.addAll(byPath(access, request, step));
    }
    byPath(access, request, open.step()).forEach(people::remove);
    return people;
  }

  private static List<PersonId> byPath(AccessView access, AccessRequest request, int step) {
    return Deciders.of(access, request, step).people();
  }

  /** The managers above somebody; a circle ends where it closes. */
  private static Set<PersonId> line(DirectoryView directory, PersonId person) {
    Set<PersonId> seen = new HashSet<>(Set.of(person));
    Set<PersonId> line = new LinkedHashSet<>();
    Optional<PersonId> next = directory.manager(person);
    while (next.isPresent() && seen.add(next.get())) {
      line.add(next.get());
      next = directory.manager(next.get());
    }
    return line;
  }

  public static Outcome<ThreadDecisions.Spoken> passOn(
      Moment moment, AccessRequest request, List<Message> before, PersonId to, String word) {
    AccessView access = AccessView.at(moment);
    PersonId person = moment.authority().person();
    Optional<Problem> shut = ThreadDecisions.shut(moment, access, request, before);
    if (shut.isPresent() || person == null || !(request.stage() instanceof Stage.Open open)) {
      return Outcome.refused(shut.orElseGet(() -> Problem.absent("request")));
    }
    if (open.from().isAfter(moment.at())) {
      return Outcome.refused(RequestDecisions.notYet());
    }
    if (!RequestReaders.mayDecide(moment.authority(), access, request)) {
      return Outcome.refused(ThreadDecisions.notYours(access, request, open));
    }
    List<Problem> problems = ThreadDecisions.textProblems(word, before);
    PersonId behalf = Deciders.of(access, request, open).behalf(person);
    if (behalf != null) {
      problems.add(
          Problem.forbidden(
              "request.deputy",
              "You decide this as a deputy; only %s can pass it on."
                  .formatted(RequestDecisions.names(access, List.of(behalf)))));
    }
    // Whom else there may be is not told: nobody is found by trying.
    if (!to(access, request, open, person).contains(to)) {
      problems.add(
          Problem.invalid("request.pass-on", "to", "It cannot be passed on to this person."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    AccessRequest after = request.at(open.passed(new Stage.PassedOn(to, person))).said();
    Message message = new Message(person, Message.Kind.PASSED, word.strip(), moment.at(), to);
    List<ObjectId> objects = new ArrayList<>();
    objects.add(request.id());
    objects.addAll(request.wish().people());
    objects.add(request.entitlement());
    objects.add(to);
    return Outcome.done(
            new Act(ActName.REQUEST_PASS_ON, objects, "", Map.of("request", request.name())),
            List.of(),
            new ThreadDecisions.Spoken(after, message))
        .with(
            List.of(
                new Errand.TellOfRequest(to, request.id(), Errand.Tale.TO_DECIDE, Duration.ZERO)))
        .by(Outcome.Right.BY_RULE);
  }
}
