package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.QUERY;

import eleutheria.core.facts.PersonId;
import eleutheria.core.queries.Every;
import eleutheria.core.queries.Query;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Repository;

/** Saved queries. */
@Repository
public class QueryStore {
  private final DSLContext db;

  QueryStore(DSLContext db) {
    this.db = db;
  }

  public Optional<Query> find(UUID id) {
    return db.selectFrom(QUERY).where(QUERY.QUERY_ID.eq(id)).fetchOptional(QueryStore::query);
  }

  List<Query> of(PersonId owner) {
    return db.selectFrom(QUERY)
        .where(QUERY.OWNER_ID.eq(owner.value()))
        .orderBy(QUERY.NAME)
        .fetch(QueryStore::query);
  }

  /** Those that others share. */
  List<Query> sharedBesides(PersonId reader, int most) {
    return db.selectFrom(QUERY)
        .where(QUERY.SHARED.isTrue(), QUERY.OWNER_ID.ne(reader.value()))
        .orderBy(QUERY.NAME)
        .limit(most)
        .fetch(QueryStore::query);
  }

  static void save(DSLContext tx, Query query) {
    tx.insertInto(QUERY)
        .set(QUERY.QUERY_ID, query.id())
        .set(QUERY.OWNER_ID, query.owner().value())
        .set(QUERY.NAME, query.name())
        .set(QUERY.WHY, query.why())
        .set(QUERY.SPEC, query.spec())
        .set(QUERY.SHARED, query.shared())
        .set(QUERY.EVERY, query.every().word())
        .set(QUERY.NEXT_ON, query.next())
        .set(QUERY.VERSION, query.version())
        .set(QUERY.CHANGED_AT, query.changedAt())
        .onDuplicateKeyUpdate()
        .set(QUERY.NAME, query.name())
        .set(QUERY.WHY, query.why())
        .set(QUERY.SPEC, query.spec())
        .set(QUERY.SHARED, query.shared())
        .set(QUERY.EVERY, query.every().word())
        .set(QUERY.NEXT_ON, query.next())
        .set(QUERY.VERSION, query.version())
        .set(QUERY.CHANGED_AT, query.changedAt())
        .execute();
  }

  static void drop(DSLContext tx, UUID id) {
    tx.deleteFrom(QUERY).where(QUERY.QUERY_ID.eq(id)).execute();
  }

  private static Query query(Record row) {
    return new Query(
        row.get(QUERY.QUERY_ID),
        new PersonId(row.get(QUERY.OWNER_ID)),
        row.get(QUERY.NAME),
        row.get(QUERY.WHY),
        row.get(QUERY.SPEC),
        row.get(QUERY.SHARED),
        Every.of(row.get(QUERY.EVERY)),
        row.get(QUERY.NEXT_ON),
        row.get(QUERY.VERSION),
        row.get(QUERY.CHANGED_AT));
  }
}
