package eleutheria.server.state;

import static eleutheria.server.tables.Tables.*;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * How facts of one kind stand in their table: the fields of the key and of the value, in order, and
 * the way there and back.
 */
record FactTable(
    Class<? extends FactKey> kind,
    Table<?> table,
    List<Field<?>> keyFields,
    Function<FactKey, List<Object>> keyOf,
    List<Field<?>> valueFields,
    Function<FactValue, List<@Nullable Object>> valueOf,
    Function<Record, FactKey> readKey,
    BiFunction<Record, FactKey, FactValue> readValue) {

  static final JsonMapper JSON = JsonMapper.builder().build();

  Field<Instant> from() {
    return named(NAMING.VALID_FROM);
  }

  Field<Instant> until() {
    return named(NAMING.VALID_UNTIL);
  }

  Field<Long> opened() {
    return named(NAMING.OPENED);
  }

  Field<Long> ended() {
    return named(NAMING.ENDED);
  }

  /** The table's own field of the same name and type; every fact table has the four. */
  private <T> Field<T> named(Field<T> like) {
    Field<T> found = table.field(like);
    if (found == null) {
      throw new IllegalStateException(table.getName() + " has no " + like.getName());
    }
    return found;
  }

  Spell spell(Record record, FactKey key) {
    return new Spell(readValue.apply(record, key), record.get(from()), record.get(until()));
  }

  static final BiFunction<Record, FactKey, FactValue> PRESENT =
      (record, key) -> FactValue.Present.PRESENT;

  static final Function<FactValue, List<@Nullable Object>> NOTHING = value -> List.of();

  static String ids(SortedSet<EntitlementId> all) {
    return all.stream().map(e -> e.value().toString()).collect(Collectors.joining(" "));
  }

  static SortedSet<EntitlementId> entitlements(String text) {
    SortedSet<EntitlementId> found = new TreeSet<>();
    words(text).forEach(e -> found.add(EntitlementId.parse(e)));
    return found;
  }

  static List<@Nullable Object> row(@Nullable Object... values) {
    return java.util.Arrays.asList(values);
  }

  static Map<?, ?> map(String json) {
    return JSON.readValue(json, Map.class);
  }

  static SortedSet<String> words(String text) {
    SortedSet<String> words = new TreeSet<>();
    for (String word : text.split(" ")) {
      if (!word.isEmpty()) {
        words.add(word);
      }
    }
    return words;
  }
}
