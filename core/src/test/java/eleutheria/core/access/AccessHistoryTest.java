package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.engine.Engine;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Random histories of grants, memberships, nested groups, filters, statuses and states of
 * applications. After every act the view that answers must say what the definitions say; before
 * every act its effects must be what the definitions say of the states with and without it.
 */
class AccessHistoryTest {
  private static final int ACTS = 90;
  private static final List<String> UNITS = List.of("Deck crew", "Safety", "Ticketing");

  private final House house = new House();
  private final List<PersonId> people = new ArrayList<>();
  private final List<GroupId> groups = new ArrayList<>();
  private final List<EntitlementId> roles = new ArrayList<>();
  private final List<Instant> instants = new ArrayList<>();
  private String where = "";

  @ParameterizedTest
  @ValueSource(longs = {101, 102, 103, 104, 105, 106})
  void theViewSaysWhatTheDefinitionsSay(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    for (int i = 0; i < 7; i++) {
      people.add(house.person("Person " + i, UNITS.get(i % UNITS.size())));
    }
    for (int i = 0; i < 5; i++) {
      String name = "Group " + i;
      FactValue.Form form =
          i == 4 ? new FactValue.Form.ByFilter("unit eq \"Safety\"") : new FactValue.Form.Listed();
      groups.add(house.act(m -> GroupDecisions.make(m, name, form, "")));
    }
    for (int i = 0; i < 3; i++) {
      roles.add(house.role("App " + i, Sensitivity.LOW));
    }
    house.watch(this::effectsAreRight);
    for (int act = 0; act < ACTS; act++) {
      where = "seed " + seed + " act " + act;
      step(random);
      if (random.nextInt(6) == 0) {
        house.pass(Duration.ofHours(random.nextInt(50)));
      }
      instants.add(house.now());
      viewIsRight();
    }
    spansAreRight(random);
  }

  private void step(SplittableRandom random) {
    PersonId person = people.get(random.nextInt(people.size()));
    GroupId group = groups.get(random.nextInt(groups.size()));
    GroupId listed = groups.get(random.nextInt(4));
    EntitlementId role = roles.get(random.nextInt(roles.size()));
    LocalDate today = house.now().atZone(House.ZONE).toLocalDate();
    switch (random.nextInt(9)) {
      case 0, 1, 2 -> {
        FactValue.Subject subject =
            switch (random.nextInt(3)) {
              case 0 -> new FactValue.Subject.OfPerson(person);
              case 1 -> new FactValue.Subject.OfGroup(group);
              default ->
                  new FactValue.Subject.ByFilter(
                      "unit eq \"%s\"".formatted(UNITS.get(random.nextInt(3))));
            };
        LocalDate from = random.nextBoolean() ? null : today.plusDays(random.nextInt(3));
        LocalDate until = random.nextBoolean() ? null : today.plusDays(3 + random.nextInt(4));
        tried(m -> GrantDecisions.give(m, role, List.of(subject), from, until, "tried"));
      }
      case 3 -> {
        List<Grant> grants = house.access().grants(role);
        if (!grants.isEmpty()) {
          GrantId id = grants.get(random.nextInt(grants.size())).id();
          tried(m -> GrantDecisions.end(m, List.of(id), List.of(), "tried"));
        }
      }
      case 4, 5 -> {
        ObjectId member = random.nextInt(3) == 0 ? group : person;
        LocalDate until = random.nextBoolean() ? null : today.plusDays(random.nextInt(4));
        tried(m -> GroupDecisions.add(m, listed, List.of(member), until, ""));
      }
      case 6 -> tried(m -> GroupDecisions.remove(m, listed, person, ""));
      case 7 -> {
        if (random.nextBoolean()) {
          house.status(
              person,
              List.of(
                      PersonStatus.ACTIVE,
                      PersonStatus.PAUSED,
                      PersonStatus.ACTIVE,
                      PersonStatus.DEPARTED)
                  .get(random.nextInt(4)));
        } else {
          house.set(
              Attributes.key(person, Attributes.UNIT, false, ""),
              new FactValue.Text(UNITS.get(random.nextInt(3))));
        }
      }
      default -> {
        ApplicationId app = house.app(role);
        ApplicationState state = house.access().apps().application(app).orElseThrow().state();
        house.set(
            new FactKey.AppState(app),
            new FactValue.AppState(
                state == ApplicationState.OPEN ? ApplicationState.PAUSED : ApplicationState.OPEN));
      }
    }
  }

  private <T> void tried(
      java.util.function.Function<eleutheria.core.directory.Moment, Outcome<T>> decision) {
    assertThat(house.decide(Authority.SETUP, decision)).isNotNull();
  }

  private void viewIsRight() {
    viewIsRight(house.access());
    Engine engine = Engine.of(house.facts, house.now());
    viewIsRight(new EngineAccess(engine, engine.now(), house.directory(), house.access().apps()));
  }

  private void viewIsRight(AccessView view) {
    Reference reference = new Reference(house.facts);
    Instant now = house.now();
    assertThat(view.activeByUnit()).as(where).isEqualTo(house.access().activeByUnit());
    for (EntitlementId role : roles) {
      Set<PersonId> holders = new HashSet<>(view.holders(role));
      assertThat(view.holders(role, "", 0, 50).people())
          .as(where)
          .containsExactlyElementsOf(
              house.directory().people().stream()
                  .map(Person::id)
                  .filter(holders::contains)
                  .toList());
      assertThat(view.holdersByUnit(role).values().stream().mapToInt(i -> i).sum())
          .as(where)
          .isEqualTo(holders.size());
      assertThat(view.grants(role)).as(where).isEqualTo(house.access().grants(role));
      for (Grant grant : view.grants(role)) {
        assertThat(view.population(grant.given().subject()))
            .as(where)
            .isEqualTo(
                people.stream()
                    .filter(p -> reference.covers(grant.given().subject(), p, now))
                    .flatMap(p -> house.directory().person(p).stream())
                    .filter(p -> p.status() != PersonStatus.DEPARTED)
                    .count());
      }
      for (PersonId person : people) {
        assertThat(view.grantsTo(person)).as(where).isEqualTo(house.access().grantsTo(person));
        assertThat(view.entitlements(person))
            .as(where)
            .isEqualTo(house.access().entitlements(person));
        boolean entitled = reference.entitled(person, role, now);
        assertThat(view.entitled(role).contains(person)).as(where).isEqualTo(entitled);
        assertThat(view.entitled(person, role)).as(where).isEqualTo(entitled);
        boolean holds = reference.holds(person, role, now);
        assertThat(view.holders(role).contains(person)).as(where).isEqualTo(holds);
        assertThat(view.holds(person, role)).as(where).isEqualTo(holds);
        assertThat(view.holdings(person).stream().anyMatch(e -> e.id().equals(role)))
            .as(where)
            .isEqualTo(holds);
        groundsAreRight(view, reference, person, role);
      }
    }
    for (Application app : view.apps().applications()) {
      assertThat(new HashSet<>(view.holders(app)))
          .as(where)
          .isEqualTo(
              people.stream()
                  .filter(
                      p ->
                          app.entitlements().stream()
                              .anyMatch(e -> reference.holds(p, e.id(), now)))
                  .collect(Collectors.toSet()));
    }
  }

  /** A holding rests on exactly the grants whose subject covers the person, each by a true way. */
  private void groundsAreRight(
      AccessView view, Reference reference, PersonId person, EntitlementId role) {
    Set<GrantId> covering = new HashSet<>();
    for (Grant grant : view.grants(role)) {
      if (reference.covers(grant.given().subject(), person, house.now())) {
        covering.add(grant.id());
      }
    }
    List<Ground> grounds = view.grounds(person, role);
    assertThat(grounds.stream().map(g -> g.grant().id()))
        .as(where)
        .doesNotHaveDuplicates()
        .containsExactlyInAnyOrderElementsOf(covering);
    for (Ground ground : grounds) {
      assertThat(ground.until())
          .as(where)
          .isEqualTo(reference.coveredUntil(ground.grant(), person, house.now()));
      if (ground.grant().given().subject() instanceof FactValue.Subject.OfGroup of) {
        assertThat(ground.chain()).as(where).isNotEmpty();
        assertThat(ground.chain().getLast()).as(where).isEqualTo(of.group());
        for (GroupId step : ground.chain()) {
          assertThat(reference.isMember(person, step, house.now())).as(where).isTrue();
        }
        for (int i = 1; i < ground.chain().size(); i++) {
          FactKey edge = new FactKey.Membership(ground.chain().get(i), ground.chain().get(i - 1));
          assertThat(house.facts.valueAt(edge, house.now())).as(where).isNotNull();
        }
        for (Ground.Edge edge : ground.edges()) {
          assertThat(reference.isMember(person, edge.to(), house.now())).as(where).isTrue();
        }
      } else {
        assertThat(ground.chain()).as(where).isEmpty();
      }
    }
  }

  /** What an act would move is what it moves: at once, and at each later moment it brings. */
  private void effectsAreRight(
      Facts before, DirectoryView directory, List<Edit> edits, List<Move> moves, Instant at) {
    effectsAreRight(Effects.of(before, directory, edits, moves, at), before, moves, at);
    Engine engine = Engine.of(before, at);
    AppsView apps = AppsView.of(before, directory, at);
    EngineAccess access = new EngineAccess(engine, engine.now(), directory, apps);
    Effects fast = Effects.of(before, directory, access, edits, moves, at);
    effectsAreRight(fast, before, moves, at);
    assertThat(fast.digest())
        .as(where)
        .isEqualTo(Effects.of(before, directory, edits, moves, at).digest())
        .isEqualTo(Effects.of(before, directory, access, edits, moves, at).digest());
  }

  private void effectsAreRight(Effects effects, Facts before, List<Move> moves, Instant at) {
    Facts after = before.with(moves);
    Reference without = new Reference(before);
    Reference with = new Reference(after);
    for (Effects.At moment : effects.moments()) {
      assertThat(moment.at()).isAfterOrEqualTo(at);
      for (EntitlementId role : roles) {
        for (PersonId person : people) {
          boolean had = without.holds(person, role, moment.at());
          boolean has = with.holds(person, role, moment.at());
          assertThat(moved(moment.gain(), role, person)).as(where).isEqualTo(!had && has);
          assertThat(moved(moment.loss(), role, person)).as(where).isEqualTo(had && !has);
        }
      }
    }
    // Nothing moves, then or later, that is not told.
    for (int halfDay = 0; halfDay < 20; halfDay++) {
      Instant t = at.plus(Duration.ofHours(12L * halfDay));
      for (EntitlementId role : roles) {
        for (PersonId person : people) {
          boolean had = without.holds(person, role, t);
          if (had != with.holds(person, role, t)) {
            assertThat(
                    effects.moments().stream()
                        .filter(moment -> !moment.at().isAfter(t))
                        .anyMatch(m -> moved(had ? m.loss() : m.gain(), role, person)))
                .as("%s at %s", where, t)
                .isTrue();
          }
        }
      }
    }
  }

  private static boolean moved(
      Map<EntitlementId, Set<PersonId>> all, EntitlementId role, PersonId person) {
    return all.getOrDefault(role, Set.of()).contains(person);
  }

  /** {@code since} and {@code during} against every instant that the history passed through. */
  private void spansAreRight(SplittableRandom random) {
    Reference reference = new Reference(house.facts);
    Instant first = instants.getFirst();
    Instant last = house.now();
    for (EntitlementId role : roles) {
      for (PersonId person : people) {
        List<Reference.Held> held = reference.during(person, role, first, last);
        for (Instant t : instants) {
          if (!t.isBefore(last)) {
            continue;
          }
          boolean inside =
              held.stream().anyMatch(h -> !t.isBefore(h.from()) && t.isBefore(h.until()));
          assertThat(inside).as(where).isEqualTo(reference.holds(person, role, t));
        }
        Instant t = instants.get(random.nextInt(instants.size()));
        if (reference.holds(person, role, t)) {
          Instant since = reference.since(person, role, t);
          assertThat(since).as(where).isBeforeOrEqualTo(t);
          assertThat(reference.holds(person, role, since)).as(where).isTrue();
          Instant just = since.minusNanos(1_000);
          assertThat(reference.holds(person, role, just)).as(where).isFalse();
          for (Instant between : instants) {
            if (between.isAfter(since) && between.isBefore(t)) {
              assertThat(reference.holds(person, role, between)).as(where).isTrue();
            }
          }
        }
      }
    }
  }
}
