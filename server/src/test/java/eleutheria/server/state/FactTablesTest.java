package eleutheria.server.state;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.FactKind;
import eleutheria.core.ledger.FactSamples;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class FactTablesTest {
  static List<Map.Entry<FactKey, FactValue>> samples() {
    return List.copyOf(FactSamples.ALL.entrySet());
  }

  @Test
  void everyKindHasOneTableAndASample() {
    Set<FactKind> sampled = new HashSet<>();
    FactSamples.ALL.keySet().forEach(key -> sampled.add(FactKind.of(key)));
    assertThat(sampled).containsExactlyInAnyOrder(FactKind.values());
    assertThat(FactTables.ALL).hasSize(FactKind.values().length);
    for (FactKey key : FactSamples.ALL.keySet()) {
      assertThat(FactTables.ALL).filteredOn(table -> table.kind().isInstance(key)).hasSize(1);
    }
  }

  /** A row made of a fact says the same fact, without a database between. */
  @ParameterizedTest
  @MethodSource("samples")
  void aRowSaysTheFactThatItWasMadeOf(Map.Entry<FactKey, FactValue> sample) {
    FactTable table = FactTables.of(sample.getKey());
    DSLContext dsl = DSL.using(SQLDialect.MARIADB);
    Record row = dsl.newRecord(table.table().fields());
    fill(row, table.keyFields(), table.keyOf().apply(sample.getKey()));
    fill(row, table.valueFields(), table.valueOf().apply(sample.getValue()));
    if (!(sample.getKey() instanceof FactKey.Existence)) {
      assertThat(table.readKey().apply(row)).isEqualTo(sample.getKey());
    }
    assertThat(table.readValue().apply(row, sample.getKey())).isEqualTo(sample.getValue());
  }

  @SuppressWarnings("unchecked")
  private static void fill(Record row, List<Field<?>> fields, List<?> values) {
    for (int i = 0; i < fields.size(); i++) {
      if (i < values.size()) {
        row.set((Field<Object>) fields.get(i), fields.get(i).getDataType().convert(values.get(i)));
      }
    }
  }
}
