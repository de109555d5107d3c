package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.REPORT_MADE;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reports that were given out: not their lines, but what is needed to check them. */
@Repository
class ReportsMade {
  private final DSLContext db;

  ReportsMade(DSLContext db) {
    this.db = db;
  }

  /**
   * @param lines null until all of it was given out
   * @param digest SHA-256 over what is proven of the lines
   * @param fileDigest SHA-256 over the file
   */
  record Made(
      long number,
      PersonId by,
      Instant at,
      String name,
      String spec,
      String format,
      Instant asOf,
      long position,
      String entryHash,
      @Nullable Long lines,
      @Nullable String digest,
      @Nullable String fileDigest) {}

  /** Where the ledger stood at a moment. */
  record Stood(long position, String hash) {}

  Stood stood(Instant at) {
    return db.select(LEDGER_ENTRY.POSITION, LEDGER_ENTRY.HASH)
        .from(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.INSTANT.le(at))
        .orderBy(LEDGER_ENTRY.POSITION.desc())
        .limit(1)
        .fetchOptional(r -> new Stood(r.value1(), r.value2()))
        .orElse(new Stood(0, ""));
  }

  /** The hash of an entry as it stands in the ledger today. */
  String hash(long position) {
    String hash =
        db.select(LEDGER_ENTRY.HASH)
            .from(LEDGER_ENTRY)
            .where(LEDGER_ENTRY.POSITION.eq(position))
            .fetchOne(LEDGER_ENTRY.HASH);
    return hash == null ? "" : hash;
  }

  long begin(
      PersonId by, Instant at, String name, String spec, String format, Instant asOf, Stood stood) {
    return db.insertInto(REPORT_MADE)
        .set(REPORT_MADE.MADE_BY, by.value())
        .set(REPORT_MADE.MADE_AT, at)
        .set(REPORT_MADE.QUERY_NAME, name)
        .set(REPORT_MADE.SPEC, spec)
        .set(REPORT_MADE.FORMAT, format)
        .set(REPORT_MADE.AS_OF, asOf)
        .set(REPORT_MADE.POSITION, stood.position())
        .set(REPORT_MADE.ENTRY_HASH, stood.hash())
        .returning(REPORT_MADE.REPORT_NO)
        .fetchSingle()
        .getReportNo();
  }

  static void finish(DSLContext tx, long number, long lines, String digest, String fileDigest) {
    tx.update(REPORT_MADE)
        .set(REPORT_MADE.LINE_COUNT, lines)
        .set(REPORT_MADE.DIGEST, digest)
        .set(REPORT_MADE.FILE_DIGEST, fileDigest)
        .where(REPORT_MADE.REPORT_NO.eq(number))
        .execute();
  }

  Optional<Made> find(long number) {
    return db.selectFrom(REPORT_MADE)
        .where(REPORT_MADE.REPORT_NO.eq(number))
        .fetchOptional(ReportsMade::made);
  }

  Optional<Made> byFile(String digest) {
    return db.selectFrom(REPORT_MADE)
        .where(REPORT_MADE.FILE_DIGEST.eq(digest))
        .orderBy(REPORT_MADE.REPORT_NO)
        .limit(1)
        .fetchOptional(ReportsMade::made);
  }

  /** The newest first: of one person, or of all. */
  List<Made> newest(@Nullable PersonId by, int most) {
    return db.selectFrom(REPORT_MADE)
        .where(by == null ? org.jooq.impl.DSL.noCondition() : REPORT_MADE.MADE_BY.eq(by.value()))
        .orderBy(REPORT_MADE.REPORT_NO.desc())
        .limit(most)
        .fetch(ReportsMade::made);
  }

  private static Made made(Record r) {
    return new Made(
        r.get(REPORT_MADE.REPORT_NO),
        new PersonId(r.get(REPORT_MADE.MADE_BY)),
        r.get(REPORT_MADE.MADE_AT),
        r.get(REPORT_MADE.QUERY_NAME),
        r.get(REPORT_MADE.SPEC),
        r.get(REPORT_MADE.FORMAT),
        r.get(REPORT_MADE.AS_OF),
        r.get(REPORT_MADE.POSITION),
        r.get(REPORT_MADE.ENTRY_HASH),
        r.get(REPORT_MADE.LINE_COUNT),
        r.get(REPORT_MADE.DIGEST),
        r.get(REPORT_MADE.FILE_DIGEST));
  }
}
