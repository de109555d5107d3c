package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.Effects;
import eleutheria.core.access.OwnGrants;
import eleutheria.core.access.Reference;
import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Random histories: what goes when people's own grants end, and what who left late had held. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class OwnGrantsHistoryTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private int ended;
  private int stayed;
  private int late;

  record Holding(PersonId person, EntitlementId entitlement) {}

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("engine.histories", 40) / 2);
  }

  @BeforeAll
  void begin() {
    ended = 0;
    stayed = 0;
    late = 0;
  }

  @AfterAll
  void allCameUp() {
    assertThat(List.of(ended, stayed, late)).allMatch(times -> times > 20);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void endsWhatItSaysAndNothingElse(long seed) {
    RandomWorld world = new RandomWorld(seed);
    Engine engine = Engine.of(world.facts, world.now);
    for (int act = 1; act <= 100; act++) {
      engine.take(world.act(), world.now);
      if (act % 10 != 0) {
        continue;
      }
      String where = "seed " + seed + " act " + act;
      DirectoryView directory = DirectoryView.of(world.facts, world.now);
      EngineAccess access =
          new EngineAccess(
              engine, engine.now(), directory, AppsView.of(world.facts, directory, world.now));
      Reference reference = new Reference(world.facts);
      OwnGrants own = new OwnGrants();
      Set<Holding> marked = new HashSet<>();
      for (PersonId person : world.people) {
        for (EntitlementId role : world.roles) {
          if (reference.holds(person, role, world.now) && world.random.nextInt(3) > 0) {
            marked.add(new Holding(person, role));
            own.add(access, person, role);
          }
        }
      }
      Set<Holding> stays = new HashSet<>();
      own.stays().forEach(one -> stays.add(new Holding(one.person(), one.entitlement())));
      Instant at = world.now.plusNanos(1_000);
      List<Edit> edits = new ArrayList<>();
      own.grants()
          .forEach(
              grant -> {
                FactKey key = new FactKey.Grant(grant);
                Spell base = world.facts.at(key, world.now).orElseThrow();
                edits.add(new Edit(key, base, base.endingAt(at)));
              });
      Set<Holding> gone = new HashSet<>();
      for (Effects.At each :
          engine.trial(((Applied.Moves) world.facts.apply(edits, at)).moves(), at)) {
        if (each.at().equals(at)) {
          assertThat(each.gain()).as(where).isEmpty();
          each.loss().forEach((e, people) -> people.forEach(p -> gone.add(new Holding(p, e))));
        }
      }
      ended += gone.size();
      stayed += stays.size();
      assertThat(own.ends()).as(where).isEqualTo(gone.size());
      marked.removeAll(stays);
      assertThat(gone).as(where).isEqualTo(marked);
    }
  }

  /** Everybody departs, some of them later than was stated. */
  @ParameterizedTest
  @MethodSource("seeds")
  void tellsWhatWasHeldUntilALateDeparture(long seed) {
    RandomWorld world = new RandomWorld(seed);
    Engine engine = Engine.of(world.facts, world.now);
    LocalDate first = world.now.atZone(ZONE).toLocalDate().plusDays(1);
    for (PersonId person : world.people) {
      for (int act = 0; act < 4; act++) {
        engine.take(world.act(), world.now);
      }
      act(
          world,
          engine,
          new Edit(
              new FactKey.Grant(new GrantId(person.value())),
              null,
              new Spell(
                  new FactValue.Given(
                      new FactValue.Subject.OfPerson(person),
                      world.roles.get(world.random.nextInt(3)),
                      GrantSource.HAND),
                  world.now,
                  Moments.FOREVER)));
      world.pass();
      engine.advance(world.now);
      FactKey key = new FactKey.Status(person);
      LocalDate stated = world.now.atZone(ZONE).toLocalDate().minusDays(world.random.nextInt(3));
      List<Spell> spells = world.facts.from(key, world.now);
      Spell departed =
          new Spell(
              new FactValue.Standing(PersonStatus.DEPARTED, stated), world.now, Moments.FOREVER);
      act(world, engine, new Edit(key, spells.isEmpty() ? null : spells.getFirst(), departed));
    }
    String where = "seed " + seed;
    DirectoryView directory = DirectoryView.of(world.facts, world.now);
    Leavers leavers = Leavers.since(engine, directory, first, ZONE);
    Reference reference = new Reference(world.facts);
    Snapshot now = engine.now();
    for (PersonId id : world.people) {
      Person person = directory.person(id).orElse(null);
      boolean isLate =
          person != null
              && person.status() == PersonStatus.DEPARTED
              && person.standing().stated() != null
              && !person.since().atZone(ZONE).toLocalDate().isBefore(first)
              && person.since().atZone(ZONE).toLocalDate().isAfter(person.standing().stated());
      assertThat(leavers.stated().containsKey(id)).as(where).isEqualTo(isLate);
      for (EntitlementId role : world.roles) {
        boolean held = isLate && reference.holds(id, role, person.since().minusNanos(1_000));
        assertThat(leavers.held(now.number(role)).contains(now.number(id)))
            .as(where)
            .isEqualTo(held);
        late += held ? 1 : 0;
      }
    }
  }

  private static void act(RandomWorld world, Engine engine, Edit edit) {
    if (world.facts.apply(List.of(edit), world.now) instanceof Applied.Moves moves) {
      world.facts.take(moves.moves());
      engine.take(moves.moves(), world.now);
    }
  }
}
