package eleutheria.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Random histories of facts against a model that is as plain as can be: for every key a map from
 * each second to the value it has then. A failure names the seed and the act.
 */
class FactsHistoryTest {
  private static final int ACTS = 400;
  private static final int SPAN = 3_000;
  private static final Instant BEGIN = Instant.parse("2026-01-01T00:00:00Z");

  /** What every key says at every second of the span. */
  private static final class Model {
    final Map<FactKey, TreeMap<Integer, String>> values = new HashMap<>();

    @Nullable String at(FactKey key, int second) {
      return values.getOrDefault(key, new TreeMap<>()).get(second);
    }

    void set(FactKey key, int from, int until, @Nullable String value) {
      TreeMap<Integer, String> line = values.computeIfAbsent(key, k -> new TreeMap<>());
      for (int second = from; second < Math.min(until, SPAN); second++) {
        if (value == null) {
          line.remove(second);
        } else {
          line.put(second, value);
        }
      }
    }
  }

  private static Instant second(int second) {
    return BEGIN.plusSeconds(second);
  }

  private static List<FactKey> keys() {
    PersonId one = new PersonId(new UUID(0, 1));
    PersonId two = new PersonId(new UUID(0, 2));
    return List.of(
        new FactKey.Attribute(one, "unit", ""),
        new FactKey.Attribute(two, "unit", ""),
        new FactKey.GroupName(new GroupId(new UUID(0, 3))));
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void everyMomentIsAsTheModelSaysAndThePastNeverMoves(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    Facts facts = new Facts();
    Model model = new Model();
    List<FactKey> keys = keys();
    int now = 0;
    for (int act = 0; act < ACTS; act++) {
      now += 1 + random.nextInt(5);
      Map<FactKey, TreeMap<Integer, String>> before = copy(model, now);
      Edits edits = new Edits(facts, second(now));
      for (FactKey key : keys) {
        if (random.nextInt(3) == 0) {
          change(random, edits, model, key, now);
        }
      }
      Applied applied = facts.apply(edits.list(), second(now));
      assertThat(applied).as("seed %d act %d", seed, act).isInstanceOf(Applied.Moves.class);
      facts.take(((Applied.Moves) applied).moves());
      for (FactKey key : keys) {
        for (int moment = Math.max(0, now - 40); moment < Math.min(SPAN, now + 60); moment++) {
          FactValue value = facts.valueAt(key, second(moment));
          assertThat(value == null ? null : ((FactValue.Text) value).text())
              .as("seed %d act %d key %s second %d", seed, act, key, moment)
              .isEqualTo(model.at(key, moment));
        }
        int past = random.nextInt(now);
        FactValue value = facts.valueAt(key, second(past));
        assertThat(value == null ? null : ((FactValue.Text) value).text())
            .as("as of %d, seed %d act %d", past, seed, act)
            .isEqualTo(before.getOrDefault(key, new TreeMap<>()).get(past));
      }
    }
  }

  private static Map<FactKey, TreeMap<Integer, String>> copy(Model model, int until) {
    Map<FactKey, TreeMap<Integer, String>> copy = new HashMap<>();
    model.values.forEach((key, line) -> copy.put(key, new TreeMap<>(line.headMap(until))));
    return copy;
  }

  /** Sets, ends, or gives a timeline with a beginning to come. */
  private static void change(
      SplittableRandom random, Edits edits, Model model, FactKey key, int now) {
    String value = "v" + random.nextInt(3);
    switch (random.nextInt(4)) {
      case 0 -> {
        edits.end(key);
        model.set(key, now, SPAN, null);
      }
      case 1 -> {
        edits.put(key, new FactValue.Text(value));
        model.set(key, now, SPAN, value);
      }
      default -> {
        List<Spell> timeline = new ArrayList<>();
        int from = random.nextInt(2) == 0 ? now : now + 1 + random.nextInt(20);
        model.set(key, now, SPAN, null);
        for (int i = 0; i < 3; i++) {
          int until = from + 1 + random.nextInt(25);
          String each = "v" + random.nextInt(3);
          timeline.add(new Spell(new FactValue.Text(each), second(from), second(until)));
          model.set(key, from, until, each);
          from = until + random.nextInt(4);
        }
        edits.timeline(key, timeline);
      }
    }
  }
}
