package eleutheria.server.portal;

import static eleutheria.server.tables.Tables.REPORT;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ReportId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.Report;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** Problems that people have reported, as rows. */
@Repository
public class ReportStore {
  private static final int FIRST_NUMBER = 1001;

  private final DSLContext db;

  ReportStore(DSLContext db) {
    this.db = db;
  }

  /** All that wait, oldest first. */
  public List<Report> waiting() {
    return read(REPORT.ANSWERED_AT.isNull(), Integer.MAX_VALUE).reversed();
  }

  public Optional<Report> find(ReportId id) {
    return read(REPORT.ID.eq(id.value()), 1).stream().findFirst();
  }

  /** Someone's, newest first. */
  List<Report> of(PersonId person, int most) {
    return read(REPORT.PERSON_ID.eq(person.value()), most);
  }

  /** Those of an application, newest first. */
  List<Report> about(TileId tile, int most) {
    return read(REPORT.TILE_ID.eq(tile.value()), most);
  }

  /** The next free number; only under the ledger-head lock. */
  int nextNumber() {
    Integer last = db.select(DSL.max(REPORT.NUMBER)).from(REPORT).fetchSingle().value1();
    return last == null ? FIRST_NUMBER : last + 1;
  }

  private List<Report> read(Condition condition, int most) {
    return db.selectFrom(REPORT)
        .where(condition)
        .orderBy(REPORT.MADE_AT.desc(), REPORT.NUMBER.desc())
        .limit(most)
        .fetch(ReportStore::report);
  }

  private static Report report(Record r) {
    return new Report(
        new ReportId(r.get(REPORT.ID)),
        r.get(REPORT.NUMBER),
        new PersonId(r.get(REPORT.PERSON_ID)),
        new TileId(r.get(REPORT.TILE_ID)),
        new ApplicationId(r.get(REPORT.APPLICATION_ID)),
        r.get(REPORT.TILE_NAME),
        r.get(REPORT.TEXT),
        r.get(REPORT.MADE_AT),
        r.get(REPORT.ANSWERED_AT) == null
            ? null
            : new Report.Answer(
                new PersonId(r.get(REPORT.ANSWERED_BY)),
                r.get(REPORT.ANSWERED_AT),
                r.get(REPORT.ANSWER)));
  }

  /** Writes a report as it stands now. */
  public static void save(DSLContext tx, Report report) {
    Report.Answer answer = report.answer();
    tx.insertInto(REPORT)
        .set(REPORT.ID, report.id().value())
        .set(REPORT.NUMBER, report.number())
        .set(REPORT.PERSON_ID, report.by().value())
        .set(REPORT.TILE_ID, report.tile().value())
        .set(REPORT.APPLICATION_ID, report.app().value())
        .set(REPORT.TILE_NAME, report.tileName())
        .set(REPORT.TEXT, report.text())
        .set(REPORT.MADE_AT, report.at())
        .set(REPORT.ANSWERED_AT, answer == null ? null : answer.at())
        .set(REPORT.ANSWERED_BY, answer == null ? null : answer.by().value())
        .set(REPORT.ANSWER, answer == null ? "" : answer.text())
        .onDuplicateKeyUpdate()
        .set(REPORT.ANSWERED_AT, answer == null ? null : answer.at())
        .set(REPORT.ANSWERED_BY, answer == null ? null : answer.by().value())
        .set(REPORT.ANSWER, answer == null ? "" : answer.text())
        .execute();
  }
}
