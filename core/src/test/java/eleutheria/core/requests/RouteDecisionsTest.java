package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.groups.Tuple.tuple;

import eleutheria.core.access.EffectJudge;
import eleutheria.core.access.Effects;
import eleutheria.core.access.SecondYes;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class RouteDecisionsTest {
  private static final Seat MANAGER = new Seat.Manager();
  private static final Seat ABOVE = new Seat.ManagersManager();
  private static final Seat OWNER = new Seat.Owner();
  private static final Seat STEWARD = new Seat.Steward();

  private final House house = new House();
  private final PersonId ines = house.person("Ines Roth", "Yard");
  private final PersonId head = house.person("Una Head", "Yard");
  private final PersonId lena = house.person("Lena Aho", "Yard");
  private final PersonId oda = house.person("Oda Brekke", "Yard");
  private final PersonId nils = house.person("Nils Sand", "Yard");
  private final PersonId petra = house.person("Petra Lund", "Yard");
  private final EntitlementId till = house.role("Till", Sensitivity.LOW, petra);
  private final EntitlementId vault = house.role("Vault", Sensitivity.HIGH, petra);
  private final GroupId desk =
      house.act(m -> GroupDecisions.make(m, "Safety desk", new FactValue.Form.Listed(), ""));

  @BeforeEach
  void people() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
    house.manager(lena, head);
    house.manager(oda, lena);
    member(nils);
  }

  private void member(PersonId person) {
    house.set(new FactKey.Membership(desk, person), FactValue.Present.PRESENT);
  }

  private static FactValue.Route route(Seat... seats) {
    return new FactValue.Route(Arrays.stream(seats).map(seat -> new RouteStep(seat, 5)).toList());
  }

  private FactValue.@Nullable Route base(RequestScope scope) {
    return house.access().apps().routeOf(scope).orElse(null);
  }

  private void set(RequestScope scope, Seat... seats) {
    house.act(
        house.authority(ines),
        m -> RouteDecisions.set(m, scope, base(scope), route(seats), "another way"));
  }

  private FactValue.Route of(EntitlementId role) {
    return house.access().apps().route(house.access().apps().entitlement(role).orElseThrow());
  }

  private AccessRequest asks(EntitlementId role) {
    return house.act(
        house.authority(oda),
        m -> RequestDecisions.ask(m, 2001, oda, role, null, "For the till.", Map.of(), List.of()));
  }

  private AccessRequest says(PersonId who, AccessRequest request) {
    return house.act(
        house.authority(who),
        m ->
            RequestDecisions.answer(
                m,
                request,
                ((Stage.Open) request.stage()).step(),
                true,
                null,
                "",
                Duration.ofNanos(1000)));
  }

  private static int waiting(AccessRequest request) {
    return ((Stage.Open) request.stage()).step();
  }

  @Test
  void theNarrowestThatIsSetCounts() {
    ApplicationId app = house.app(till);
    assertThat(of(till)).isEqualTo(FactValue.Route.SHIPPED);
    set(new RequestScope.OfAll(), OWNER);
    assertThat(of(till)).isEqualTo(route(OWNER));
    set(new RequestScope.OfSensitivity(Sensitivity.LOW), MANAGER);
    assertThat(of(till)).isEqualTo(route(MANAGER));
    assertThat(of(vault)).as("of another sensitivity").isEqualTo(route(OWNER));
    set(new RequestScope.OfApp(app), ABOVE);
    assertThat(of(till)).isEqualTo(route(ABOVE));
    set(new RequestScope.OfEntitlement(till), STEWARD);
    assertThat(of(till)).isEqualTo(route(STEWARD));
    house.act(
        house.authority(ines),
        m ->
            RouteDecisions.clear(
                m, new RequestScope.OfEntitlement(till), route(STEWARD), "as the rest of it"));
    assertThat(of(till)).as("the wider one again").isEqualTo(route(ABOVE));
  }

  @Test
  void eachStepHasItsPeopleAndItsTimeAndTheGrantComesWithTheLast() {
    house.act(
        house.authority(ines),
        m ->
            RouteDecisions.set(
                m,
                new RequestScope.OfApp(house.app(till)),
                null,
                new FactValue.Route(
                    List.of(
                        new RouteStep(ABOVE, 3),
                        new RouteStep(new Seat.AnyOf(desk), 10),
                        new RouteStep(new Seat.Named(lena), 1),
                        new RouteStep(OWNER, 14))),
                "money"));
    AccessRequest request = asks(till);
    List<PersonId> said = new ArrayList<>();
    for (int days : List.of(3, 10, 1, 14)) {
      Stage.Open open = (Stage.Open) request.stage();
      assertThat(Duration.between(open.from(), open.lapses())).isEqualTo(Duration.ofDays(days));
      PersonId decider =
          Deciders.of(house.access(), request, open).people().stream().findFirst().orElseThrow();
      said.add(decider);
      request = says(decider, request);
    }
    assertThat(said).containsExactly(head, nils, lena, petra);
    assertThat(request.stage()).isInstanceOf(Stage.Given.class);
    assertThat(request.answers())
        .extracting(Decision::capacity)
        .containsExactly(
            Deciders.Capacity.MANAGERS_MANAGER,
            Deciders.Capacity.MEMBER,
            Deciders.Capacity.NAMED,
            Deciders.Capacity.OWNER);
  }

  @Test
  void whatIsAskedKeepsItsSteps() {
    AccessRequest before = asks(till);
    set(new RequestScope.OfAll(), STEWARD);
    assertThat(before.route()).isEqualTo(FactValue.Route.SHIPPED);
    AccessRequest after = says(lena, before);
    assertThat(after.route().steps().get(waiting(after)).seat()).isEqualTo(OWNER);
  }

  @Test
  void whoeverHasSaidYesIsNotAskedAgain() {
    member(lena);
    set(
        new RequestScope.OfAll(),
        MANAGER,
        ABOVE,
        new Seat.AnyOf(desk),
        new Seat.Named(lena),
        OWNER);
    AccessRequest request = asks(till);
    assertThat(RouteDecisions.drawn(house.access(), request.wish(), request.route()))
        .extracting(RouteDecisions.Drawn::settled)
        .as("Nils could decide for the desk, Lena has decided already")
        .containsExactly(false, false, true, true, false);
    request = says(lena, request);
    assertThat(waiting(request)).isEqualTo(1);
    request = says(head, request);
    assertThat(waiting(request)).as("Lena's counts for the desk and her own").isEqualTo(4);
    assertThat(says(petra, request).stage()).isInstanceOf(Stage.Given.class);
  }

  /** In a group, one member's yes may be the last and another's not. */
  @Test
  void whetherAYesGrantsDependsOnWhoseItIs() {
    member(petra);
    set(new RequestScope.OfAll(), new Seat.AnyOf(desk), OWNER);
    AccessRequest request = asks(till);
    Stage.Open open = (Stage.Open) request.stage();
    assertThat(RequestDecisions.grants(house.access(), request, open, petra)).isTrue();
    assertThat(RequestDecisions.grants(house.access(), request, open, nils)).isFalse();
    assertThat(says(petra, request).stage()).isInstanceOf(Stage.Given.class);
    assertThat(waiting(says(nils, request))).isEqualTo(1);
  }

  /** A step is never without people: what it names passes up to the owners, then the stewards. */
  @Test
  void aStepThatNobodyCanDecidePassesUp() {
    set(new RequestScope.OfAll(), new Seat.AnyOf(desk), new Seat.Named(oda), ABOVE);
    AccessRequest request = asks(till);
    house.status(nils, PersonStatus.PAUSED);
    assertThat(Deciders.of(house.access(), request, 0))
        .isEqualTo(new Deciders(Deciders.Capacity.OWNER, List.of(petra)));
    assertThat(Deciders.of(house.access(), request, 1).people())
        .as("not who asks")
        .containsExactly(petra);
    house.status(petra, PersonStatus.PAUSED);
    assertThat(Deciders.of(house.access(), request, 0))
        .isEqualTo(new Deciders(Deciders.Capacity.STEWARD, List.of(ines)));
    house.status(head, PersonStatus.PAUSED);
    assertThat(Deciders.of(house.access(), request, 2).capacity())
        .isEqualTo(Deciders.Capacity.STEWARD);
    assertThat(RouteDecisions.drawn(house.access(), request.wish(), request.route()))
        .extracting(RouteDecisions.Drawn::elsewhere)
        .containsOnly(true);
  }

  private List<String> refused(PersonId who, RequestScope scope, FactValue.Route wanted) {
    return house.refused(
        house.authority(who), m -> RouteDecisions.set(m, scope, base(scope), wanted, "another"));
  }

  @Test
  void whoReachesAllOfItSetsIt() {
    MandateId mandate = new MandateId(new UUID(7, 1));
    house.set(
        new FactKey.Mandate(mandate),
        new FactValue.Terms(
            "Requests of the till",
            "",
            new TreeSet<>(List.of(Power.REQUESTS_CONFIGURE.word())),
            new Reach(null, new TreeSet<>(List.of(house.app(till).value().toString())), null)));
    house.hold(mandate, nils);
    for (RequestScope beyond :
        List.of(
            new RequestScope.OfAll(),
            new RequestScope.OfSensitivity(Sensitivity.LOW),
            new RequestScope.OfApp(house.app(vault)),
            new RequestScope.OfEntitlement(vault))) {
      assertThat(refused(nils, beyond, route(OWNER)))
          .as(beyond.word())
          .containsExactly(Power.REQUESTS_CONFIGURE.word());
    }
    assertThat(refused(petra, new RequestScope.OfApp(house.app(till)), route(OWNER)))
        .as("owning it is not enough")
        .containsExactly(Power.REQUESTS_CONFIGURE.word());
    RequestScope scope = new RequestScope.OfApp(house.app(till));
    assertThat(refused(nils, scope, route(new Seat.Named(nils), OWNER)))
        .as("nobody puts themselves on it")
        .containsExactly("route.own");
    assertThat(refused(nils, scope, route(OWNER, new Seat.AnyOf(desk))))
        .as("nor a group they are in")
        .containsExactly("route.own");
    Outcome<String> own =
        house.decide(
            house.authority(nils), m -> RouteDecisions.set(m, scope, null, route(OWNER), " mine "));
    assertThat(own).isInstanceOf(Outcome.Done.class);
    assertThat(((Outcome.Done<String>) own).act().name()).isEqualTo(ActName.ROUTE_SET);
    assertThat(((Outcome.Done<String>) own).act().reason()).isEqualTo("mine");
    assertThat(((Outcome.Done<String>) own).act().objects()).containsExactly(house.app(till));
    // Where somebody else has done so, they set the rest of it.
    set(scope, OWNER, new Seat.AnyOf(desk));
    assertThat(
            house.decide(
                house.authority(nils),
                m ->
                    RouteDecisions.set(
                        m, scope, base(scope), route(MANAGER, new Seat.AnyOf(desk)), "another")))
        .isInstanceOf(Outcome.Done.class);
  }

  @Test
  void whatMakesNoSenseIsRefused() {
    RequestScope all = new RequestScope.OfAll();
    assertThat(refused(ines, all, route())).containsExactly("route.empty");
    assertThat(refused(ines, all, route(OWNER, MANAGER, OWNER))).containsExactly("route.twice");
    assertThat(refused(ines, all, route(new Seat.AnyOf(new GroupId(new UUID(1, 1))))))
        .containsExactly("route.group");
    house.status(nils, PersonStatus.DEPARTED);
    assertThat(refused(ines, all, route(new Seat.Named(nils)))).containsExactly("route.person");
    for (int days : new int[] {RouteStep.SHORTEST - 1, RouteStep.LONGEST + 1}) {
      assertThat(refused(ines, all, new FactValue.Route(List.of(new RouteStep(OWNER, days)))))
          .containsExactly("route.days");
    }
    List<Seat> many = new ArrayList<>();
    for (int i = 0; i <= FactValue.Route.MOST; i++) {
      many.add(new Seat.Named(house.person("One " + i, "Yard")));
    }
    assertThat(refused(ines, all, route(many.toArray(Seat[]::new)))).containsExactly("route.many");
    assertThat(
            refused(ines, new RequestScope.OfApp(new ApplicationId(new UUID(1, 1))), route(OWNER)))
        .containsExactly("absent");
    set(all, OWNER);
    assertThat(refused(ines, all, route(OWNER))).containsExactly("route.same");
    assertThat(
            house.refused(
                house.authority(ines),
                m -> RouteDecisions.set(m, all, null, route(MANAGER), "from an old page")))
        .containsExactly("changed-meanwhile");
    assertThat(
            house.refused(
                house.authority(ines), m -> RouteDecisions.clear(m, all, route(OWNER), " ")))
        .containsExactly("route.no-reason");
    for (int i = 0; i <= RouteDecisions.MOST_MEMBERS; i++) {
      member(house.person("Member " + i, "Yard"));
    }
    assertThat(refused(ines, all, route(new Seat.AnyOf(desk)))).containsExactly("route.members");
  }

  private List<String> judged(Function<Moment, Outcome<String>> decision) {
    List<String> codes = new ArrayList<>();
    house.watch(
        (facts, directory, edits, moves, at) -> {
          Moment moment =
              new Moment(facts, directory, at, House.ZONE, UUID::randomUUID, house.authority(ines));
          EffectJudge.judge(
                  moment,
                  house.access(),
                  Effects.of(facts, directory, house.access(), edits, moves, at),
                  edits,
                  Outcome.Right.BY_EFFECT)
              .stream()
              .map(Problem::code)
              .forEach(codes::add);
        });
    house.act(house.authority(ines), decision);
    return codes;
  }

  /** Nobody alone takes a yes away from something of high sensitivity, while a second is there. */
  @Test
  void leavingOutAStepOfSomethingHighNeedsASecondPerson() {
    RequestScope app = new RequestScope.OfApp(house.app(vault));
    RequestScope all = new RequestScope.OfAll();
    assertThat(judged(m -> RouteDecisions.set(m, app, null, route(OWNER), "quick")))
        .as("nobody else could say yes")
        .isEmpty();
    house.hold(ShippedMandate.STEWARD.id(), head);
    assertThat(
            judged(
                m -> RouteDecisions.set(m, app, route(OWNER), route(OWNER, STEWARD), "stricter")))
        .isEmpty();
    assertThat(judged(m -> RouteDecisions.set(m, all, null, route(MANAGER), "not its own")))
        .as("the vault has its own")
        .isEmpty();
    assertThat(judged(m -> RouteDecisions.clear(m, app, route(OWNER, STEWARD), "as all")))
        .as("by clearing it as well")
        .containsExactly(SecondYes.CODE);
    assertThat(judged(m -> RouteDecisions.set(m, all, route(MANAGER), route(OWNER), "all")))
        .as("by the wider one, that now counts")
        .containsExactly(SecondYes.CODE);
  }

  private static RouteStep only(Seat seat, String filter) {
    return new RouteStep(seat, 5, filter);
  }

  private static FactValue.RequestForm form(String... choices) {
    return new FactValue.RequestForm(
        List.of(
            new Question("need", "Need?", "", true, new Question.OneOf(List.of(choices)), ""),
            new Question("amount", "Amount?", "", false, new Question.Number(null, null), "")),
        Term.SHIPPED);
  }

  private void asks(FactValue.RequestForm form) {
    house.set(new FactKey.RequestForm(new RequestScope.OfAll()), form);
  }

  private AccessRequest asks(Map<String, List<String>> answers) {
    return house.act(
        house.authority(oda),
        m -> RequestDecisions.ask(m, 1, oda, till, null, "season", answers, List.of()));
  }

  private static List<Seat> seats(AccessRequest request) {
    return request.route().steps().stream().map(RouteStep::seat).toList();
  }

  @Test
  void aStepIsNeededAsItsConditionAndTheAnswersSay() {
    asks(form("Covering", "Work"));
    FactValue.Route route =
        new FactValue.Route(
            List.of(
                new RouteStep(MANAGER, 5),
                only(OWNER, "amount gt 500"),
                only(ABOVE, "need eq \"Work\" and unit eq \"Yard\""),
                only(STEWARD, "unit eq \"Elsewhere\"")));
    house.act(
        house.authority(ines),
        m -> RouteDecisions.set(m, new RequestScope.OfAll(), null, route, "by amount"));
    assertThat(seats(asks(Map.of("need", List.of("Covering"))))).containsExactly(MANAGER);
    AccessRequest large = asks(Map.of("need", List.of("Covering"), "amount", List.of("500.5")));
    assertThat(seats(large)).containsExactly(MANAGER, OWNER);
    assertThat(seats(asks(Map.of("need", List.of("Work"), "amount", List.of("500")))))
        .containsExactly(MANAGER, ABOVE);
    // What is drawn before anything is answered: what may be needed, and never what cannot be.
    assertThat(RouteDecisions.drawn(house.access(), Wish.own(oda, till), route))
        .extracting(RouteDecisions.Drawn::at, RouteDecisions.Drawn::maybe)
        .containsExactly(tuple(0, false), tuple(1, true), tuple(2, true));
    // A request keeps what it needed, whatever the form and the route become.
    asks(form("Covering", "Other"));
    house.act(
        house.authority(ines),
        m -> RouteDecisions.clear(m, new RequestScope.OfAll(), route, "no longer"));
    assertThat(waiting(says(lena, large))).isEqualTo(1);
  }

  /** A yes that may not be needed counts for no other step. */
  @Test
  void whatMayBeNeededSettlesNothing() {
    asks(form("Covering", "Work"));
    FactValue.Route route =
        new FactValue.Route(
            List.of(only(new Seat.Named(lena), "amount gt 500"), new RouteStep(MANAGER, 5)));
    assertThat(RouteDecisions.drawn(house.access(), Wish.own(oda, till), route))
        .extracting(RouteDecisions.Drawn::maybe, RouteDecisions.Drawn::settled)
        .containsExactly(tuple(true, false), tuple(false, false));
  }

  @Test
  void aConditionThatCanNoLongerBeReadAsksForTheStep() {
    asks(form("Covering", "Work"));
    FactValue.Route route =
        new FactValue.Route(List.of(new RouteStep(MANAGER, 5), only(OWNER, "amount gt 500")));
    house.act(
        house.authority(ines),
        m -> RouteDecisions.set(m, new RequestScope.OfAll(), null, route, "by amount"));
    asks(new FactValue.RequestForm(List.of(), Term.SHIPPED));
    assertThat(seats(asks(Map.of()))).containsExactly(MANAGER, OWNER);
  }

  @Test
  void aConditionNamesWhatIsAskedAndOneStepHasNone() {
    asks(form("Covering", "Work"));
    RequestScope all = new RequestScope.OfAll();
    assertThat(refused(ines, all, new FactValue.Route(List.of(only(OWNER, "need pr")))))
        .containsExactly("route.never");
    for (String filter : List.of("nothing pr", "amount co 5", "need eq Work", "need")) {
      assertThat(
              refused(
                  ines,
                  all,
                  new FactValue.Route(List.of(new RouteStep(MANAGER, 5), only(OWNER, filter)))))
          .containsExactly("route.only-if");
    }
  }

  /** What makes a step needless for something high needs a second person, by route or by form. */
  @Test
  void aConditionOnAStepOfSomethingHighNeedsASecondPerson() {
    house.hold(ShippedMandate.STEWARD.id(), head);
    RequestScope app = new RequestScope.OfApp(house.app(vault));
    FactValue.RequestForm form = form("Covering", "Work");
    asks(form);
    FactValue.Route always = route(MANAGER, OWNER);
    FactValue.Route sometimes =
        new FactValue.Route(List.of(new RouteStep(MANAGER, 5), only(OWNER, "need eq \"Work\"")));
    assertThat(judged(m -> RouteDecisions.set(m, app, null, always, "its own"))).isEmpty();
    assertThat(judged(m -> RouteDecisions.set(m, app, always, sometimes, "less")))
        .containsExactly(SecondYes.CODE);
    assertThat(judged(m -> FormDecisions.set(m, app, null, form("Cover", "Job"), "other words")))
        .as("no answer would ask for the owner")
        .containsExactly(SecondYes.CODE);
    assertThat(judged(m -> RouteDecisions.set(m, app, sometimes, always, "stricter"))).isEmpty();
    assertThat(
            judged(
                m -> FormDecisions.set(m, app, form("Cover", "Job"), form("A", "B"), "as I like")))
        .as("no step depends on it")
        .isEmpty();
  }
}
