package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.Spell;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Facts that stand in columns say the same as facts in plain collections, after every act. */
class ColumnsHistoryTest {
  private static final List<Class<? extends FactKey>> KINDS =
      List.of(
          FactKey.Membership.class,
          FactKey.Attribute.class,
          FactKey.Grant.class,
          FactKey.Status.class,
          FactKey.GroupForm.class);

  @ParameterizedTest
  @ValueSource(longs = {901, 902, 903, 904, 905, 906, 907, 908})
  void columnsSayTheSame(long seed) {
    RandomWorld world = new RandomWorld(seed);
    Store store = Store.of(world.facts);
    Engine engine = Engine.of(store, world.now);
    Facts columned = world.columned(store);
    for (int act = 1; act <= 150; act++) {
      String where = "seed " + seed + " act " + act;
      if (world.random.nextInt(6) == 0) {
        world.pass();
      }
      Map<FactKey, List<Spell>> then = all(world.facts);
      List<Move> moves = world.act();
      // What would be is what is: a variant says it before it is taken up.
      Facts variant = columned.with(moves);
      assertThat(all(variant)).as(where).isEqualTo(all(world.facts));
      assertThat(variant.size()).as(where).isEqualTo(world.facts.size());
      assertThat(all(columned)).as(where).isEqualTo(then);
      engine.take(moves, world.now);
      columned.take(moves);
      same(columned, world.facts, world, where);
    }
  }

  private static void same(Facts columned, Facts plain, RandomWorld world, String where) {
    assertThat(all(columned)).as(where).isEqualTo(all(plain));
    for (Class<? extends FactKey> kind : KINDS) {
      Set<FactKey> known = new HashSet<>(columned.keys(kind));
      Set<FactKey> wanted = new HashSet<>(plain.keys(kind));
      wanted.removeIf(key -> plain.spells(key).isEmpty());
      known.removeIf(key -> columned.spells(key).isEmpty());
      assertThat(known).as(where).isEqualTo(wanted);
      for (FactKey key : wanted) {
        assertThat(columned.spells(key)).as(where).isEqualTo(plain.spells(key));
        assertThat(columned.valueAt(key, world.now))
            .as(where)
            .isEqualTo(plain.valueAt(key, world.now));
      }
    }
    for (ObjectId thing : world.members()) {
      Set<FactKey> known = new HashSet<>(columned.about(thing));
      Set<FactKey> wanted = new HashSet<>(plain.about(thing));
      known.removeIf(key -> columned.spells(key).isEmpty());
      wanted.removeIf(key -> plain.spells(key).isEmpty());
      assertThat(known).as(where).isEqualTo(wanted);
    }
  }

  private static Map<FactKey, List<Spell>> all(Facts facts) {
    Map<FactKey, List<Spell>> all = new HashMap<>();
    facts.forEach(
        (key, spells) -> {
          if (!spells.isEmpty()) {
            all.put(key, List.copyOf(spells));
          }
        });
    return all;
  }
}
