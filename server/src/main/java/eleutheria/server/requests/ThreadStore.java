package eleutheria.server.requests;

import static eleutheria.server.tables.Tables.REQUEST_MESSAGE;
import static eleutheria.server.tables.Tables.REQUEST_READ;

import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.requests.Message;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Repository;

/** What is written about requests, and how far each has read. */
@Repository
public class ThreadStore {
  private final DSLContext db;

  ThreadStore(DSLContext db) {
    this.db = db;
  }

  /** The thread of a request, oldest first. */
  public List<Message> of(RequestId id) {
    return db.selectFrom(REQUEST_MESSAGE)
        .where(REQUEST_MESSAGE.REQUEST_ID.eq(id.value()))
        .orderBy(REQUEST_MESSAGE.SEQ)
        .fetch(
            r ->
                new Message(
                    new PersonId(r.get(REQUEST_MESSAGE.AUTHOR_ID)),
                    Message.Kind.valueOf(r.get(REQUEST_MESSAGE.KIND).toUpperCase(Locale.ROOT)),
                    r.get(REQUEST_MESSAGE.TEXT),
                    r.get(REQUEST_MESSAGE.SAID_AT),
                    r.get(REQUEST_MESSAGE.PASSED_TO) == null
                        ? null
                        : new PersonId(r.get(REQUEST_MESSAGE.PASSED_TO))));
  }

  /** Writes a message, in the transaction of its act. */
  public static void add(DSLContext tx, RequestId id, int seq, Message message, long position) {
    tx.insertInto(REQUEST_MESSAGE)
        .set(REQUEST_MESSAGE.REQUEST_ID, id.value())
        .set(REQUEST_MESSAGE.SEQ, seq)
        .set(REQUEST_MESSAGE.AUTHOR_ID, message.by().value())
        .set(REQUEST_MESSAGE.KIND, message.kind().name().toLowerCase(Locale.ROOT))
        .set(REQUEST_MESSAGE.TEXT, message.text())
        .set(REQUEST_MESSAGE.SAID_AT, message.at())
        .set(REQUEST_MESSAGE.PASSED_TO, message.to() == null ? null : message.to().value())
        .set(REQUEST_MESSAGE.POSITION, position)
        .execute();
  }

  /**
   * How far somebody has read.
   *
   * @param messages how many, from the first on
   */
  record Mark(int messages, Instant at) {}

  Map<PersonId, Mark> read(RequestId id) {
    Map<PersonId, Mark> found = new HashMap<>();
    db.selectFrom(REQUEST_READ)
        .where(REQUEST_READ.REQUEST_ID.eq(id.value()))
        .forEach(
            r ->
                found.put(
                    new PersonId(r.get(REQUEST_READ.PERSON_ID)),
                    new Mark(r.get(REQUEST_READ.MESSAGES), r.get(REQUEST_READ.READ_AT))));
    return found;
  }

  /** Somebody has read so far; further than before, or it stays as it was. */
  void mark(RequestId id, PersonId person, int messages, Instant at) {
    db.insertInto(REQUEST_READ)
        .set(REQUEST_READ.REQUEST_ID, id.value())
        .set(REQUEST_READ.PERSON_ID, person.value())
        .set(REQUEST_READ.MESSAGES, messages)
        .set(REQUEST_READ.READ_AT, at)
        .onDuplicateKeyUpdate()
        .set(
            REQUEST_READ.READ_AT,
            DSL.when(REQUEST_READ.MESSAGES.lt(messages), DSL.val(at, REQUEST_READ.READ_AT))
                .otherwise(REQUEST_READ.READ_AT))
        .set(REQUEST_READ.MESSAGES, DSL.greatest(REQUEST_READ.MESSAGES, DSL.val(messages)))
        .execute();
  }
}
