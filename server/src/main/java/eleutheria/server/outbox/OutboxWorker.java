package eleutheria.server.outbox;

import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.SuggestionId;
import eleutheria.server.holdings.QueryMail;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.mail.MailException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Does the errands that acts left behind, one at a time and each at least once. What fails is tried
 * again after 10 s, 20 s, 40 s … at most 6 h, twelve times.
 */
@Component
class OutboxWorker {
  private static final Logger log = LoggerFactory.getLogger(OutboxWorker.class);
  private static final int MOST_TRIES = 12;
  private static final Duration LONGEST_PAUSE = Duration.ofHours(6);

  private final DSLContext db;
  private final InvitationMail invitations;
  private final RequestMail requests;
  private final DraftMail drafts;
  private final AnswerMail answers;
  private final QueryMail queries;
  private final Clock clock;
  private final TransactionTemplate transaction;

  OutboxWorker(
      DSLContext db,
      InvitationMail invitations,
      RequestMail requests,
      DraftMail drafts,
      AnswerMail answers,
      QueryMail queries,
      Clock clock,
      PlatformTransactionManager transactions) {
    this.db = db;
    this.invitations = invitations;
    this.requests = requests;
    this.drafts = drafts;
    this.answers = answers;
    this.queries = queries;
    this.clock = clock;
    this.transaction = new TransactionTemplate(transactions);
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
    Record errand =
        db.selectFrom(OUTBOX)
            .where(OUTBOX.DONE_AT.isNull(), OUTBOX.FAILED_AT.isNull(), OUTBOX.NEXT_AT.le(now))
            .orderBy(OUTBOX.NEXT_AT)
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOne();
    if (errand == null) {
      return false;
    }
    long id = errand.get(OUTBOX.ID);
    try {
      perform(errand);
      db.update(OUTBOX)
          .set(OUTBOX.DONE_AT, clock.instant())
          .setNull(OUTBOX.ADDRESS)
          .where(OUTBOX.ID.eq(id))
          .execute();
    } catch (MailException e) {
      int attempts = errand.get(OUTBOX.ATTEMPTS) + 1;
      Duration pause = Duration.ofSeconds(10L << Math.min(attempts - 1, 12));
      String error = String.valueOf(e.getMessage());
      log.warn("Errand {} failed for the {}th time: {}", id, attempts, error);
      db.update(OUTBOX)
          .set(OUTBOX.ATTEMPTS, attempts)
          .set(OUTBOX.LAST_ERROR, error.substring(0, Math.min(300, error.length())))
          .set(OUTBOX.NEXT_AT, now.plus(pause.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : pause))
          .set(OUTBOX.FAILED_AT, attempts >= MOST_TRIES ? now : null)
          .where(OUTBOX.ID.eq(id))
          .execute();
    }
    return true;
  }

  private void perform(Record errand) {
    PersonId person = new PersonId(errand.get(OUTBOX.PERSON_ID));
    switch (errand.get(OUTBOX.KIND)) {
      case "invite" -> invitations.send(person, errand.get(OUTBOX.POSITION));
      case "reset" -> invitations.sendReset(person, errand.get(OUTBOX.POSITION));
      case "old-address" -> invitations.tellOld(person, errand.get(OUTBOX.ADDRESS));
      case "request" ->
          requests.send(
              person, new RequestId(errand.get(OUTBOX.SUBJECT_ID)), errand.get(OUTBOX.TALE));
      case "suggestion" ->
          answers.sendSuggestion(person, new SuggestionId(errand.get(OUTBOX.SUBJECT_ID)));
      case "complaint" ->
          answers.sendComplaint(person, new ComplaintId(errand.get(OUTBOX.SUBJECT_ID)));
      case "query" -> queries.send(person, errand.get(OUTBOX.SUBJECT_ID));
      case "ends-soon" -> requests.sendEnd(person, new GrantId(errand.get(OUTBOX.SUBJECT_ID)));
      case "draft" ->
          drafts.spread(
              person,
              new DraftId(errand.get(OUTBOX.SUBJECT_ID)),
              errand.get(OUTBOX.POSITION),
              clock.instant());
      case "draft-ahead" ->
          drafts.spreadAhead(
              person,
              new DraftId(errand.get(OUTBOX.SUBJECT_ID)),
              errand.get(OUTBOX.POSITION),
              clock.instant());
      case DraftMail.AHEAD ->
          drafts.sendAhead(
              person, new DraftId(errand.get(OUTBOX.SUBJECT_ID)), errand.get(OUTBOX.POSITION));
      case DraftMail.EACH -> drafts.send(person, new DraftId(errand.get(OUTBOX.SUBJECT_ID)));
      default -> throw new IllegalStateException("unknown errand: " + errand.get(OUTBOX.KIND));
    }
  }
}
