package eleutheria.server.requests;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Asking;
import eleutheria.core.requests.RequestReaders;
import eleutheria.core.requests.RequestScopes;
import eleutheria.core.requests.RouteDecisions;
import eleutheria.core.requests.Wish;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.Colleague;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Who decides on requests, in which order: reading, drawing and setting routes. */
@RestController
class RoutesController {
  private static final int MOST_STEPS = 20;

  /** Of those who decide a step so many are named. */
  private static final int MOST_NAMED = 5;

  private final World world;
  private final RequestStore store;
  private final Commands commands;

  RoutesController(World world, RequestStore store, Commands commands) {
    this.world = world;
    this.store = store;
    this.commands = commands;
  }

  enum SeatKind {
    MANAGER,
    MANAGERS_MANAGER,
    OWNER,
    ANY_OF,
    NAMED,
    STEWARD
  }

  /**
   * @param of the group or the person; null where the seat names none
   * @param days how long whoever decides it has, from 1 to 60
   * @param onlyIf a filter (RFC 7644, section 3.4.2.2) over the answers to the request form and the
   *     asker's attributes; empty or null where the step is always needed
   */
  record StepForm(
      @NotNull SeatKind seat,
      @Nullable UUID of,
      int days,
      @Nullable @Size(max = 4000) String onlyIf) {
    RouteStep step() {
      return new RouteStep(
          switch (seat) {
            case MANAGER -> new Seat.Manager();
            case MANAGERS_MANAGER -> new Seat.ManagersManager();
            case OWNER -> new Seat.Owner();
            case STEWARD -> new Seat.Steward();
            case ANY_OF -> new Seat.AnyOf(new GroupId(of("group")));
            case NAMED -> new Seat.Named(new PersonId(of("person")));
          },
          days,
          onlyIf == null ? "" : onlyIf.strip());
    }

    private UUID of(String what) {
      if (of == null) {
        throw Refusal.of(
            Problem.invalid("route.whom", "steps", "Choose a %s for each step.".formatted(what)));
      }
      return of;
    }
  }

  /**
   * One step.
   *
   * @param of the group or the person, and what it is called; null where the seat names none
   * @param onlyIf the filter that says when it is needed; empty where it always is
   */
  record StepShape(
      SeatKind seat,
      @Nullable UUID of,
      @Nullable String name,
      int days,
      String onlyIf,
      ConditionView condition) {
    static StepShape of(DirectoryView directory, FactValue.RequestForm form, RouteStep step) {
      return switch (step.seat()) {
        case Seat.Manager s -> of(directory, form, step, SeatKind.MANAGER, null, null);
        case Seat.ManagersManager s ->
            of(directory, form, step, SeatKind.MANAGERS_MANAGER, null, null);
        case Seat.Owner s -> of(directory, form, step, SeatKind.OWNER, null, null);
        case Seat.Steward s -> of(directory, form, step, SeatKind.STEWARD, null, null);
        case Seat.AnyOf s ->
            of(
                directory,
                form,
                step,
                SeatKind.ANY_OF,
                s.group().value(),
                directory.group(s.group()).map(Group::name).orElse("a group that has ended"));
        case Seat.Named s ->
            of(
                directory,
                form,
                step,
                SeatKind.NAMED,
                s.person().value(),
                directory.person(s.person()).map(p -> p.name().displayed()).orElse("someone"));
      };
    }

    private static StepShape of(
        DirectoryView directory,
        FactValue.RequestForm form,
        RouteStep step,
        SeatKind seat,
        @Nullable UUID of,
        @Nullable String name) {
      return new StepShape(
          seat, of, name, step.days(), step.onlyIf(), ConditionView.of(directory, form, step));
    }
  }

  /**
   * The route of a scope.
   *
   * @param scope {@code all}, {@code low}, {@code medium}, {@code high}, {@code application:…} or
   *     {@code entitlement:…}
   * @param set whether it has steps of its own; else {@code steps} are those of a wider scope
   * @param entitlements for how many entitlements it counts, or would
   */
  record RouteLine(
      String scope,
      @Nullable AppRef app,
      @Nullable EntitlementRef entitlement,
      boolean set,
      List<StepShape> steps,
      int entitlements,
      boolean mayEdit) {}

  record RoutesView(List<RouteLine> lines, long position) {}

  /**
   * @param example an entitlement for which it counts, to draw it with; null where there is none
   * @param open how many requests for these entitlements are open, of those that the reader may
   *     read; they keep the steps with which they were asked
   * @param questions of the form that counts for it, to whose answers a step may be bound
   */
  record RouteView(
      RouteLine route,
      @Nullable EntitlementRef example,
      int open,
      List<QuestionForm> questions,
      List<FormsController.FormAttribute> attributes,
      long position) {}

  record RouteForm(
      @Nullable @Size(max = MOST_STEPS) List<@NotNull @Valid StepForm> base,
      @NotNull @Size(max = MOST_STEPS) List<@NotNull @Valid StepForm> steps,
      @NotNull @Size(max = 4000) String reason) {}

  record RouteClearForm(
      @NotNull @Size(max = MOST_STEPS) List<@NotNull @Valid StepForm> base,
      @NotNull @Size(max = 4000) String reason) {}

  /**
   * @param person who would ask; null for oneself
   */
  record RouteDrawForm(
      @Nullable UUID person,
      @NotNull UUID entitlement,
      @NotNull @Size(max = MOST_STEPS) List<@NotNull @Valid StepForm> steps) {}

  /**
   * A step as it would be for one person and entitlement.
   *
   * @param as what would make them decide
   * @param people at most five of them, in order of name
   * @param more how many more
   * @param step which of the route, from 0; what this person cannot need is left out
   * @param maybe whether it depends on what they answer
   * @param elsewhere whether it goes to others than it names, because none of those can decide
   * @param settled whether a yes before it counts for it
   */
  record DrawnStep(
      int step,
      boolean maybe,
      String as,
      List<String> people,
      int more,
      List<RequestView.DeputyRef> deputies,
      boolean elsewhere,
      boolean settled) {}

  record DrawnView(Colleague person, EntitlementRef entitlement, List<DrawnStep> steps) {}

  // ---- reading

  @GetMapping("/api/routes")
  @Needs(Power.REQUESTS_CONFIGURE)
  RoutesView routes(Viewer viewer) {
    return world.look(
        (facts, whole) -> {
          AccessView access = whole.access();
          List<RouteLine> lines = new ArrayList<>();
          Scopes.shown(viewer.authority(), access, s -> access.apps().routeOf(s).isPresent())
              .forEach(scope -> lines.add(line(viewer.authority(), access, scope)));
          return new RoutesView(lines, world.position());
        });
  }

  @GetMapping("/api/routes/{scope}")
  @Needs(Power.REQUESTS_CONFIGURE)
  RouteView route(Viewer viewer, @PathVariable String scope) {
    RequestScope wanted = Scopes.of(scope);
    List<AccessRequest> waiting = store.open();
    return world.look(
        (facts, whole) -> {
          AccessView access = whole.access();
          Scopes.readable(viewer.authority(), access, wanted);
          Set<EntitlementId> under = new HashSet<>();
          List<Entitlement> counts = access.apps().underRoute(wanted);
          counts.forEach(e -> under.add(e.id()));
          int open = 0;
          for (AccessRequest request : waiting) {
            if (under.contains(request.entitlement())
                && RequestReaders.reads(viewer.authority(), access, request)) {
              open++;
            }
          }
          return new RouteView(
              line(viewer.authority(), access, wanted),
              counts.stream()
                  .filter(e -> reaches(viewer.authority(), e))
                  .findFirst()
                  .map(e -> EntitlementRef.of(access.apps(), e))
                  .orElse(null),
              open,
              access.apps().formFor(wanted).questions().stream().map(QuestionForm::of).toList(),
              FormsController.FormAttribute.of(access.directory()),
              world.position());
        });
  }

  private static boolean reaches(Authority authority, Entitlement entitlement) {
    return RequestScopes.reaches(authority, entitlement.application());
  }

  private static RouteLine line(Authority authority, AccessView access, RequestScope scope) {
    AppsView apps = access.apps();
    return new RouteLine(
        scope.word(),
        Scopes.app(apps, scope),
        Scopes.entitlement(apps, scope),
        apps.routeOf(scope).isPresent(),
        apps.routeFor(scope).steps().stream()
            .map(step -> StepShape.of(access.directory(), apps.formFor(scope), step))
            .toList(),
        apps.underRoute(scope).size(),
        RequestScopes.may(authority, access, scope));
  }

  /** How steps would be for one person and entitlement, with the people by name. */
  @PostMapping("/api/routes/drawn")
  @Needs(Power.REQUESTS_CONFIGURE)
  DrawnView drawn(Viewer viewer, @Valid @RequestBody RouteDrawForm form) {
    AccessView access = world.whole().access();
    Entitlement entitlement =
        access
            .apps()
            .entitlement(new EntitlementId(form.entitlement()))
            .filter(e -> reaches(viewer.authority(), e))
            .orElseThrow(() -> Refusal.of(Problem.absent("entitlement")));
    AccessReach reach = new AccessReach(viewer.authority(), access.directory());
    PersonId id = form.person() == null ? viewer.person() : new PersonId(form.person());
    Person person =
        access
            .directory()
            .person(id)
            .filter(p -> Asking.mayAskFor(reach, p, entitlement))
            .orElseThrow(() -> Refusal.of(Problem.absent("person")));
    return new DrawnView(
        Colleague.of(person),
        EntitlementRef.of(access.apps(), entitlement),
        RouteDecisions.drawn(access, Wish.own(id, entitlement.id()), steps(form.steps())).stream()
            .map(
                step ->
                    new DrawnStep(
                        step.at(),
                        step.maybe(),
                        RequestView.word(step.deciders().capacity()),
                        step.deciders().people().stream()
                            .limit(MOST_NAMED)
                            .map(p -> RequestView.name(access, p))
                            .toList(),
                        Math.max(0, step.deciders().people().size() - MOST_NAMED),
                        RequestView.deputies(access, step.deciders()),
                        step.elsewhere(),
                        step.settled()))
            .toList());
  }

  // ---- setting

  private static FactValue.Route steps(List<StepForm> steps) {
    return new FactValue.Route(steps.stream().map(StepForm::step).toList());
  }

  @PutMapping("/api/routes/{scope}")
  @Needs(value = Power.REQUESTS_CONFIGURE, foresees = true)
  Receipt set(Viewer viewer, @PathVariable String scope, @Valid @RequestBody RouteForm form) {
    RequestScope wanted = Scopes.of(scope);
    FactValue.Route base = form.base() == null ? null : steps(form.base());
    FactValue.Route steps = steps(form.steps());
    return commands.perform(
        viewer,
        null,
        String.class,
        moment -> RouteDecisions.set(moment, wanted, base, steps, form.reason()));
  }

  @PostMapping("/api/routes/{scope}/clear")
  @Needs(value = Power.REQUESTS_CONFIGURE, foresees = true)
  Receipt clear(
      Viewer viewer, @PathVariable String scope, @Valid @RequestBody RouteClearForm form) {
    RequestScope wanted = Scopes.of(scope);
    FactValue.Route base = steps(form.base());
    return commands.perform(
        viewer,
        null,
        String.class,
        moment -> RouteDecisions.clear(moment, wanted, base, form.reason()));
  }
}
