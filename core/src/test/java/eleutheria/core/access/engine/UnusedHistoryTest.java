package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.Reference;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.roaringbitmap.RoaringBitmap;

/** Random histories: unused is what was held at every moment that was watched, and never used. */
class UnusedHistoryTest {
  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("engine.histories", 40) / 2);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void isHeldAllTheTimeAndNotUsed(long seed) {
    RandomWorld world = new RandomWorld(seed);
    SplittableRandom random = new SplittableRandom(seed);
    Engine engine = Engine.of(world.facts, world.now);
    for (int act = 0; act < 20; act++) {
      engine.take(world.act(), world.now);
    }
    Instant from = world.now;
    Map<EntitlementId, Set<PersonId>> unbroken = new HashMap<>();
    // Of the first, nothing tells the use.
    Map<EntitlementId, Set<PersonId>> used = new HashMap<>();
    for (EntitlementId role : world.roles) {
      unbroken.put(role, holders(world, role));
      if (role != world.roles.getFirst()) {
        used.put(role, new HashSet<>());
      }
    }
    for (int act = 1; act <= 40; act++) {
      engine.take(world.act(), world.now);
      unbroken.forEach((role, people) -> people.retainAll(holders(world, role)));
      EntitlementId opened = world.roles.get(random.nextInt(world.roles.size()));
      if (used.containsKey(opened) && act % 4 == 0) {
        used.get(opened).add(world.people.get(random.nextInt(world.people.size())));
      }
      if (act % 8 == 0) {
        isRight(world, engine, from, unbroken, used, "seed " + seed + " act " + act);
      }
    }
  }

  private static void isRight(
      RandomWorld world,
      Engine engine,
      Instant from,
      Map<EntitlementId, Set<PersonId>> unbroken,
      Map<EntitlementId, Set<PersonId>> used,
      String where) {
    Snapshot state = engine.now();
    Map<Integer, RoaringBitmap> numbers = new HashMap<>();
    used.forEach((role, people) -> numbers.put(state.number(role), numbers(state, people)));
    IntFunction<@Nullable RoaringBitmap> unused =
        Unused.of(Throughout.of(engine, from, state), Seen.everything(state), numbers::get);
    Map<EntitlementId, Set<PersonId>> left = new HashMap<>();
    for (EntitlementId role : world.roles) {
      if (state.number(role) < 0) {
        continue;
      }
      RoaringBitmap told = unused.apply(state.number(role));
      if (!used.containsKey(role)) {
        assertThat(told).as(where).isNull();
        continue;
      }
      Set<PersonId> people = new HashSet<>(unbroken.get(role));
      people.removeAll(used.get(role));
      left.put(role, people);
      assertThat(told).as(where).isEqualTo(numbers(state, people));
    }
    for (List<EntitlementId> some :
        List.of(world.roles, world.roles.subList(1, 3), world.roles.subList(0, 1))) {
      List<EntitlementId> here = some.stream().filter(r -> state.number(r) >= 0).toList();
      RoaringBitmap told =
          Unused.altogether(state, here.stream().mapToInt(state::number).toArray(), unused);
      if (here.stream().noneMatch(left::containsKey)) {
        assertThat(told).as(where).isNull();
        continue;
      }
      Set<PersonId> people =
          world.people.stream()
              .filter(
                  person -> {
                    List<EntitlementId> held =
                        here.stream().filter(r -> holders(world, r).contains(person)).toList();
                    return !held.isEmpty()
                        && held.stream()
                            .allMatch(r -> left.containsKey(r) && left.get(r).contains(person));
                  })
              .collect(Collectors.toSet());
      assertThat(told).as(where).isEqualTo(numbers(state, people));
    }
  }

  private static RoaringBitmap numbers(Snapshot state, Set<PersonId> people) {
    RoaringBitmap numbers = new RoaringBitmap();
    people.stream().mapToInt(state::number).filter(n -> n >= 0).forEach(numbers::add);
    return numbers;
  }

  private static Set<PersonId> holders(RandomWorld world, EntitlementId role) {
    Reference reference = new Reference(world.facts);
    return world.people.stream()
        .filter(person -> reference.holds(person, role, world.now))
        .collect(Collectors.toSet());
  }
}
