package eleutheria.core.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Who decides one step at this moment. It is worked out anew whenever it is asked, so that nobody's
 * leaving makes a request stuck.
 *
 * <p>A manager's seat: the manager of the person whom it is for; if there is none who is active,
 * the manager's manager and so on; at the end of that line, or in a circle, the stewards. The
 * owner's seat: the active owners of the application; if there are none, the stewards. A group's
 * and a named person's seat: who of them is active; if nobody is, the owners. Nobody decides what
 * they ask for or would hold: they are passed over. Where that leaves nobody, it cannot be asked
 * for, and what waits already lapses. Whoever decides may pass the step on.
 *
 * <p>A manager's or an owner's deputy can decide as well. Deputies, stewards, members of a group, a
 * named person and somebody to whom a step was passed on have no deputies. Nobody decides as a
 * deputy what they asked for, what they have decided a step of, or where another step is theirs by
 * the path: by deputies one person never says yes twice.
 *
 * @param capacity what makes these people decide
 * @param people in order of name; empty if there is nobody at all
 * @param deputies who decides for whom of them, in order of name of whom they decide for
 */
public record Deciders(Capacity capacity, List<PersonId> people, Map<PersonId, PersonId> deputies) {
  Deciders(Capacity capacity, List<PersonId> people) {
    this(capacity, people, Map.of());
  }

  public enum Capacity {
    MANAGER,
    MANAGERS_MANAGER,
    OWNER,
    /** They are in the group whose step it is. */
    MEMBER,
    /** The step is theirs by name. */
    NAMED,
    STEWARD,
    /** Whoever would have decided has passed it on to them. */
    PASSED_ON
  }

  /**
   * Who decides the step that waits: whoever it was passed on to, as long as they work here; else
   * whoever decides it by the path.
   */
  public static Deciders of(AccessView access, AccessRequest request, Stage.Open open) {
    Stage.PassedOn passed = open.passed();
    return passed != null
            && !request.wish().isOf(passed.to())
            && works(access.directory(), passed.to())
        ? new Deciders(Capacity.PASSED_ON, List.of(passed.to()))
        : of(access, request, open.step());
  }

  /** Who decides a step of a request by the path. */
  public static Deciders of(AccessView access, AccessRequest request, int step) {
    Deciders found = of(access, request.wish(), request.route(), step);
    Set<PersonId> had =
        request.answers().stream().map(Decision::by).collect(Collectors.toUnmodifiableSet());
    Map<PersonId, PersonId> deputies = new LinkedHashMap<>(found.deputies());
    deputies.keySet().removeAll(had);
    return new Deciders(found.capacity(), found.people(), deputies);
  }

  /** Who would decide a step of a request that nobody has decided anything of. */
  public static Deciders of(AccessView access, Wish wish, FactValue.Route route, int step) {
    Deciders found = byPath(access, wish, route.steps().get(step));
    Duty duty = duty(found.capacity());
    if (duty == null
        || found.people().stream().allMatch(p -> access.directory().deputies(p).isEmpty())) {
      return found;
    }
    Set<PersonId> none = neverDeputies(access, wish, route);
    Map<PersonId, PersonId> deputies = new LinkedHashMap<>();
    for (PersonId person : found.people()) {
      for (DirectoryView.Deputy deputy : access.directory().deputies(person)) {
        if (deputy.duties().contains(duty)
            && !none.contains(deputy.person())
            && works(access.directory(), deputy.person())) {
          deputies.putIfAbsent(deputy.person(), person);
        }
      }
    }
    return new Deciders(found.capacity(), found.people(), deputies);
  }

  /** What a deputy must stand in for to decide such a step; null where nobody is a deputy. */
  private static @Nullable Duty duty(Capacity capacity) {
    return switch (capacity) {
      case MANAGER, MANAGERS_MANAGER -> Duty.TEAM;
      case OWNER -> Duty.APPS;
      case MEMBER, NAMED, STEWARD, PASSED_ON -> null;
    };
  }

  /** Who asks, whom it is for, and whoever decides a step by the path: none of them as a deputy. */
  private static Set<PersonId> neverDeputies(AccessView access, Wish wish, FactValue.Route route) {
    Set<PersonId> none = new HashSet<>(wish.people());
    for (RouteStep step : route.steps()) {
      none.addAll(byPath(access, wish, step).people());
    }
    return none;
  }

  /**
   * Who will be able to decide the step that waits as a deputy, before it lapses, and from when.
   */
  public static List<Deputies.Span> coming(
      Facts facts, AccessView access, AccessRequest request, Stage.Open open) {
    Deciders now = of(access, request, open);
    Duty duty = duty(now.capacity());
    if (duty == null) {
      return List.of();
    }
    Set<PersonId> none = neverDeputies(access, request.wish(), request.route());
    request.answers().forEach(answer -> none.add(answer.by()));
    return now.people().stream()
        .flatMap(person -> Deputies.of(facts, person, access.at()).stream())
        .filter(span -> span.from().isAfter(access.at()) && span.from().isBefore(open.lapses()))
        .filter(span -> span.duties().contains(duty) && !none.contains(span.deputy()))
        .filter(span -> works(access.directory(), span.deputy()))
        .toList();
  }

  private static Deciders byPath(AccessView access, Wish wish, RouteStep step) {
    DirectoryView directory = access.directory();
    return switch (step.seat()) {
      case Seat.Manager seat ->
          manager(access, wish, Capacity.MANAGER, directory.manager(wish.person()));
      case Seat.ManagersManager seat ->
          manager(
              access,
              wish,
              Capacity.MANAGERS_MANAGER,
              directory.manager(wish.person()).flatMap(directory::manager));
      case Seat.Owner seat -> owners(access, wish);
      case Seat.AnyOf seat ->
          orOwners(access, wish, Capacity.MEMBER, directory.members(seat.group()));
      case Seat.Named seat -> orOwners(access, wish, Capacity.NAMED, Set.of(seat.person()));
      case Seat.Steward seat -> stewards(access, wish);
    };
  }

  /** Whether somebody decides, for themselves or as a deputy. */
  public boolean include(@Nullable PersonId person) {
    return person != null && (people.contains(person) || deputies.containsKey(person));
  }

  /**
   * Whether these people, whoever of them says yes, decide a later step by the same yes: it is
   * theirs too, and every deputy stands in for both.
   */
  public boolean decideAlso(Deciders later) {
    return later.capacity() != Capacity.STEWARD
        && later.people().containsAll(people)
        && later.deputies().keySet().containsAll(deputies.keySet());
  }

  /**
   * Whether somebody's yes to a step before is one to this step too: it is theirs as well, or
   * theirs for whose deputy they were. So nobody is asked the same twice.
   *
   * @param behalf as whose deputy they decided; null for themselves
   */
  public boolean counts(PersonId by, @Nullable PersonId behalf) {
    return capacity != Capacity.STEWARD
        && include(by)
        && people.contains(behalf == null ? by : behalf);
  }

  /** Everybody who decides: first those whose it is, then their deputies. */
  public List<PersonId> all() {
    return Stream.concat(people.stream(), deputies.keySet().stream()).toList();
  }

  /** For whom somebody decides; null where it is theirs, or they do not decide. */
  public @Nullable PersonId behalf(@Nullable PersonId person) {
    return person == null ? null : deputies.get(person);
  }

  private static Deciders manager(
      AccessView access, Wish wish, Capacity first, Optional<PersonId> from) {
    DirectoryView directory = access.directory();
    Set<PersonId> seen = new HashSet<>(Set.of(wish.person()));
    Optional<PersonId> next = from;
    Capacity capacity = first;
    while (next.isPresent() && seen.add(next.get())) {
      if (!wish.isOf(next.get()) && works(directory, next.get())) {
        return new Deciders(capacity, List.of(next.get()));
      }
      capacity = Capacity.MANAGERS_MANAGER;
      next = directory.manager(next.get());
    }
    return stewards(access, wish);
  }

  private static Deciders owners(AccessView access, Wish wish) {
    DirectoryView directory = access.directory();
    List<PersonId> owners =
        able(
            directory,
            wish,
            access.apps().entitlement(wish.entitlement()).map(Entitlement::application).stream()
                .flatMap(app -> directory.owners(app).stream()));
    return owners.isEmpty() ? stewards(access, wish) : new Deciders(Capacity.OWNER, owners);
  }

  private static Deciders orOwners(
      AccessView access, Wish wish, Capacity capacity, Collection<PersonId> people) {
    List<PersonId> able = able(access.directory(), wish, people.stream());
    return able.isEmpty() ? owners(access, wish) : new Deciders(capacity, able);
  }

  private static List<PersonId> able(DirectoryView directory, Wish wish, Stream<PersonId> people) {
    return people
        .filter(one -> !wish.isOf(one) && works(directory, one))
        .flatMap(one -> directory.person(one).stream())
        .sorted()
        .map(Person::id)
        .toList();
  }

  private static Deciders stewards(AccessView access, Wish wish) {
    return new Deciders(
        Capacity.STEWARD,
        access.directory().mandated().stream()
            .filter(person -> maySteward(access, access.directory().authority(person), wish))
            .toList());
  }

  /**
   * Whether this authority reaches both the application and the unit of the person whom it is for,
   * so that it may decide as a steward or in another's place; nobody for themselves.
   */
  public static boolean maySteward(AccessView access, Authority authority, Wish wish) {
    String unit =
        access.directory().person(wish.person()).map(p -> p.value(Attributes.UNIT)).orElse(null);
    return !wish.isOf(authority.person())
        && access
            .apps()
            .entitlement(wish.entitlement())
            .filter(e -> authority.reaches(Power.REQUESTS_STEP_IN, e.application(), unit))
            .isPresent();
  }

  static boolean works(DirectoryView directory, PersonId person) {
    return directory.person(person).filter(p -> p.status() == PersonStatus.ACTIVE).isPresent();
  }

  /** Whether a step of a route is somebody's by name, or because they are in a group. */
  public static boolean names(DirectoryView directory, FactValue.Route route, PersonId person) {
    return route.steps().stream()
        .anyMatch(
            step ->
                switch (step.seat()) {
                  case Seat.Named seat -> seat.person().equals(person);
                  case Seat.AnyOf seat -> directory.members(seat.group()).contains(person);
                  case Seat.Manager seat -> false;
                  case Seat.ManagersManager seat -> false;
                  case Seat.Owner seat -> false;
                  case Seat.Steward seat -> false;
                });
  }

  /** Whether every step of such a request, if it were asked now, would find somebody. */
  public static boolean resolves(AccessView access, Wish wish) {
    return access.apps().entitlement(wish.entitlement()).stream()
        .flatMap(e -> access.apps().route(e).steps().stream())
        .noneMatch(step -> byPath(access, wish, step).people().isEmpty());
  }
}
