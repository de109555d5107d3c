package eleutheria.server.outbox;

import static eleutheria.server.tables.Tables.OUTBOX;
import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.SuggestionId;
import eleutheria.server.clock.Retry;
import eleutheria.server.holdings.QueryMail;
import eleutheria.server.tables.tables.Outbox;
import java.time.Clock;
import java.time.Instant;
import java.util.Map;
import java.util.UUID;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.mail.MailException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Does the errands that acts left behind, one at a time and each at least once, in order of
 * whatever is told to one person about one thing. What fails holds up nothing else: it is tried
 * again by and by, and parked at last ({@link Retry}). Kinds that are not known here wait for a
 * newer node.
 */
@Component
class OutboxWorker {
  private static final Logger log = LoggerFactory.getLogger(OutboxWorker.class);

  private final DSLContext db;
  private final Map<String, Consumer<Record>> kinds;
  private final Clock clock;
  private final TransactionTemplate transaction;
  private final TransactionTemplate apart;

  OutboxWorker(
      DSLContext db,
      InvitationMail invitations,
      RequestMail requests,
      DraftMail drafts,
      AnswerMail answers,
      DeputyMail deputies,
      QueryMail queries,
      Clock clock,
      PlatformTransactionManager transactions) {
    this.db = db;
    this.clock = clock;
    this.transaction = new TransactionTemplate(transactions);
    // What an errand has written goes when it fails; that it has failed stays.
    this.apart = new TransactionTemplate(transactions);
    apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_NESTED);
    this.kinds =
        Map.ofEntries(
            Map.entry("invite", e -> invitations.send(person(e), e.get(OUTBOX.POSITION))),
            Map.entry("reset", e -> invitations.sendReset(person(e), e.get(OUTBOX.POSITION))),
            Map.entry("old-address", e -> invitations.tellOld(person(e), e.get(OUTBOX.ADDRESS))),
            Map.entry(
                "request",
                e -> requests.send(person(e), new RequestId(subject(e)), e.get(OUTBOX.TALE))),
            Map.entry(
                "deputy",
                e ->
                    deputies.send(
                        person(e),
                        new PersonId(subject(e)),
                        requireNonNull(e.get(OUTBOX.TALE)).equals("deputy"))),
            Map.entry(
                "suggestion", e -> answers.sendSuggestion(person(e), new SuggestionId(subject(e)))),
            Map.entry(
                "complaint", e -> answers.sendComplaint(person(e), new ComplaintId(subject(e)))),
            Map.entry("query", e -> queries.send(person(e), subject(e))),
            Map.entry("ends-soon", e -> requests.sendEnd(person(e), new GrantId(subject(e)))),
            Map.entry(
                "draft",
                e ->
                    drafts.spread(
                        person(e),
                        new DraftId(subject(e)),
                        e.get(OUTBOX.POSITION),
                        clock.instant())),
            Map.entry(
                "draft-ahead",
                e ->
                    drafts.spreadAhead(
                        person(e),
                        new DraftId(subject(e)),
                        e.get(OUTBOX.POSITION),
                        clock.instant())),
            Map.entry(
                DraftMail.AHEAD,
                e -> drafts.sendAhead(person(e), new DraftId(subject(e)), e.get(OUTBOX.POSITION))),
            Map.entry(DraftMail.EACH, e -> drafts.send(person(e), new DraftId(subject(e)))));
  }

  private static PersonId person(Record errand) {
    return new PersonId(errand.get(OUTBOX.PERSON_ID));
  }

  private static UUID subject(Record errand) {
    return errand.get(OUTBOX.SUBJECT_ID);
  }

  @Scheduled(fixedDelay = 500)
  void work() {
    while (Boolean.TRUE.equals(transaction.execute(status -> one()))) {
      // The next one.
    }
  }

  /** Does the errand that is due longest; false if none is. Other nodes skip it meanwhile. */
  private boolean one() {
    Instant now = clock.instant();
    Outbox earlier = OUTBOX.as("earlier");
    Record errand =
        db.selectFrom(OUTBOX)
            .where(
                OUTBOX.DONE_AT.isNull(),
                OUTBOX.FAILED_AT.isNull(),
                OUTBOX.NEXT_AT.le(now),
                OUTBOX.KIND.in(kinds.keySet()))
            .andNotExists(
                db.selectOne()
                    .from(earlier)
                    .where(
                        earlier.DONE_AT.isNull(),
                        earlier.FAILED_AT.isNull(),
                        earlier.ID.lt(OUTBOX.ID),
                        earlier.PERSON_ID.eq(OUTBOX.PERSON_ID),
                        earlier.SUBJECT_ID.eq(OUTBOX.SUBJECT_ID)))
            .orderBy(OUTBOX.NEXT_AT, OUTBOX.ID)
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOne();
    if (errand == null) {
      return false;
    }
    try {
      apart.executeWithoutResult(
          status -> requireNonNull(kinds.get(errand.get(OUTBOX.KIND))).accept(errand));
      db.update(OUTBOX)
          .set(OUTBOX.DONE_AT, clock.instant())
          .setNull(OUTBOX.ADDRESS)
          .where(OUTBOX.ID.eq(errand.get(OUTBOX.ID)))
          .execute();
    } catch (RuntimeException e) {
      failed(errand, now, e);
    }
    return true;
  }

  private void failed(Record errand, Instant now, RuntimeException e) {
    int attempts = errand.get(OUTBOX.ATTEMPTS) + 1;
    String error = Retry.error(e);
    // A mail server that is away is told in a line; anything else is a fault of ours.
    if (e instanceof MailException) {
      log.warn("Errand {} failed for the {}th time: {}", errand.get(OUTBOX.ID), attempts, error);
    } else {
      log.error("Errand {} failed for the {}th time", errand.get(OUTBOX.ID), attempts, e);
    }
    db.update(OUTBOX)
        .set(OUTBOX.ATTEMPTS, attempts)
        .set(OUTBOX.LAST_ERROR, error)
        .set(OUTBOX.NEXT_AT, now.plus(Retry.pause(attempts)))
        .set(OUTBOX.FAILED_AT, Retry.parks(attempts) ? now : null)
        .where(OUTBOX.ID.eq(errand.get(OUTBOX.ID)))
        .execute();
  }
}
