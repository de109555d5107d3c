package eleutheria.server.parked;

import static eleutheria.server.tables.Tables.DUE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.docket.Case;
import eleutheria.core.docket.ParkedDecisions;
import eleutheria.core.facts.PersonId;
import eleutheria.core.mandates.Authority;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Errands and what was due that were given up; whoever changes the settings answers for them. */
@Component
public class ParkedStore {
  /** More than these are not listed; the rest comes as they are dealt with. */
  private static final int MOST = 50;

  private final DSLContext db;

  ParkedStore(DSLContext db) {
    this.db = db;
  }

  /** Whence something comes: what an act left to be done, or what the clock does. */
  enum Queue {
    OUTBOX,
    CLOCK
  }

  /**
   * @param id of the errand, or of the first of those that were due together
   */
  record Id(Queue queue, long id) {
    String text() {
      return (queue == Queue.OUTBOX ? "e" : "c") + id;
    }

    static Optional<Id> parse(String text) {
      return text.matches("[ec][0-9]{1,18}")
          ? Optional.of(
              new Id(
                  text.charAt(0) == 'e' ? Queue.OUTBOX : Queue.CLOCK,
                  Long.parseLong(text.substring(1))))
          : Optional.empty();
    }
  }

  /**
   * @param position of the act that wanted it
   * @param since when that was
   * @param due when the clock was to do it; null for an errand
   */
  record Parked(
      Id id,
      String kind,
      @Nullable PersonId person,
      long position,
      Instant since,
      @Nullable Instant due,
      Instant failed,
      int attempts,
      String error) {
    Case.Parked asCase() {
      return new Case.Parked(id.text(), kind, person, failed, attempts);
    }
  }

  /** What is parked, for whoever answers for it. */
  public List<Case> cases(Authority reader) {
    List<Case> found = new ArrayList<>();
    if (ParkedDecisions.answers(reader)) {
      List<Parked> all = new ArrayList<>(errands(DSL.noCondition()));
      all.addAll(due(DSL.noCondition()));
      all.stream()
          .sorted(Comparator.comparing(Parked::failed))
          .limit(MOST)
          .map(Parked::asCase)
          .forEach(found::add);
    }
    return found;
  }

  Optional<Parked> find(Id id) {
    return (id.queue() == Queue.OUTBOX
            ? errands(OUTBOX.ID.eq(id.id()))
            : due(
                DSL.exists(
                    db.selectOne()
                        .from(DUE.as("one"))
                        .where(
                            DUE.as("one").ID.eq(id.id()),
                            DUE.as("one").DUE_AT.eq(DUE.DUE_AT),
                            DUE.as("one").POSITION.eq(DUE.POSITION),
                            DUE.as("one").KIND.eq(DUE.KIND)))))
        .stream().findFirst();
  }

  private List<Parked> errands(Condition some) {
    return db.select(OUTBOX.fields())
        .select(LEDGER_ENTRY.INSTANT)
        .from(OUTBOX)
        .join(LEDGER_ENTRY)
        .on(LEDGER_ENTRY.POSITION.eq(OUTBOX.POSITION))
        .where(OUTBOX.FAILED_AT.isNotNull(), OUTBOX.DONE_AT.isNull(), some)
        .orderBy(OUTBOX.FAILED_AT, OUTBOX.ID)
        .limit(MOST)
        .fetch(
            r ->
                new Parked(
                    new Id(Queue.OUTBOX, r.get(OUTBOX.ID)),
                    r.get(OUTBOX.KIND),
                    new PersonId(r.get(OUTBOX.PERSON_ID)),
                    r.get(OUTBOX.POSITION),
                    r.get(LEDGER_ENTRY.INSTANT),
                    null,
                    r.get(OUTBOX.FAILED_AT),
                    r.get(OUTBOX.ATTEMPTS),
                    r.get(OUTBOX.LAST_ERROR)));
  }

  private List<Parked> due(Condition some) {
    var first = DSL.min(DUE.ID);
    var failed = DSL.max(DUE.FAILED_AT);
    var attempts = DSL.max(DUE.ATTEMPTS);
    var error = DSL.max(DUE.LAST_ERROR);
    return db.select(
            first,
            DUE.KIND,
            DUE.POSITION,
            DUE.DUE_AT,
            LEDGER_ENTRY.INSTANT,
            failed,
            attempts,
            error)
        .from(DUE)
        .join(LEDGER_ENTRY)
        .on(LEDGER_ENTRY.POSITION.eq(DUE.POSITION))
        .where(DUE.FAILED_AT.isNotNull(), some)
        .groupBy(DUE.KIND, DUE.POSITION, DUE.DUE_AT, LEDGER_ENTRY.INSTANT)
        .orderBy(failed, first)
        .limit(MOST)
        .fetch(
            r ->
                new Parked(
                    new Id(Queue.CLOCK, r.get(first)),
                    r.get(DUE.KIND),
                    null,
                    r.get(DUE.POSITION),
                    r.get(LEDGER_ENTRY.INSTANT),
                    r.get(DUE.DUE_AT),
                    r.get(failed),
                    r.get(attempts),
                    r.get(error)));
  }

  /** What is done with something parked. */
  enum Step {
    /** Has it tried anew, as if it had never failed. */
    RETRY {
      @Override
      void take(DSLContext tx, Parked parked, Instant now) {
        if (parked.id().queue() == Queue.OUTBOX) {
          tx.update(OUTBOX)
              .set(OUTBOX.ATTEMPTS, 0)
              .setNull(OUTBOX.FAILED_AT)
              .set(OUTBOX.NEXT_AT, now)
              .where(OUTBOX.ID.eq(parked.id().id()))
              .execute();
        } else {
          tx.update(DUE)
              .set(DUE.ATTEMPTS, 0)
              .setNull(DUE.FAILED_AT)
              .setNull(DUE.NEXT_AT)
              .where(together(parked))
              .execute();
        }
      }
    },

    /** Has it never done. */
    DROP {
      @Override
      void take(DSLContext tx, Parked parked, Instant now) {
        if (parked.id().queue() == Queue.OUTBOX) {
          tx.update(OUTBOX)
              .set(OUTBOX.DONE_AT, now)
              .setNull(OUTBOX.ADDRESS)
              .where(OUTBOX.ID.eq(parked.id().id()))
              .execute();
        } else {
          tx.deleteFrom(DUE).where(together(parked)).execute();
        }
      }
    };

    abstract void take(DSLContext tx, Parked parked, Instant now);
  }

  private static Condition together(Parked parked) {
    return DUE.DUE_AT
        .eq(parked.due())
        .and(DUE.POSITION.eq(parked.position()))
        .and(DUE.KIND.eq(parked.kind()));
  }
}
