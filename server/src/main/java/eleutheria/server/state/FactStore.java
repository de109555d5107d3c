package eleutheria.server.state;

import static eleutheria.server.tables.Tables.EXISTENCE;
import static eleutheria.server.tables.Tables.THING;
import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.Columns;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.Spell;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Facts as rows: read once at the start, written in sets. */
@Repository
public class FactStore {
  private static final int BATCH = 5_000;

  /** Reads all facts, past and to come, as objects. */
  public Facts load(DSLContext db) {
    return load(db, new Facts(), null);
  }

  /** Reads the facts that columns, which are filled already, do not keep. */
  Facts loadBeside(DSLContext db, Columns columns) {
    return load(db, new Facts(columns), columns);
  }

  private static Facts load(DSLContext db, Facts facts, @Nullable Columns columns) {
    for (FactTable table : FactTables.ALL) {
      if (columns != null && columns.keeps(table.kind())) {
        continue;
      }
      if (table.kind() == FactKey.Existence.class) {
        loadExistence(db, table, facts);
        continue;
      }
      try (var rows = db.selectFrom(table.table()).fetchSize(BATCH).fetchLazy()) {
        for (Record row : rows) {
          FactKey key = table.readKey().apply(row);
          facts.load(key, table.spell(row, key));
        }
      }
    }
    return facts;
  }

  private static void loadExistence(DSLContext db, FactTable table, Facts facts) {
    try (var rows =
        db.select(THING.KIND)
            .select(EXISTENCE.fields())
            .from(EXISTENCE)
            .join(THING)
            .on(THING.ID.eq(EXISTENCE.OBJECT_ID))
            .fetchSize(BATCH)
            .fetchLazy()) {
      for (Record row : rows) {
        FactKey key =
            new FactKey.Existence(
                ObjectId.of(ObjectKind.of(row.get(THING.KIND)), row.get(EXISTENCE.OBJECT_ID)));
        facts.load(key, table.spell(row, key));
      }
    }
  }

  /** Writes the moves of an act, set by set: what ends first, so that nothing overlaps. */
  public void write(DSLContext db, long position, List<Move> moves) {
    writeThings(db, moves);
    Map<FactTable, List<Move>> byTable = new LinkedHashMap<>();
    FactTables.ALL.forEach(table -> byTable.put(table, new ArrayList<>()));
    moves.forEach(move -> requireNonNull(byTable.get(FactTables.of(move.key()))).add(move));
    byTable.forEach(
        (table, list) -> {
          drop(db, table, list);
          end(db, table, position, list);
          open(db, table, position, list);
        });
  }

  private static void writeThings(DSLContext db, List<Move> moves) {
    Set<ObjectId> things = new LinkedHashSet<>();
    for (Move move : moves) {
      boolean begins =
          move.key() instanceof FactKey.Existence
              || move.key() instanceof FactKey.Mandate
              || move.key() instanceof FactKey.Source
              || move.key() instanceof FactKey.Grant
              || move.key() instanceof FactKey.SeparationRule
              || move.key() instanceof FactKey.Front
              || move.key() instanceof FactKey.FrontNotice
              || move.key() instanceof FactKey.Fronted;
      if (begins && move instanceof Move.Opened) {
        things.add(move.key().objects().getFirst());
      }
    }
    if (things.isEmpty()) {
      return;
    }
    Bulk.insert(
        db,
        db.insertInto(THING, THING.ID, THING.KIND)
            .values((java.util.UUID) null, null)
            .onDuplicateKeyIgnore()
            .getSQL(),
        List.of(THING.ID, THING.KIND),
        things.stream().map(thing -> new Object[] {thing.value(), thing.kind().word()}).toList());
  }

  private static void drop(DSLContext db, FactTable table, List<Move> moves) {
    for (Move move : moves) {
      if (move instanceof Move.Dropped dropped) {
        db.deleteFrom(table.table()).where(row(table, move.key(), dropped.spell())).execute();
      }
    }
  }

  private static void end(DSLContext db, FactTable table, long position, List<Move> moves) {
    List<org.jooq.Query> updates = new ArrayList<>();
    for (Move move : moves) {
      if (move instanceof Move.Ended ended) {
        updates.add(
            db.update(table.table())
                .set(table.until(), ended.until())
                .set(table.ended(), position)
                .where(row(table, move.key(), ended.spell())));
      }
    }
    for (int from = 0; from < updates.size(); from += BATCH) {
      db.batch(updates.subList(from, Math.min(from + BATCH, updates.size()))).execute();
    }
  }

  private static void open(DSLContext db, FactTable table, long position, List<Move> moves) {
    List<Object[]> rows = new ArrayList<>();
    for (Move move : moves) {
      if (move instanceof Move.Opened opened) {
        List<Object> row = new ArrayList<>(table.keyOf().apply(move.key()));
        row.addAll(table.valueOf().apply(opened.spell().value()));
        row.add(opened.spell().from());
        row.add(opened.spell().until());
        row.add(position);
        rows.add(row.toArray());
      }
    }
    List<Field<?>> fields = new ArrayList<>(table.keyFields());
    fields.addAll(table.valueFields());
    fields.add(table.from());
    fields.add(table.until());
    fields.add(table.opened());
    Bulk.insert(db, table.table(), fields, rows);
  }

  private static Condition row(FactTable table, FactKey key, Spell spell) {
    Condition condition = table.from().eq(spell.from());
    List<Object> values = table.keyOf().apply(key);
    for (int i = 0; i < values.size(); i++) {
      condition = condition.and(equal(table.keyFields().get(i), values.get(i)));
    }
    return condition;
  }

  private static <T> Condition equal(Field<T> field, Object value) {
    return field.eq(DSL.val(value, field.getDataType()));
  }
}
