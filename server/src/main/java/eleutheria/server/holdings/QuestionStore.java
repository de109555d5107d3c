package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.QUESTION;

import eleutheria.core.facts.PersonId;
import eleutheria.core.questions.Every;
import eleutheria.core.questions.Question;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Repository;

/** Saved questions. */
@Repository
public class QuestionStore {
  private final DSLContext db;

  QuestionStore(DSLContext db) {
    this.db = db;
  }

  public Optional<Question> find(UUID id) {
    return db.selectFrom(QUESTION)
        .where(QUESTION.QUESTION_ID.eq(id))
        .fetchOptional(QuestionStore::question);
  }

  List<Question> of(PersonId owner) {
    return db.selectFrom(QUESTION)
        .where(QUESTION.OWNER_ID.eq(owner.value()))
        .orderBy(QUESTION.NAME)
        .fetch(QuestionStore::question);
  }

  /** Those that others share. */
  List<Question> sharedBesides(PersonId reader, int most) {
    return db.selectFrom(QUESTION)
        .where(QUESTION.SHARED.isTrue(), QUESTION.OWNER_ID.ne(reader.value()))
        .orderBy(QUESTION.NAME)
        .limit(most)
        .fetch(QuestionStore::question);
  }

  static void save(DSLContext tx, Question question) {
    tx.insertInto(QUESTION)
        .set(QUESTION.QUESTION_ID, question.id())
        .set(QUESTION.OWNER_ID, question.owner().value())
        .set(QUESTION.NAME, question.name())
        .set(QUESTION.WHY, question.why())
        .set(QUESTION.SPEC, question.spec())
        .set(QUESTION.SHARED, question.shared())
        .set(QUESTION.EVERY, question.every().word())
        .set(QUESTION.NEXT_ON, question.next())
        .set(QUESTION.VERSION, question.version())
        .set(QUESTION.CHANGED_AT, question.changedAt())
        .onDuplicateKeyUpdate()
        .set(QUESTION.NAME, question.name())
        .set(QUESTION.WHY, question.why())
        .set(QUESTION.SPEC, question.spec())
        .set(QUESTION.SHARED, question.shared())
        .set(QUESTION.EVERY, question.every().word())
        .set(QUESTION.NEXT_ON, question.next())
        .set(QUESTION.VERSION, question.version())
        .set(QUESTION.CHANGED_AT, question.changedAt())
        .execute();
  }

  static void drop(DSLContext tx, UUID id) {
    tx.deleteFrom(QUESTION).where(QUESTION.QUESTION_ID.eq(id)).execute();
  }

  private static Question question(Record row) {
    return new Question(
        row.get(QUESTION.QUESTION_ID),
        new PersonId(row.get(QUESTION.OWNER_ID)),
        row.get(QUESTION.NAME),
        row.get(QUESTION.WHY),
        row.get(QUESTION.SPEC),
        row.get(QUESTION.SHARED),
        Every.of(row.get(QUESTION.EVERY)),
        row.get(QUESTION.NEXT_ON),
        row.get(QUESTION.VERSION),
        row.get(QUESTION.CHANGED_AT));
  }
}
