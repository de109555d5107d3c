package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.Effects;
import eleutheria.core.access.Reference;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.ValueType;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Random histories: what a hint says is so, and what it offers moves nobody. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class HintsHistoryTest {
  private static final Hints.Thresholds FEW = new Hints.Thresholds(90, 1, 50, 60);
  private final Map<Class<?>, Integer> seen = new HashMap<>();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("engine.histories", 40) / 2);
  }

  @BeforeAll
  void begin() {
    seen.clear();
  }

  @AfterAll
  void everyKindCameUp() {
    assertThat(seen.keySet())
        .contains(
            Hints.Hint.Rule.class,
            Hints.Hint.Unlike.class,
            Hints.Hint.Idle.class,
            Hints.Hint.Same.class);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void saysWhatIsSo(long seed) {
    RandomWorld world = new RandomWorld(seed);
    // Some begin alike, so that there are peers.
    List<Edit> alike = new ArrayList<>();
    for (PersonId person : world.people.subList(0, 4)) {
      Map.of("unit", "Safety", "title", "Mate")
          .forEach(
              (name, value) ->
                  alike.add(
                      new Edit(
                          Attributes.key(person, name, false, value),
                          null,
                          new Spell(new FactValue.Text(value), world.now, Moments.FOREVER))));
    }
    alike.add(
        new Edit(
            new FactKey.Defined("title"),
            null,
            new Spell(
                new FactValue.Definition("title", ValueType.TEXT, false, false, null),
                world.now,
                Moments.FOREVER)));
    world.facts.take(((Applied.Moves) world.facts.apply(alike, world.now)).moves());
    Engine engine = Engine.of(world.facts, world.now);
    for (int act = 1; act <= 120; act++) {
      engine.take(world.act(), world.now);
      if (act % 10 != 0) {
        continue;
      }
      Snapshot state = engine.now();
      AppsView apps = AppsView.of(world.facts, DirectoryView.of(world.facts, world.now), world.now);
      Cut cut = Cut.of(state, Seen.everything(state), Asked.ALL, Evidence.NONE);
      for (Hints.Hint hint : Hints.of(cut, apps, FEW)) {
        seen.merge(hint.getClass(), 1, Integer::sum);
        String where = "seed " + seed + " act " + act + ": " + hint;
        switch (hint) {
          case Hints.Hint.Rule rule -> movesNobody(world, engine, given(world, rule), where);
          case Hints.Hint.Idle idle ->
              movesNobody(
                  world, engine, List.of(ended(world, new FactKey.Grant(idle.grant()))), where);
          case Hints.Hint.Same same ->
              assertThat(members(world, same.one()))
                  .as(where)
                  .isEqualTo(members(world, same.other()))
                  .hasSize(same.members());
          case Hints.Hint.Unlike unlike -> isUnlike(world, unlike, apps, where);
          case Hints.Hint.Unused unused -> throw new AssertionError("nothing is known of use");
        }
      }
    }
  }

  private static Set<PersonId> members(RandomWorld world, eleutheria.core.facts.GroupId group) {
    Reference reference = new Reference(world.facts);
    return world.people.stream()
        .filter(p -> reference.isMember(p, group, world.now))
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static void isUnlike(
      RandomWorld world, Hints.Hint.Unlike unlike, AppsView apps, String where) {
    Reference reference = new Reference(world.facts);
    DirectoryView directory = DirectoryView.of(world.facts, world.now);
    Person person = directory.person(unlike.person()).orElseThrow();
    assertThat(reference.holds(person.id(), unlike.entitlement(), world.now)).as(where).isTrue();
    List<Person> peers =
        directory.people().stream()
            .filter(p -> p.status() == PersonStatus.ACTIVE && !p.id().equals(person.id()))
            .filter(p -> p.values("unit").equals(person.values("unit")))
            .filter(p -> p.values("title").equals(person.values("title")))
            .toList();
    long alike =
        peers.stream()
            .filter(p -> reference.holds(p.id(), unlike.entitlement(), world.now))
            .count();
    assertThat(unlike.peers()).as(where).isEqualTo(peers.size());
    assertThat((long) unlike.alike()).as(where).isEqualTo(alike);
    assertThat(alike * 100).as(where).isLessThanOrEqualTo(50L * peers.size());
    assertThat(apps.entitlement(unlike.entitlement()).map(Entitlement::id)).isPresent();
  }

  private static Edit ended(RandomWorld world, FactKey key) {
    Spell base = world.facts.at(key, world.now).orElseThrow();
    return new Edit(key, base, base.endingAt(world.now.plusNanos(1_000)));
  }

  /** The rule instead of everybody's own grants. */
  private static List<Edit> given(RandomWorld world, Hints.Hint.Rule rule) {
    List<Edit> edits = new ArrayList<>();
    edits.add(
        new Edit(
            new FactKey.Grant(new GrantId(new UUID(7, 7))),
            null,
            new Spell(
                new FactValue.Given(
                    new FactValue.Subject.ByFilter(rule.filter()),
                    rule.entitlement(),
                    GrantSource.HAND),
                world.now.plusNanos(1_000),
                Moments.FOREVER)));
    rule.grants().forEach(grant -> edits.add(ended(world, new FactKey.Grant(grant))));
    return edits;
  }

  /** At the moment of the edits nobody gains or loses anything. */
  private static void movesNobody(
      RandomWorld world, Engine engine, List<Edit> edits, String where) {
    Applied applied = world.facts.apply(edits, world.now.plusNanos(1_000));
    assertThat(applied).as(where).isInstanceOf(Applied.Moves.class);
    List<Effects.At> effects =
        engine.trial(((Applied.Moves) applied).moves(), world.now.plusNanos(1_000));
    DirectoryView directory = DirectoryView.of(world.facts, world.now);
    for (Effects.At each : effects) {
      if (each.at().equals(world.now.plusNanos(1_000))) {
        assertThat(each.gain()).as(where).isEmpty();
        assertThat(each.loss()).as(where).isEmpty();
        assertThat(each.entitledLoss()).as(where).isEmpty();
        // Who has departed may fit a filter, to no effect.
        each.entitledGain()
            .forEach(
                (entitlement, people) ->
                    assertThat(people)
                        .as(where)
                        .allMatch(
                            p ->
                                directory.person(p).orElseThrow().status()
                                    == PersonStatus.DEPARTED));
      }
    }
  }
}
