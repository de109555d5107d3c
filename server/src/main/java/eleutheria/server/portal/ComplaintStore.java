package eleutheria.server.portal;

import static eleutheria.server.tables.Tables.COMPLAINT;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.Complaint;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** Problems that people have reported, as rows. */
@Repository
public class ComplaintStore {
  private static final int FIRST_NUMBER = 1001;

  private final DSLContext db;

  ComplaintStore(DSLContext db) {
    this.db = db;
  }

  /** All that wait, oldest first. */
  public List<Complaint> waiting() {
    return read(COMPLAINT.ANSWERED_AT.isNull(), Integer.MAX_VALUE).reversed();
  }

  public Optional<Complaint> find(ComplaintId id) {
    return read(COMPLAINT.ID.eq(id.value()), 1).stream().findFirst();
  }

  /** Someone's, newest first. */
  List<Complaint> of(PersonId person, int most) {
    return read(COMPLAINT.PERSON_ID.eq(person.value()), most);
  }

  /** Those of an application, newest first. */
  List<Complaint> about(TileId tile, int most) {
    return read(COMPLAINT.TILE_ID.eq(tile.value()), most);
  }

  /** The next free number; only under the ledger-head lock. */
  int nextNumber() {
    Integer last = db.select(DSL.max(COMPLAINT.NUMBER)).from(COMPLAINT).fetchSingle().value1();
    return last == null ? FIRST_NUMBER : last + 1;
  }

  private List<Complaint> read(Condition condition, int most) {
    return db.selectFrom(COMPLAINT)
        .where(condition)
        .orderBy(COMPLAINT.MADE_AT.desc(), COMPLAINT.NUMBER.desc())
        .limit(most)
        .fetch(ComplaintStore::complaint);
  }

  private static Complaint complaint(Record r) {
    return new Complaint(
        new ComplaintId(r.get(COMPLAINT.ID)),
        r.get(COMPLAINT.NUMBER),
        new PersonId(r.get(COMPLAINT.PERSON_ID)),
        new TileId(r.get(COMPLAINT.TILE_ID)),
        new ApplicationId(r.get(COMPLAINT.APPLICATION_ID)),
        r.get(COMPLAINT.TILE_NAME),
        r.get(COMPLAINT.TEXT),
        r.get(COMPLAINT.MADE_AT),
        r.get(COMPLAINT.ANSWERED_AT) == null
            ? null
            : new Complaint.Reply(
                new PersonId(r.get(COMPLAINT.ANSWERED_BY)),
                r.get(COMPLAINT.ANSWERED_AT),
                r.get(COMPLAINT.ANSWER)));
  }

  /** Writes a complaint as it stands now. */
  public static void save(DSLContext tx, Complaint complaint) {
    Complaint.Reply answer = complaint.answer();
    tx.insertInto(COMPLAINT)
        .set(COMPLAINT.ID, complaint.id().value())
        .set(COMPLAINT.NUMBER, complaint.number())
        .set(COMPLAINT.PERSON_ID, complaint.by().value())
        .set(COMPLAINT.TILE_ID, complaint.tile().value())
        .set(COMPLAINT.APPLICATION_ID, complaint.app().value())
        .set(COMPLAINT.TILE_NAME, complaint.tileName())
        .set(COMPLAINT.TEXT, complaint.text())
        .set(COMPLAINT.MADE_AT, complaint.at())
        .set(COMPLAINT.ANSWERED_AT, answer == null ? null : answer.at())
        .set(COMPLAINT.ANSWERED_BY, answer == null ? null : answer.by().value())
        .set(COMPLAINT.ANSWER, answer == null ? "" : answer.text())
        .onDuplicateKeyUpdate()
        .set(COMPLAINT.ANSWERED_AT, answer == null ? null : answer.at())
        .set(COMPLAINT.ANSWERED_BY, answer == null ? null : answer.by().value())
        .set(COMPLAINT.ANSWER, answer == null ? "" : answer.text())
        .execute();
  }
}
