package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.Reading;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.roaringbitmap.RoaringBitmap;

/**
 * Random mandates over random organisations: whom a reader may see is one rule, asked for one
 * person or for all at once.
 */
class ReachHistoryTest {
  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("engine.histories", 40) / 2);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void askedForOneOrForAllItIsTheSame(long seed) {
    RandomWorld world = new RandomWorld(seed);
    SplittableRandom random = new SplittableRandom(seed);
    Engine engine = Engine.of(world.facts, world.now);
    for (int act = 1; act <= 40; act++) {
      engine.take(world.act(), world.now);
      if (act % 5 == 0) {
        for (int reader = 0; reader < 6; reader++) {
          Authority authority = authority(world, random);
          isTheSame(world, engine.now(), authority, "seed " + seed + " act " + act);
        }
      }
    }
  }

  private static Authority authority(RandomWorld world, SplittableRandom random) {
    List<Authority.Allowed> allowed = new ArrayList<>();
    for (int i = random.nextInt(3); i >= 0; i--) {
      Set<Power> powers = EnumSet.noneOf(Power.class);
      for (Power power : List.of(Power.ACCESS_READ, Power.USE_READ, Power.PEOPLE_READ)) {
        if (random.nextInt(3) > 0) {
          powers.add(power);
        }
      }
      allowed.add(new Authority.Allowed("m" + i, powers, reach(world, random)));
    }
    Set<ObjectId> owned = new HashSet<>();
    if (random.nextInt(3) == 0) {
      owned.add(world.apps.get(random.nextInt(world.apps.size())));
    }
    @Nullable PersonId person =
        random.nextInt(4) == 0 ? null : world.people.get(random.nextInt(world.people.size()));
    return new Authority(person, allowed, owned);
  }

  private static Reach reach(RandomWorld world, SplittableRandom random) {
    TreeSet<String> units = new TreeSet<>();
    for (String unit : List.of("Deck crew", "Safety", "Stores")) {
      if (random.nextBoolean()) {
        units.add(unit);
      }
    }
    TreeSet<String> apps = new TreeSet<>();
    for (ApplicationId app : world.apps) {
      if (random.nextBoolean()) {
        apps.add(app.value().toString());
      }
    }
    return new Reach(
        random.nextInt(3) == 0 ? null : units, random.nextInt(3) == 0 ? null : apps, null);
  }

  private static void isTheSame(
      RandomWorld world, Snapshot state, Authority authority, String where) {
    DirectoryView directory = DirectoryView.of(world.facts, world.now);
    AccessView access = AccessView.of(world.facts, directory, world.now);
    Reading reading = new Reading(authority, directory);
    AccessReach reach = new AccessReach(authority, directory);
    PersonId self = authority.person();
    Set<PersonId> team = self == null ? Set.of() : directory.team(self);
    Seen holdings = Seen.by(state, state, authority, team);
    Seen use = Seen.use(state, state, authority);
    RoaringBitmap people = Seen.people(state, authority);
    for (Person person : directory.people()) {
      int p = state.number(person.id());
      assertThat(people == null || people.contains(p))
          .as(where)
          .isEqualTo(reading.seesPerson(person.id()));
      boolean all = true;
      for (Entitlement each : access.apps().entitlements()) {
        int e = state.number(each.id());
        assertThat(holdings.sees(p, e))
            .as("%s: holding, %s", where, authority.reaches(Power.ACCESS_READ))
            .isEqualTo(reach.sees(person, each));
        assertThat(use.sees(p, e))
            .as("%s: use, %s", where, authority.reaches(Power.USE_READ))
            .isEqualTo(reading.seesUse(each.application(), person.id()));
        all &= reading.seesUse(each.application(), person.id());
      }
      if (reading.seesAllUse(person.id())) {
        assertThat(all).as(where).isTrue();
      }
    }
  }
}
