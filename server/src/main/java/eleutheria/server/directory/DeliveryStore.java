package eleutheria.server.directory;

import static eleutheria.server.tables.Tables.DELIVERY;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.LEDGER_OBJECT;

import eleutheria.core.directory.intake.Intake;
import eleutheria.core.directory.intake.Matching;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.SourceId;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.CanonicalJson;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** Files that were dropped and are not imported yet. They are forgotten after a day. */
@Repository
class DeliveryStore {
  private static final Duration KEPT = Duration.ofDays(1);

  private final DSLContext db;
  private final JsonMapper json;

  DeliveryStore(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  /**
   * @param position the ledger position at which it was imported; null until then
   */
  record Staged(
      UUID id,
      SourceId source,
      String sourceName,
      String fileName,
      String fileHash,
      byte[] content,
      Matching matching,
      Intake.Scope scope,
      @Nullable Long position) {}

  /** When a file of a source was imported last, and as which entry. */
  record Imported(Instant at, long position) {}

  Map<SourceId, Imported> lastImports(Set<SourceId> sources) {
    return db.select(
            LEDGER_OBJECT.OBJECT_ID, DSL.max(LEDGER_ENTRY.INSTANT), DSL.max(LEDGER_ENTRY.POSITION))
        .from(LEDGER_ENTRY)
        .join(LEDGER_OBJECT)
        .on(LEDGER_OBJECT.POSITION.eq(LEDGER_ENTRY.POSITION))
        .where(
            LEDGER_ENTRY.ACT.eq(ActName.DIRECTORY_IMPORT.word()),
            LEDGER_OBJECT.OBJECT_ID.in(sources.stream().map(SourceId::value).toList()))
        .groupBy(LEDGER_OBJECT.OBJECT_ID)
        .fetchMap(r -> new SourceId(r.value1()), r -> new Imported(r.value2(), r.value3()));
  }

  void stage(Staged staged, PersonId by, Instant at) {
    db.deleteFrom(DELIVERY).where(DELIVERY.MADE_AT.lt(at.minus(KEPT))).execute();
    db.insertInto(DELIVERY)
        .set(DELIVERY.ID, staged.id())
        .set(DELIVERY.SOURCE_ID, staged.source().value())
        .set(DELIVERY.SOURCE_NAME, staged.sourceName())
        .set(DELIVERY.FILE_NAME, staged.fileName())
        .set(DELIVERY.FILE_HASH, staged.fileHash())
        .set(DELIVERY.CONTENT, staged.content())
        .set(DELIVERY.COLUMNS, write(staged.matching()))
        .set(DELIVERY.SCOPE, staged.scope().name())
        .set(DELIVERY.MADE_BY, by.value())
        .set(DELIVERY.MADE_AT, at)
        .execute();
  }

  /** A staged file; only whoever dropped it gets it. */
  Optional<Staged> find(UUID id, PersonId by) {
    return db.selectFrom(DELIVERY)
        .where(DELIVERY.ID.eq(id), DELIVERY.MADE_BY.eq(by.value()))
        .fetchOptional(
            row ->
                new Staged(
                    row.getId(),
                    new SourceId(row.getSourceId()),
                    row.getSourceName(),
                    row.getFileName(),
                    row.getFileHash(),
                    row.getContent(),
                    read(row.getColumns()),
                    Intake.Scope.valueOf(row.getScope()),
                    row.getPosition()));
  }

  void match(UUID id, Matching matching, Intake.Scope scope) {
    db.update(DELIVERY)
        .set(DELIVERY.COLUMNS, write(matching))
        .set(DELIVERY.SCOPE, scope.name())
        .where(DELIVERY.ID.eq(id))
        .execute();
  }

  static void imported(DSLContext tx, UUID id, long position) {
    tx.update(DELIVERY).set(DELIVERY.POSITION, position).where(DELIVERY.ID.eq(id)).execute();
  }

  void forget(UUID id) {
    db.deleteFrom(DELIVERY).where(DELIVERY.ID.eq(id)).execute();
  }

  private static String write(Matching matching) {
    return CanonicalJson.write(new TreeMap<>(matching.columns()));
  }

  private Matching read(String text) {
    Map<String, String> columns = new LinkedHashMap<>();
    Map<?, ?> kept = json.readValue(text, Map.class);
    kept.forEach((c, t) -> columns.put((String) c, (String) t));
    return new Matching(columns);
  }
}
