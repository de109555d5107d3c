package eleutheria.core.requests;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The request's state machine. Each function takes the request as it stands under the lock and
 * gives the one that follows, with the edits of the grant where there is one.
 *
 * <p>Laws, tested over random sequences: no grant without a yes at every step by somebody who
 * decides it; none by the asker or whom it is for; no request that is open stays so for ever,
 * because it lapses. Taking a decision back leaves the request as it was before.
 */
public final class RequestDecisions {
  /** How long before a step lapses whoever decides it is reminded, each time once. */
  public static final List<Duration> REMINDERS = List.of(Duration.ofDays(7), Duration.ofDays(2));

  /** The longest time that something of high sensitivity can be asked for, in days. */
  public static final int LONGEST_HIGH = 366;

  public static final int LONGEST_REASON = 1000;

  private RequestDecisions() {}

  /**
   * @param number the next free number, taken under the lock
   * @param person whom it is for
   * @param given what the form was answered with, by key
   * @param others the other requests for that person
   */
  public static Outcome<AccessRequest> ask(
      Moment moment,
      int number,
      PersonId person,
      EntitlementId id,
      @Nullable LocalDate until,
      String reason,
      Map<String, List<String>> given,
      Collection<AccessRequest> others) {
    AccessView access = AccessView.at(moment);
    PersonId asker = moment.authority().person();
    if (asker == null) {
      return Outcome.refused(Problem.absent("entitlement"));
    }
    Wish wish = new Wish(asker, person, id);
    List<Problem> problems =
        new ArrayList<>(
            Asking.problems(
                new AccessReach(moment.authority(), access.directory()),
                access,
                moment.today(),
                wish,
                until,
                reason,
                others));
    if (problems.stream().anyMatch(problem -> problem.field().isEmpty())) {
      return Outcome.refused(problems);
    }
    FactValue.RequestForm form = access.apps().form(access.apps().entitlement(id).orElseThrow());
    AskedForm.Filled filled =
        AskedForm.of(form, access.directory(), asker).fill(given, moment.today());
    problems.addAll(filled.problems());
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    RequestId request = new RequestId(moment.ids().get());
    FactValue.Route route =
        RouteDecisions.needed(
            access, access.apps().entitlement(id).orElseThrow(), asker, filled.answers());
    AccessRequest asked =
        new AccessRequest(
            request,
            number,
            wish,
            route,
            until,
            reason.strip(),
            filled.answers(),
            moment.at(),
            List.of(),
            waiting(route, 0, moment.at()),
            0);
    List<Errand> errands = toDecide(access, asked, 0, Duration.ZERO);
    if (!wish.forSelf()) {
      errands.add(
          new Errand.TellOfRequest(person, request, Errand.Tale.ASKED_FOR_YOU, Duration.ZERO));
    }
    return done(moment, asked, ActName.REQUEST_ASK, reason.strip(), List.of()).with(errands);
  }

  private static Stage.Waiting waiting(FactValue.Route route, int step, Instant from) {
    return new Stage.Waiting(step, from, from.plus(route.steps().get(step).patience()), null);
  }

  private static List<Errand> toDecide(
      AccessView access, AccessRequest request, int step, Duration after) {
    List<Errand> errands = new ArrayList<>();
    for (PersonId decider : Deciders.of(access, request, step).all()) {
      errands.add(new Errand.TellOfRequest(decider, request.id(), Errand.Tale.TO_DECIDE, after));
    }
    return errands;
  }

  /** Why something cannot be asked for until a day, by its form and its sensitivity. */
  static List<Problem> termProblems(
      LocalDate today, Entitlement entitlement, Term term, @Nullable LocalDate until) {
    List<Problem> problems = new ArrayList<>(untilProblems(today, entitlement, until, null));
    if (problems.isEmpty() && until == null && !term.endless()) {
      problems.add(Problem.invalid("request.no-end", "until", "This needs a last day."));
    }
    Integer most = term.most();
    if (problems.isEmpty()
        && most != null
        && until != null
        && until.isAfter(today.plusDays(most))) {
      problems.add(
          Problem.invalid(
              "request.long", "until", "This is given for at most %d days.".formatted(most)));
    }
    return problems;
  }

  static List<Problem> untilProblems(
      LocalDate today,
      Entitlement entitlement,
      @Nullable LocalDate until,
      @Nullable LocalDate atMost) {
    List<Problem> problems = new ArrayList<>();
    if (until == null) {
      if (entitlement.role().sensitivity() == Sensitivity.HIGH) {
        problems.add(
            Problem.invalid(
                "request.no-end", "until", "High-sensitivity access needs a last day."));
      }
      return problems;
    }
    if (until.isBefore(today)) {
      problems.add(
          Problem.invalid("request.over", "until", "The day %s is past.".formatted(until)));
    }
    if (entitlement.role().sensitivity() == Sensitivity.HIGH
        && until.isAfter(today.plusDays(LONGEST_HIGH))) {
      problems.add(
          Problem.invalid(
              "request.long",
              "until",
              "High-sensitivity access lasts at most %d days.".formatted(LONGEST_HIGH)));
    }
    if (atMost != null && until.isAfter(atMost)) {
      problems.add(
          Problem.invalid(
              "request.longer",
              "until",
              "It was asked for until %s; you can only shorten that.".formatted(atMost)));
    }
    return problems;
  }

  /** The same where no separation rule stands in the way. */
  public static Outcome<AccessRequest> answer(
      Moment moment,
      AccessRequest request,
      int step,
      boolean yes,
      @Nullable LocalDate until,
      String note,
      Duration takeBack) {
    return answer(moment, request, step, yes, until, note, List.of(), takeBack);
  }

  /**
   * Decides the step that waits.
   *
   * @param step the step that the decider saw waiting
   * @param until the last day to set; null to leave it as it was asked
   * @param accepted breaches of separation rules that the decider accepts with the yes, until a
   *     day; their reason is the note
   * @param takeBack how long the decision can be taken back; what follows begins after it
   */
  public static Outcome<AccessRequest> answer(
      Moment moment,
      AccessRequest request,
      int step,
      boolean yes,
      @Nullable LocalDate until,
      String note,
      List<SeparationDecisions.Acceptance> accepted,
      Duration takeBack) {
    AccessView access = AccessView.at(moment);
    PersonId decider = moment.authority().person();
    if (decider == null) {
      return Outcome.refused(Problem.absent("request"));
    }
    if (!(request.stage() instanceof Stage.Open open) || open.step() != step) {
      return Outcome.refused(tooLate(moment, access, request));
    }
    if (open.from().isAfter(moment.at())) {
      return Outcome.refused(notYet());
    }
    Optional<Entitlement> found = access.apps().entitlement(request.entitlement());
    if (found.isEmpty()) {
      return Outcome.refused(Problem.absent("entitlement"));
    }
    Entitlement entitlement = found.get();
    Application app = access.apps().applicationOf(entitlement);
    Deciders deciders = Deciders.of(access, request, open);
    boolean own = deciders.include(decider);
    boolean stepsIn = Deciders.maySteward(access, moment.authority(), request.wish());
    List<Problem> problems = new ArrayList<>();
    if (request.wish().isOf(decider)) {
      problems.add(
          Problem.forbidden(
              "request.own", "You cannot decide a request that you made, or that is for you."));
    } else if (!own && !stepsIn) {
      problems.add(
          Problem.forbidden(
              "request.not-yours",
              "This step is for %s to decide.".formatted(names(access, deciders.people()))));
    } else if (!own && note.isBlank()) {
      problems.add(
          Problem.invalid(
              "request.step-in", "note", "Say why you decide on someone else’s behalf."));
    } else if (!yes && note.isBlank()) {
      problems.add(
          Problem.invalid("request.no-word", "note", "Say why not; the requester reads it."));
    }
    AppDecisions.length(problems, "note", note, LONGEST_REASON);
    if (yes) {
      problems.addAll(yesProblems(moment, access, request, entitlement, app, until));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Decision answer =
        new Decision(
            decider,
            own ? deciders.capacity() : Deciders.Capacity.STEWARD,
            !own,
            deciders.behalf(decider),
            yes,
            moment.at(),
            until,
            note.strip(),
            open);
    if (!yes) {
      AccessRequest refused = request.answered(answer, new Stage.Refused(decider, moment.at()));
      return done(moment, refused, ActName.REQUEST_REFUSE, note.strip(), List.of())
          .with(tell(request, Errand.Tale.REFUSED, takeBack));
    }
    Instant from = moment.at().plus(takeBack);
    int following = following(access, request, step, decider, answer.behalf());
    if (following < request.route().steps().size()) {
      if (!accepted.isEmpty()) {
        return Outcome.refused(
            Problem.invalid("request.not-yet", "", "The last to decide accepts the conflict."));
      }
      AccessRequest next = request.answered(answer, waiting(request.route(), following, from));
      return done(moment, next, ActName.REQUEST_APPROVE, note.strip(), List.of())
          .with(toDecide(access, next, following, takeBack));
    }
    GrantId grant = new GrantId(moment.ids().get());
    AccessRequest given = request.answered(answer, new Stage.Given(grant, from));
    LocalDate last = given.lastDay();
    Edits edits = moment.edits();
    GrantDecisions.open(
        edits,
        grant,
        new FactValue.Given(
            new FactValue.Subject.OfPerson(request.person()),
            request.entitlement(),
            GrantSource.REQUEST),
        request.reason(),
        from,
        last == null ? Moments.FOREVER : Moments.endOf(last, moment.zone()));
    List<Edit> all = new ArrayList<>(edits.list());
    for (SeparationDecisions.Acceptance each : accepted) {
      switch (SeparationDecisions.except(moment, each, from, note)) {
        case Outcome.Refused<RuleId> refused -> problems.addAll(refused.problems());
        case Outcome.Done<RuleId> done -> all.addAll(done.edits());
      }
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems.stream().distinct().toList());
    }
    return done(moment, given, ActName.REQUEST_APPROVE, note.strip(), all)
        .with(tell(request, Errand.Tale.GIVEN, takeBack));
  }

  /**
   * The step that needs the next yes: whoever decides several steps, for themselves or as the same
   * person's deputy, decides all of them by one. As many as there are steps, where none needs one.
   */
  private static int following(
      AccessView access, AccessRequest request, int step, PersonId by, @Nullable PersonId behalf) {
    int next = step + 1;
    while (next < request.route().steps().size()
        && (settled(access, request, next)
            || Deciders.of(access, request, next).counts(by, behalf))) {
      next++;
    }
    return next;
  }

  /** Whether a step to come needs no yes of its own, since one that was given counts for it. */
  public static boolean settled(AccessView access, AccessRequest request, int step) {
    Deciders deciders = Deciders.of(access, request, step);
    return request.answers().stream()
        .anyMatch(each -> each.yes() && deciders.counts(each.by(), each.behalf()));
  }

  /** Whether somebody's yes to the step that waits would be the last that the request needs. */
  public static boolean grants(
      AccessView access, AccessRequest request, Stage.Open open, PersonId by) {
    PersonId behalf = Deciders.of(access, request, open).behalf(by);
    return following(access, request, open.step(), by, behalf) == request.route().steps().size();
  }

  private static List<Problem> yesProblems(
      Moment moment,
      AccessView access,
      AccessRequest request,
      Entitlement entitlement,
      Application app,
      @Nullable LocalDate until) {
    List<Problem> problems = new ArrayList<>();
    Optional<Person> person = moment.directory().person(request.person());
    if (person.filter(p -> p.status() == PersonStatus.DEPARTED).isPresent()) {
      problems.add(
          Problem.invalid(
              "request.departed",
              "",
              "%s has departed.".formatted(names(access, List.of(request.person())))));
    }
    if (app.state() == ApplicationState.BLOCKED || app.state() == ApplicationState.RETIRED) {
      problems.add(
          Problem.invalid(
              "request.app",
              "",
              "%s is now %s; this can only be refused.".formatted(app.name(), app.state().word())));
    }
    LocalDate last = until == null ? request.lastDay() : until;
    problems.addAll(
        untilProblems(moment.today(), entitlement, last, until == null ? null : request.until()));
    return problems;
  }

  static String names(AccessView access, List<PersonId> people) {
    return people.isEmpty()
        ? "nobody"
        : String.join(
            " or ",
            people.stream()
                .limit(3)
                .flatMap(p -> access.directory().person(p).stream())
                .map(p -> p.name().displayed())
                .toList());
  }

  static Problem notYet() {
    return Problem.stale("", "The step before can still be taken back for a moment.");
  }

  static Problem tooLate(Moment moment, AccessView access, AccessRequest request) {
    String what =
        switch (request.stage()) {
          case Stage.Withdrawn s -> "It was withdrawn.";
          case Stage.Lapsed s -> "It has lapsed.";
          case Stage.Overtaken s ->
              "%s has departed.".formatted(names(access, List.of(request.person())));
          case Stage.Open s -> decided(moment, access, request);
          case Stage.Given s -> decided(moment, access, request);
          case Stage.Refused s -> decided(moment, access, request);
        };
    return Problem.stale("", what);
  }

  private static String decided(Moment moment, AccessView access, AccessRequest request) {
    if (request.lastAnswer().isEmpty()) {
      return "The step before is not decided yet.";
    }
    Decision last = request.lastAnswer().get();
    return "%s %s at %s."
        .formatted(
            names(access, List.of(last.by())),
            last.yes() ? "approved this" : "refused this",
            last.at().atZone(moment.zone()).toLocalTime().withNano(0));
  }

  /** Tells whom it is for, and whoever asked. */
  private static List<Errand> tell(AccessRequest request, Errand.Tale tale, Duration after) {
    List<Errand> errands = new ArrayList<>();
    for (PersonId one : request.wish().people()) {
      errands.add(new Errand.TellOfRequest(one, request.id(), tale, after));
    }
    return errands;
  }

  /** Takes the last decision back, as long as what follows from it has not begun. */
  public static Outcome<AccessRequest> takeBack(
      Moment moment, AccessRequest request, Duration takeBack) {
    Optional<Decision> last = request.lastAnswer();
    if (last.isEmpty() || !last.get().by().equals(moment.authority().person())) {
      return Outcome.refused(
          Problem.forbidden("take-back.not-yours", "The last decision was not yours."));
    }
    Decision answer = last.get();
    if (!moment.at().isBefore(answer.at().plus(takeBack))) {
      return Outcome.refused(
          Problem.stale(
              "",
              "It is too late: a decision can be taken back for %d seconds."
                  .formatted(takeBack.toSeconds())));
    }
    List<Edit> edits = List.of();
    switch (request.stage()) {
      case Stage.Given given -> {
        Edits dropped = moment.edits();
        GrantDecisions.close(dropped, given.grant());
        // What was accepted for it begins with it, and has not begun either.
        for (FactKey.Excepted key : moment.facts().keys(FactKey.Excepted.class)) {
          if (key.person().equals(request.person())
              && moment.facts().from(key, moment.at()).stream()
                  .anyMatch(s -> s.from().equals(given.from()))) {
            dropped.end(key);
          }
        }
        edits = dropped.list();
      }
      case Stage.Refused refused -> {}
      case Stage.Open open -> {}
      default -> {
        return Outcome.refused(Problem.stale("", "It is closed; there is nothing to take back."));
      }
    }
    return done(
        moment, request.withoutLastAnswer(answer.before()), ActName.REQUEST_TAKE_BACK, "", edits);
  }

  /** Whoever asked, or whom it is for, does not want it any more. */
  public static Outcome<AccessRequest> withdraw(Moment moment, AccessRequest request) {
    if (!request.wish().isOf(moment.authority().person())) {
      return Outcome.refused(Problem.absent("request"));
    }
    if (!request.stage().open()) {
      return Outcome.refused(tooLate(moment, AccessView.at(moment), request));
    }
    return done(
        moment,
        request.at(new Stage.Withdrawn(moment.at())),
        ActName.REQUEST_WITHDRAW,
        "",
        List.of());
  }

  /**
   * Ends a request that nobody acted on in time; by the clock. Nothing happens to one that is not
   * due.
   */
  public static Optional<Outcome.Done<AccessRequest>> lapse(
      Moment moment, AccessRequest request, Instant due) {
    if (!(request.stage() instanceof Stage.Waiting waiting) || waiting.lapses().isAfter(due)) {
      return Optional.empty();
    }
    return Optional.of(
        done(moment, lapsed(request, moment.at()), ActName.REQUEST_LAPSE, "", List.of())
            .with(tell(request, Errand.Tale.LAPSED, Duration.ZERO)));
  }

  /** When whoever decides is to be reminded from now on; not at all while the clock stands. */
  public static List<Instant> reminders(AccessRequest request, Instant now) {
    return request.stage() instanceof Stage.Waiting waiting
        ? REMINDERS.stream().map(waiting.lapses()::minus).filter(at -> at.isAfter(now)).toList()
        : List.of();
  }

  /**
   * Reminds everybody who decides the step that waits, by the clock; the request stays as it is.
   * Nothing happens where it was decided meanwhile, or where its clock has stood since.
   */
  public static Optional<Outcome.Done<AccessRequest>> remind(
      Moment moment, AccessRequest request, Instant due) {
    if (!(request.stage() instanceof Stage.Waiting waiting)
        || !REMINDERS.contains(Duration.between(due, waiting.lapses()))) {
      return Optional.empty();
    }
    List<Errand> errands = new ArrayList<>();
    for (PersonId decider : Deciders.of(AccessView.at(moment), request, waiting).all()) {
      errands.add(
          new Errand.TellOfRequest(decider, request.id(), Errand.Tale.REMIND, Duration.ZERO));
    }
    return Optional.of(done(moment, request, ActName.REQUEST_REMIND, "", List.of()).with(errands));
  }

  /** A request that nobody acted on in time. */
  public static AccessRequest lapsed(AccessRequest request, Instant at) {
    return request.at(new Stage.Lapsed(at));
  }

  /** What becomes of someone's open requests when they depart. */
  public static AccessRequest overtaken(AccessRequest request, Instant at) {
    return request.stage().open() ? request.at(new Stage.Overtaken(at)) : request;
  }

  static Outcome.Done<AccessRequest> done(
      Moment moment, AccessRequest next, ActName act, String reason, List<Edit> edits) {
    List<ObjectId> objects = new ArrayList<>(List.of(next.id()));
    objects.addAll(next.wish().people());
    objects.add(next.entitlement());
    if (next.stage() instanceof Stage.Given given) {
      objects.add(given.grant());
    }
    return Outcome.done(new Act(act, objects, reason, Map.of("request", next.name())), edits, next)
        .by(Outcome.Right.BY_RULE);
  }
}
