package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterRest;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Setting who decides on requests, in which order. A route is for one entitlement, an application,
 * a sensitivity, or everything; the narrowest counts. What is asked keeps the route it was asked
 * with.
 */
public final class RouteDecisions {
  /** A step for more people would be nobody's. */
  public static final int MOST_MEMBERS = 50;

  private RouteDecisions() {}

  /**
   * @param base what was set for the scope itself when the new steps were chosen; null for nothing
   */
  public static Outcome<String> set(
      Moment moment,
      RequestScope scope,
      FactValue.@Nullable Route base,
      FactValue.Route wanted,
      String reason) {
    AccessView access = AccessView.at(moment);
    FactValue.Route now = access.apps().routeOf(scope).orElse(null);
    Optional<Problem> shut = RequestScopes.shut(moment, scope, "route", now, base);
    if (shut.isPresent()) {
      return Outcome.refused(shut.get());
    }
    List<Problem> problems =
        new ArrayList<>(problems(access.directory(), access.apps().formFor(scope), wanted));
    RequestScopes.reasonProblem("route", reason).ifPresent(problems::add);
    own(moment, access, base, wanted).ifPresent(problems::add);
    if (wanted.equals(base)) {
      problems.add(Problem.invalid("route.same", "steps", "Nothing is different."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Route(scope), wanted);
    return RequestScopes.done(ActName.ROUTE_SET, scope, edits.list(), reason);
  }

  /**
   * Nobody makes themselves decide what they could not decide before, by name or by a group they
   * are in; whoever may step in everywhere decides all of it anyway.
   */
  private static Optional<Problem> own(
      Moment moment, AccessView access, FactValue.@Nullable Route base, FactValue.Route wanted) {
    PersonId actor = moment.authority().person();
    if (actor == null || moment.authority().hasEverywhere(Power.REQUESTS_STEP_IN)) {
      return Optional.empty();
    }
    Set<Seat> had = new HashSet<>();
    if (base != null) {
      base.steps().forEach(step -> had.add(step.seat()));
    }
    FactValue.Route added =
        new FactValue.Route(
            wanted.steps().stream().filter(step -> !had.contains(step.seat())).toList());
    return Deciders.names(access.directory(), added, actor)
        ? Optional.of(
            Problem.forbidden(
                "route.own", "Someone else has to put you, or a group you are in, on a route."))
        : Optional.empty();
  }

  /** Leaves a scope to the wider ones again. */
  public static Outcome<String> clear(
      Moment moment, RequestScope scope, FactValue.@Nullable Route base, String reason) {
    FactValue.Route now = AccessView.at(moment).apps().routeOf(scope).orElse(null);
    Optional<Problem> shut = RequestScopes.shut(moment, scope, "route", now, base);
    if (shut.isPresent()) {
      return Outcome.refused(shut.get());
    }
    List<Problem> problems = new ArrayList<>();
    RequestScopes.reasonProblem("route", reason).ifPresent(problems::add);
    if (base == null) {
      problems.add(Problem.absent("route"));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.end(new FactKey.Route(scope));
    return RequestScopes.done(ActName.ROUTE_CLEAR, scope, edits.list(), reason);
  }

  /** What makes steps impossible, whoever asks. */
  static List<Problem> problems(
      DirectoryView directory, FactValue.RequestForm form, FactValue.Route route) {
    List<Problem> problems = new ArrayList<>();
    if (route.steps().isEmpty()) {
      problems.add(Problem.invalid("route.empty", "steps", "A route needs at least one step."));
    }
    if (!route.steps().isEmpty() && route.steps().stream().noneMatch(RouteStep::always)) {
      problems.add(
          Problem.invalid("route.never", "steps", "At least one step has to be needed always."));
    }
    FilterSchema schema = AskedForm.schema(form, directory);
    for (int at = 0; at < route.steps().size(); at++) {
      RouteStep step = route.steps().get(at);
      if (!step.always()
          && FilterParser.parse(step.onlyIf(), schema) instanceof FilterParser.Parsed.Bad bad) {
        problems.add(
            Problem.invalid("route.only-if", "steps.%d.onlyIf".formatted(at), bad.message()));
      }
    }
    if (route.steps().size() > FactValue.Route.MOST) {
      problems.add(
          Problem.invalid(
              "route.many",
              "steps",
              "A route has at most %d steps.".formatted(FactValue.Route.MOST)));
    }
    Set<Seat> seen = new HashSet<>();
    for (RouteStep step : route.steps()) {
      if (!seen.add(step.seat())) {
        problems.add(
            Problem.invalid("route.twice", "steps", "Each step is decided by someone else."));
      }
      if (step.days() < RouteStep.SHORTEST || step.days() > RouteStep.LONGEST) {
        problems.add(
            Problem.invalid(
                "route.days",
                "steps",
                "A step takes from %d to %d days."
                    .formatted(RouteStep.SHORTEST, RouteStep.LONGEST)));
      }
      switch (step.seat()) {
        case Seat.AnyOf seat -> {
          if (directory.group(seat.group()).isEmpty()) {
            problems.add(Problem.invalid("route.group", "steps", "There is no such group."));
          } else if (directory.members(seat.group()).size() > MOST_MEMBERS) {
            problems.add(
                Problem.invalid(
                    "route.members",
                    "steps",
                    "A group that decides has at most %d members.".formatted(MOST_MEMBERS)));
          }
        }
        case Seat.Named seat -> {
          if (!Deciders.works(directory, seat.person())) {
            problems.add(
                Problem.invalid("route.person", "steps", "This person is not at work here."));
          }
        }
        case Seat.Manager seat -> {}
        case Seat.ManagersManager seat -> {}
        case Seat.Owner seat -> {}
        case Seat.Steward seat -> {}
      }
    }
    return problems.stream().distinct().toList();
  }

  /**
   * A step as it would be for one person who asks for themselves.
   *
   * @param deciders who would decide it
   * @param at which step of the route it is, from 0
   * @param maybe whether it depends on answers that are not known yet
   * @param settled whether somebody who decides a step before always decides this one by the same
   *     yes
   */
  public record Drawn(int at, RouteStep step, boolean maybe, Deciders deciders, boolean settled) {
    /** Whether it goes to others than those whom it names, because none of them can decide. */
    public boolean elsewhere() {
      return switch (step.seat()) {
        case Seat.Manager seat -> deciders.capacity() != Deciders.Capacity.MANAGER;
        case Seat.ManagersManager seat -> deciders.capacity() != Deciders.Capacity.MANAGERS_MANAGER;
        case Seat.Owner seat -> deciders.capacity() != Deciders.Capacity.OWNER;
        case Seat.AnyOf seat -> deciders.capacity() != Deciders.Capacity.MEMBER;
        case Seat.Named seat -> deciders.capacity() != Deciders.Capacity.NAMED;
        case Seat.Steward seat -> false;
      };
    }
  }

  /**
   * A route as it would be for one wish, with the people by name; without the steps that who asks
   * cannot need, whatever they answer.
   */
  public static List<Drawn> drawn(AccessView access, Wish wish, FactValue.Route route) {
    Entitlement entitlement = access.apps().entitlement(wish.entitlement()).orElseThrow();
    FactValue.RequestForm form = access.apps().form(entitlement);
    FilterSchema schema = AskedForm.schema(form, access.directory());
    Set<String> keys =
        form.questions().stream().map(Question::key).collect(Collectors.toUnmodifiableSet());
    List<Drawn> drawn = new ArrayList<>();
    for (int at = 0; at < route.steps().size(); at++) {
      RouteStep step = route.steps().get(at);
      FilterRest rest =
          rest(
              step,
              schema,
              name -> !keys.contains(name),
              name -> attribute(access.directory(), wish.asker(), name));
      if (rest instanceof FilterRest.Decided(boolean needed) && !needed) {
        continue;
      }
      Deciders deciders = Deciders.of(access, wish, route, at);
      drawn.add(
          new Drawn(
              at,
              step,
              rest instanceof FilterRest.Open,
              deciders,
              drawn.stream()
                  .filter(before -> !before.maybe())
                  .anyMatch(before -> before.deciders().decideAlso(deciders))));
    }
    return drawn;
  }

  /** The steps that a request needs, by what its form was answered with. */
  static FactValue.Route needed(
      AccessView access, Entitlement entitlement, PersonId asker, List<FormAnswer> answers) {
    FactValue.Route route = access.apps().route(entitlement);
    FactValue.RequestForm form = access.apps().form(entitlement);
    FilterSchema schema = AskedForm.schema(form, access.directory());
    Set<String> keys = new HashSet<>();
    form.questions().forEach(question -> keys.add(question.key()));
    Map<String, List<String>> given = new HashMap<>();
    answers.forEach(answer -> given.put(answer.key(), answer.values()));
    return new FactValue.Route(
        route.steps().stream()
            .filter(
                step ->
                    rest(
                            step,
                            schema,
                            name -> true,
                            name ->
                                keys.contains(name)
                                    ? given.getOrDefault(name, List.of())
                                    : attribute(access.directory(), asker, name))
                        .equals(new FilterRest.Decided(true)))
            .map(step -> new RouteStep(step.seat(), step.days()))
            .toList());
  }

  private static List<String> attribute(DirectoryView directory, PersonId person, String name) {
    return directory.person(person).map(p -> p.values(name)).orElse(List.of());
  }

  /** A condition that can no longer be read, because what it names has gone, asks for the step. */
  private static FilterRest rest(
      RouteStep step,
      FilterSchema schema,
      Predicate<String> known,
      Function<String, List<String>> values) {
    return !step.always()
            && FilterParser.parse(step.onlyIf(), schema)
                instanceof FilterParser.Parsed.Good(Filter filter)
        ? FilterRest.of(filter, known, values)
        : new FilterRest.Decided(true);
  }
}
