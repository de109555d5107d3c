package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessView;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Seat;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The laws of a request under random commands by anybody at any time, with people leaving, changing
 * managers and apps pausing in between: no sequence reaches a grant without every required decision
 * by someone who was allowed to make it, and none leaves a request stuck.
 */
class RequestHistoryTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);
  private static final int COMMANDS = 1600;

  /** The command that decides; the others stand before it. */
  private static final int ANSWER = 16;

  private final House house = new House();
  private final List<PersonId> people = new ArrayList<>();
  private final Map<RequestId, AccessRequest> requests = new HashMap<>();
  private final Map<RequestId, List<Message>> threads = new HashMap<>();

  /**
   * For each decision that was taken: who could make it at that moment, told by the plain words.
   */
  private final Map<Decision, Boolean> allowed = new HashMap<>();

  /** Which steps a decision counted for beside its own. */
  private final Map<Decision, List<Integer>> counted = new HashMap<>();

  private final GroupId desk = new GroupId(new UUID(7, 7));

  private int number = 2000;
  private String where = "";

  /** How many steps the routes had by which something was granted. */
  private static final Set<Integer> GRANTED_BY = new TreeSet<>();

  private static final AtomicInteger DEPUTIES = new AtomicInteger();

  @AfterAll
  static void allOfItOccurs() {
    assertThat(GRANTED_BY).as("grants by routes of all lengths").containsExactly(1, 2, 3);
    assertThat(DEPUTIES).as("deputies decide").hasValueGreaterThan(20);
  }

  @ParameterizedTest
  @ValueSource(longs = {201, 202, 203, 204, 205, 206, 207, 208})
  void noGrantWithoutEveryDecisionAndNothingStuck(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    for (int i = 0; i < 8; i++) {
      people.add(house.person("Person " + i, "Deck crew"));
    }
    PersonId steward = house.person("Steward", null);
    house.hold(ShippedMandate.STEWARD.id(), steward);
    // Where one of them asks, there is another who could decide.
    PersonId second = house.person("Second steward", null);
    house.hold(ShippedMandate.STEWARD.id(), second);
    for (int i = 1; i < 8; i++) {
      house.manager(people.get(i), people.get(i / 2));
    }
    List<EntitlementId> roles =
        List.of(
            house.role("Light", Sensitivity.LOW, people.get(0)),
            house.role("Heavy", Sensitivity.HIGH, people.get(1), people.get(3)),
            house.role("Orphan", Sensitivity.LOW, people.get(7)),
            house.role("Fourth", Sensitivity.LOW, people.get(5), people.get(6)),
            house.role("Fifth", Sensitivity.LOW, people.get(2)),
            house.role("Sixth", Sensitivity.LOW, people.get(4)));
    house.set(new FactKey.Existence(desk), FactValue.Present.PRESENT);
    house.set(new FactKey.GroupName(desk), new FactValue.Text("Desk"));
    house.set(new FactKey.GroupForm(desk), new FactValue.Form.Listed());
    List<PersonId> actors = new ArrayList<>(people);
    actors.add(steward);
    actors.add(second);
    for (int command = 0; command < COMMANDS; command++) {
      where = "seed " + seed + " command " + command;
      if (random.nextInt(6) == 0) {
        worldMoves(random, roles, steward);
      } else {
        command(random, roles, actors.get(random.nextInt(actors.size())));
      }
      house.pass(Duration.ofSeconds(random.nextInt(4) == 0 ? 7_200 : random.nextInt(15)));
      check();
    }
    assertThat(requests.values().stream().filter(r -> r.stage() instanceof Stage.Given))
        .as("seed %d comes to grants at all", seed)
        .isNotEmpty();
    assertThat(
            threads.values().stream().flatMap(List::stream).map(Message::kind).distinct().toList())
        .as("seed %d asks and answers", seed)
        .contains(
            Message.Kind.ASKED, Message.Kind.ANSWERED, Message.Kind.SAID, Message.Kind.PASSED);
    assertThat(
            requests.values().stream()
                .filter(r -> r.stage() instanceof Stage.Given && !r.wish().forSelf()))
        .as("seed %d grants what was asked for others", seed)
        .isNotEmpty();
    requests.values().stream()
        .filter(r -> r.stage() instanceof Stage.Given)
        .forEach(r -> GRANTED_BY.add(r.route().steps().size()));
    DEPUTIES.addAndGet(
        (int) allowed.keySet().stream().filter(answer -> answer.behalf() != null).count());
    // Whatever is still open lapses by itself once its time is over, whoever has gone.
    house.pass(Duration.ofDays(RouteStep.LONGEST).plus(ThreadDecisions.LONGEST).plusDays(1));
    for (AccessRequest asked : List.copyOf(requests.values())) {
      AccessRequest request =
          asked.stage() instanceof Stage.AskedBack back
              ? house.act(m -> ThreadDecisions.goesOn(m, asked, back.goesOn()).orElseThrow())
              : asked;
      assertThat(ThreadDecisions.gone(asked)).as(where).isEqualTo(request);
      if (request.stage() instanceof Stage.Waiting waiting) {
        AccessRequest after =
            house.act(m -> RequestDecisions.lapse(m, request, waiting.lapses()).orElseThrow());
        assertThat(after.stage()).as(where).isInstanceOf(Stage.Lapsed.class);
      }
    }
  }

  private void worldMoves(SplittableRandom random, List<EntitlementId> roles, PersonId steward) {
    PersonId person = people.get(random.nextInt(people.size()));
    switch (random.nextInt(12)) {
      case 6 -> setsRoute(random, roles.get(random.nextInt(roles.size())), steward);
      case 7 -> house.set(new FactKey.Membership(desk, person), FactValue.Present.PRESENT);
      case 0 ->
          house.status(person, random.nextInt(3) == 0 ? PersonStatus.PAUSED : PersonStatus.ACTIVE);
      // Circles of managers occur in deliveries and must not hang anything.
      case 1 -> house.manager(person, people.get(random.nextInt(people.size())));
      case 2, 3, 4, 8, 9, 10 -> namesDeputy(random, person);
      case 5 ->
          house.facts.keys(FactKey.Deputy.class).stream()
              .filter(key -> !house.facts.from(key, house.now()).isEmpty())
              .findFirst()
              .ifPresent(
                  key ->
                      house.decide(
                          house.authority(key.deputy()),
                          m -> DeputyDecisions.end(m, key.subject(), key.deputy())));
      default ->
          house.set(
              new FactKey.AppState(house.app(roles.get(random.nextInt(roles.size())))),
              new FactValue.AppState(
                  random.nextInt(3) == 0 ? ApplicationState.PAUSED : ApplicationState.OPEN));
    }
  }

  /** What is open keeps the steps that it was asked with. */
  private void setsRoute(SplittableRandom random, EntitlementId role, PersonId steward) {
    List<RequestScope> scopes =
        List.of(
            new RequestScope.OfEntitlement(role),
            new RequestScope.OfApp(house.app(role)),
            new RequestScope.OfSensitivity(Sensitivity.LOW),
            new RequestScope.OfAll());
    RequestScope scope = scopes.get(random.nextInt(scopes.size()));
    FactValue.Route base = house.access().apps().routeOf(scope).orElse(null);
    if (base != null && random.nextBoolean()) {
      house.act(
          house.authority(steward), m -> RouteDecisions.clear(m, scope, base, "as everywhere"));
      return;
    }
    List<Seat> seats =
        new ArrayList<>(
            List.of(
                new Seat.Manager(),
                new Seat.ManagersManager(),
                new Seat.Owner(),
                new Seat.Steward(),
                new Seat.AnyOf(desk),
                new Seat.Named(people.get(random.nextInt(people.size())))));
    List<RouteStep> steps = new ArrayList<>();
    int length = 1 + random.nextInt(3);
    for (int i = 0; i < length; i++) {
      steps.add(
          new RouteStep(
              seats.remove(random.nextInt(seats.size())),
              RouteStep.SHORTEST + random.nextInt(RouteStep.LONGEST)));
    }
    house.decide(
        house.authority(steward),
        m -> RouteDecisions.set(m, scope, base, new FactValue.Route(steps), "another way"));
  }

  private void namesDeputy(SplittableRandom random, PersonId person) {
    LocalDate from = house.now().atZone(House.ZONE).toLocalDate().plusDays(random.nextInt(2));
    TreeSet<Duty> duties = new TreeSet<>(List.of(Duty.values()[random.nextInt(2)]));
    if (random.nextBoolean()) {
      duties.addAll(List.of(Duty.values()));
    }
    List<PersonId> known = DeputyDecisions.candidates(house.directory(), person);
    PersonId deputy =
        known.isEmpty() || random.nextInt(4) == 0
            ? people.get(random.nextInt(people.size()))
            : known.get(random.nextInt(known.size()));
    house.decide(
        house.authority(person),
        m ->
            DeputyDecisions.name(
                m, person, deputy, from, from.plusDays(random.nextInt(40)), duties));
  }

  private void command(SplittableRandom random, List<EntitlementId> roles, PersonId anybody) {
    List<AccessRequest> all = List.copyOf(requests.values());
    int which = random.nextInt(3) == 0 ? ANSWER : random.nextInt(ANSWER);
    if (which < 2 || random.nextInt(6) == 0 || all.isEmpty()) {
      PersonId actor = anybody;
      Authority authority = house.authority(actor);
      EntitlementId role = roles.get(random.nextInt(roles.size()));
      LocalDate until =
          random.nextInt(3) == 0
              ? null
              : house.now().atZone(House.ZONE).toLocalDate().plusDays(random.nextInt(500) - 2);
      List<PersonId> team = house.directory().team(actor).stream().sorted().toList();
      PersonId person =
          switch (random.nextInt(4)) {
            case 0 -> people.get(random.nextInt(people.size()));
            case 1, 2 -> team.isEmpty() ? actor : team.get(random.nextInt(team.size()));
            default -> actor;
          };
      boolean may =
          person.equals(actor)
              || team.contains(person)
              || authority.reaches(Power.ACCESS_READ, house.app(role));
      keep(
              authority,
              m ->
                  RequestDecisions.ask(
                      m, number++, person, role, until, "because", Map.of(), requests.values()))
          .ifPresent(asked -> assertThat(may).as(where).isTrue());
      return;
    }
    List<AccessRequest> open = all.stream().filter(r -> r.stage().open()).toList();
    List<AccessRequest> some = open.isEmpty() || random.nextInt(4) == 0 ? all : open;
    AccessRequest request = some.get(random.nextInt(some.size()));
    PersonId actor = random.nextInt(3) == 0 ? anybody : oneWhoMay(random, request);
    Authority authority = house.authority(actor);
    switch (which) {
      case 2 -> keep(authority, m -> RequestDecisions.withdraw(m, request));
      case 3, 4 ->
          keep(authority, m -> RequestDecisions.takeBack(m, request, TAKE_BACK))
              // As it was before the decision, whatever had been asked then.
              .ifPresent(
                  after ->
                      assertThat(after.stage())
                          .as(where)
                          .isEqualTo(request.answers().getLast().before()));
      case 5, 6, 7 -> asksBack(authority, actor, request);
      case 8, 9, 10, 11, 12 ->
          speaks(authority, request, m -> ThreadDecisions.say(m, request, said(request), "x"));
      case 13 ->
          speaks(
                  authority,
                  request,
                  m -> ThreadDecisions.withdrawQuestion(m, request, said(request)))
              .ifPresent(
                  after ->
                      assertThat(((Stage.AskedBack) request.stage()).by())
                          .as(where)
                          .isEqualTo(actor));
      case 14, 15 -> passesOn(random, authority, actor, request);
      default -> {
        int step = random.nextInt(request.route().steps().size());
        boolean yes = random.nextInt(4) != 0;
        AccessView before = house.access();
        boolean mayDecide =
            !request.wish().isOf(actor)
                && (deciding(before, request, step).contains(actor)
                    || deputising(before, request, step).contains(actor)
                    || authority.reaches(Power.REQUESTS_STEP_IN, house.app(request.entitlement())));
        keep(
                authority,
                m -> RequestDecisions.answer(m, request, step, yes, null, "a word", TAKE_BACK))
            .flatMap(AccessRequest::lastAnswer)
            .ifPresent(
                answer -> {
                  allowed.put(answer, mayDecide);
                  counted.put(answer, countsFor(before, request, answer));
                  assertThat(answer.behalf() != null)
                      .as(where)
                      .isEqualTo(deputising(before, request, step).contains(actor));
                });
      }
    }
  }

  /**
   * The steps to come that a yes counted for, told by the plain words: those right after it that
   * somebody decides who has said yes, for themselves or as the same person's deputy.
   */
  private List<Integer> countsFor(AccessView access, AccessRequest request, Decision answer) {
    List<Decision> yes = new ArrayList<>(request.answers());
    yes.add(answer);
    List<Integer> found = new ArrayList<>();
    for (int step = answer.step() + 1; step < request.route().steps().size(); step++) {
      Deciders path = byPath(access, request, step);
      List<PersonId> deputies = deputising(access, request, step);
      boolean counts =
          path.capacity() != Deciders.Capacity.STEWARD
              && yes.stream()
                  .anyMatch(
                      each ->
                          each.behalf() == null
                              ? path.people().contains(each.by())
                              : path.people().contains(each.behalf())
                                  && deputies.contains(each.by()));
      if (!counts) {
        break;
      }
      found.add(step);
    }
    return found;
  }

  private static Deciders byPath(AccessView access, AccessRequest request, int step) {
    return Deciders.of(access, request.wish(), request.route(), step);
  }

  private static final Map<Deciders.Capacity, Duty> DUTIES =
      Map.of(
          Deciders.Capacity.MANAGER, Duty.TEAM,
          Deciders.Capacity.MANAGERS_MANAGER, Duty.TEAM,
          Deciders.Capacity.OWNER, Duty.APPS);

  /** Whoever decides this step, told without the product's own rule for what was passed on. */
  private static List<PersonId> deciding(AccessView access, AccessRequest request, int step) {
    if (request.stage() instanceof Stage.Open open
        && open.step() == step
        && open.passed() != null
        && access.directory().person(open.passed().to()).orElseThrow().status()
            == PersonStatus.ACTIVE) {
      return List.of(open.passed().to());
    }
    return byPath(access, request, step).people();
  }

  /**
   * Who decides this step for somebody, told by the plain words: named by one of those whose it is,
   * for such a step and this moment; at work; not the asker, nor whoever decides or has decided
   * anything else of it.
   */
  private List<PersonId> deputising(AccessView access, AccessRequest request, int step) {
    Deciders path = byPath(access, request, step);
    boolean passed =
        request.stage() instanceof Stage.Open open
            && open.step() == step
            && !deciding(access, request, step).equals(path.people());
    if (passed || !DUTIES.containsKey(path.capacity())) {
      return List.of();
    }
    Duty duty = DUTIES.get(path.capacity());
    List<PersonId> found = new ArrayList<>();
    for (FactKey.Deputy key : house.facts.keys(FactKey.Deputy.class)) {
      PersonId deputy = key.deputy();
      if (path.people().contains(key.subject())
          && house.facts.valueAt(key, house.now()) instanceof FactValue.Duties duties
          && duties.duties().contains(duty)
          && access.directory().person(deputy).orElseThrow().status() == PersonStatus.ACTIVE
          && !request.wish().isOf(deputy)
          && request.answers().stream().noneMatch(answer -> answer.by().equals(deputy))
          && IntStream.range(0, request.route().steps().size())
              .mapToObj(each -> byPath(access, request, each))
              .noneMatch(deciders -> deciders.people().contains(deputy))) {
        found.add(deputy);
      }
    }
    return found;
  }

  /** It reaches nobody but whom it may, never the asker, and gives the step no time. */
  private void passesOn(
      SplittableRandom random, Authority authority, PersonId actor, AccessRequest request) {
    List<PersonId> may =
        request.stage() instanceof Stage.Open open
            ? PassOnDecisions.to(house.access(), request, open, actor)
            : List.of();
    PersonId to =
        may.isEmpty() || random.nextInt(4) == 0
            ? people.get(random.nextInt(people.size()))
            : may.get(random.nextInt(may.size()));
    List<PersonId> before =
        request.stage() instanceof Stage.Open open
            ? deciding(house.access(), request, open.step())
            : List.of();
    speaks(
            authority,
            request,
            m -> PassOnDecisions.passOn(m, request, said(request), to, "You know them better."))
        .ifPresent(
            after -> {
              assertThat(may)
                  .as(where)
                  .contains(to)
                  .doesNotContain(request.asker(), request.person());
              assertThat(request.answers().stream().map(Decision::by)).as(where).doesNotContain(to);
              assertThat(
                      before.contains(actor)
                          || authority.reaches(
                              Power.REQUESTS_STEP_IN, house.app(request.entitlement())))
                  .as(where)
                  .isTrue();
              Stage.Open now = (Stage.Open) after.stage();
              assertThat(now.passed()).as(where).isEqualTo(new Stage.PassedOn(to, actor));
              assertThat(now.lapses()).as(where).isEqualTo(((Stage.Open) request.stage()).lapses());
            });
  }

  /** Somebody who has a part in it, so that most of what is tried comes to something. */
  private PersonId oneWhoMay(SplittableRandom random, AccessRequest request) {
    List<PersonId> some = new ArrayList<>(request.wish().people());
    if (request.stage() instanceof Stage.Open open) {
      some.addAll(deciding(house.access(), request, open.step()));
      some.addAll(deputising(house.access(), request, open.step()));
    }
    request.answers().forEach(answer -> some.add(answer.by()));
    return some.get(random.nextInt(some.size()));
  }

  /** Only who could decide asks, never the asker; the step's time is what it was. */
  private void asksBack(Authority authority, PersonId actor, AccessRequest request) {
    speaks(authority, request, m -> ThreadDecisions.askBack(m, request, said(request), "why?"))
        .ifPresent(
            after -> {
              Stage.Waiting before = (Stage.Waiting) request.stage();
              Stage.AskedBack asked = (Stage.AskedBack) after.stage();
              assertThat(request.wish().isOf(actor)).as(where).isFalse();
              assertThat(asked.by()).as(where).isEqualTo(actor);
              assertThat(asked.since().plus(asked.left())).as(where).isEqualTo(before.lapses());
              assertThat(
                      deciding(house.access(), request, before.step()).contains(actor)
                          || deputising(house.access(), request, before.step()).contains(actor)
                          || authority.reaches(
                              Power.REQUESTS_STEP_IN, house.app(request.entitlement())))
                  .as(where)
                  .isTrue();
            });
  }

  private List<Message> said(AccessRequest request) {
    return threads.getOrDefault(request.id(), List.of());
  }

  private Optional<AccessRequest> speaks(
      Authority authority,
      AccessRequest request,
      Function<Moment, Outcome<ThreadDecisions.Spoken>> decision) {
    if (house.decide(authority, decision) instanceof Outcome.Done<ThreadDecisions.Spoken> done) {
      assertThat(done.edits()).as(where).isEmpty();
      requests.put(request.id(), done.result().request());
      if (done.result().message() != null) {
        threads.computeIfAbsent(request.id(), id -> new ArrayList<>()).add(done.result().message());
      }
      return Optional.of(done.result().request());
    }
    return Optional.empty();
  }

  private Optional<AccessRequest> keep(
      Authority authority, Function<Moment, Outcome<AccessRequest>> decision) {
    if (house.decide(authority, decision) instanceof Outcome.Done<AccessRequest> done) {
      requests.put(done.result().id(), done.result());
      return Optional.of(done.result());
    }
    return Optional.empty();
  }

  private void check() {
    int given = 0;
    AccessView access = house.access();
    for (AccessRequest request : requests.values()) {
      request.answers().forEach(a -> assertThat(allowed.get(a)).as(where).isTrue());
      switch (request.stage()) {
        case Stage.Open waiting -> {
          // However often somebody asks back, a step comes to its end.
          assertThat(waiting.lapses())
              .as(where)
              .isBeforeOrEqualTo(
                  waiting
                      .from()
                      .plus(request.step(waiting.step()).patience())
                      .plus(ThreadDecisions.LONGEST));
          assertThat(request.answers().stream().allMatch(Decision::yes)).as(where).isTrue();
          assertThat(request.answers().stream().map(Decision::step))
              .as(where)
              .doesNotContain(waiting.step());
          assertThat(deciding(access, request, waiting.step()))
              .as("%s: somebody can decide", where)
              .isNotEmpty()
              .doesNotContain(request.asker(), request.person());
        }
        case Stage.Given stage -> {
          given++;
          grantIsRight(request, stage);
        }
        case Stage.Refused refused ->
            assertThat(request.answers().getLast().yes()).as(where).isFalse();
        default -> {}
      }
    }
    // Every grant on request belongs to exactly one request that was given; one that was taken back
    // has never begun.
    long begun =
        house.facts.keys(FactKey.Grant.class).stream()
            .flatMap(key -> house.facts.spells(key).stream())
            .filter(s -> s.from().isBefore(s.until()))
            .filter(s -> ((FactValue.Given) s.value()).source() == GrantSource.REQUEST)
            .count();
    assertThat(begun).as(where).isEqualTo(given);
  }

  private void grantIsRight(AccessRequest request, Stage.Given stage) {
    List<Spell> spells = house.facts.spells(new FactKey.Grant(stage.grant()));
    assertThat(spells).as(where).hasSize(1);
    Spell spell = spells.getFirst();
    FactValue.Given value = (FactValue.Given) spell.value();
    assertThat(value.entitlement()).isEqualTo(request.entitlement());
    assertThat(value.subject()).isEqualTo(new FactValue.Subject.OfPerson(request.person()));
    Instant ends =
        request.lastDay() == null ? Moments.FOREVER : Moments.endOf(request.lastDay(), House.ZONE);
    assertThat(spell.until()).as(where).isEqualTo(ends);
    Decision last = request.answers().getLast();
    assertThat(spell.from()).as(where).isEqualTo(last.at().plus(TAKE_BACK));
    assertThat(request.answers().stream().allMatch(Decision::yes)).as(where).isTrue();
    // Whoever has said yes to a step does not say it to another as a deputy.
    List<PersonId> had = new ArrayList<>();
    for (Decision answer : request.answers()) {
      assertThat(answer.behalf() != null && had.contains(answer.by())).as(where).isFalse();
      had.add(answer.by());
    }
    // Every step decided in its order, or by the yes of somebody whose it was as well.
    List<Integer> steps = new ArrayList<>();
    for (Decision answer : request.answers()) {
      steps.add(answer.step());
      steps.addAll(counted.get(answer));
    }
    assertThat(steps)
        .as(where)
        .isEqualTo(IntStream.range(0, request.route().steps().size()).boxed().toList());
    Sensitivity sensitivity =
        house.access().apps().entitlement(request.entitlement()).orElseThrow().role().sensitivity();
    if (sensitivity == Sensitivity.HIGH) {
      assertThat(spell.until()).as(where).isBefore(Moments.FOREVER);
    }
  }
}
