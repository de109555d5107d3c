package eleutheria.server.signon;

import static eleutheria.server.tables.Tables.ACCOUNT;
import static eleutheria.server.tables.Tables.ATTRIBUTE;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.signon.AccountDecisions;
import eleutheria.core.signon.Attempts;
import java.time.Instant;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Password hashes, and who tried to sign in from where. */
@Repository
public class Accounts {
  private final DSLContext db;

  Accounts(DSLContext db) {
    this.db = db;
  }

  Optional<String> hash(PersonId person) {
    return db.select(ACCOUNT.PASSWORD)
        .from(ACCOUNT)
        .where(ACCOUNT.PERSON_ID.eq(person.value()))
        .fetchOptional(ACCOUNT.PASSWORD);
  }

  /** What is known of somebody's account, for whoever would send them a link. */
  public AccountDecisions.Account account(PersonId person) {
    var mails =
        db.select(ATTRIBUTE.VALID_FROM, LEDGER_ENTRY.ACTOR)
            .from(ATTRIBUTE)
            .join(LEDGER_ENTRY)
            .on(LEDGER_ENTRY.POSITION.eq(ATTRIBUTE.OPENED))
            .where(ATTRIBUTE.PERSON_ID.eq(person.value()), ATTRIBUTE.NAME.eq(Attributes.MAIL))
            .orderBy(ATTRIBUTE.VALID_FROM.desc())
            .limit(2)
            .fetch();
    // The address somebody came with has replaced none.
    boolean replaced = mails.size() > 1;
    String actor = replaced ? mails.getFirst().value2() : "";
    return new AccountDecisions.Account(
        exists(person),
        replaced ? mails.getFirst().value1() : null,
        actor.startsWith("person:") ? (PersonId) ObjectId.parse(actor) : null);
  }

  public boolean exists(PersonId person) {
    return hash(person).isPresent();
  }

  public static void set(DSLContext tx, PersonId person, String hash, Instant at) {
    tx.insertInto(ACCOUNT)
        .set(ACCOUNT.PERSON_ID, person.value())
        .set(ACCOUNT.PASSWORD, hash)
        .set(ACCOUNT.CHANGED_AT, at)
        .onDuplicateKeyUpdate()
        .set(ACCOUNT.PASSWORD, hash)
        .set(ACCOUNT.CHANGED_AT, at)
        .execute();
  }

  void tried(
      String account, @Nullable PersonId person, String address, boolean success, Instant at) {
    db.insertInto(SIGNIN_EVENT)
        .set(SIGNIN_EVENT.HAPPENED_AT, at)
        .set(SIGNIN_EVENT.ACCOUNT, account)
        .set(SIGNIN_EVENT.PERSON_ID, person == null ? null : person.value())
        .set(SIGNIN_EVENT.ADDRESS, address)
        .set(SIGNIN_EVENT.SUCCESS, success)
        .execute();
  }

  Attempts.Record attempts(String account, String address, Instant now) {
    Condition pair = SIGNIN_EVENT.ACCOUNT.eq(account).and(SIGNIN_EVENT.ADDRESS.eq(address));
    Instant lastSuccess =
        db.select(DSL.max(SIGNIN_EVENT.HAPPENED_AT))
            .from(SIGNIN_EVENT)
            .where(pair, SIGNIN_EVENT.SUCCESS.isTrue())
            .fetchSingle()
            .value1();
    Instant since = lastSuccess == null ? now.minus(Attempts.WINDOW.multipliedBy(96)) : lastSuccess;
    var failures =
        db.select(DSL.count(), DSL.max(SIGNIN_EVENT.HAPPENED_AT))
            .from(SIGNIN_EVENT)
            .where(pair, SIGNIN_EVENT.SUCCESS.isFalse(), SIGNIN_EVENT.HAPPENED_AT.gt(since))
            .fetchSingle();
    Instant window = now.minus(Attempts.WINDOW);
    int fromAddress =
        db.fetchCount(
            SIGNIN_EVENT,
            SIGNIN_EVENT.ADDRESS.eq(address),
            SIGNIN_EVENT.SUCCESS.isFalse(),
            SIGNIN_EVENT.HAPPENED_AT.gt(window));
    int ofAccount =
        db.fetchCount(
            SIGNIN_EVENT,
            SIGNIN_EVENT.ACCOUNT.eq(account),
            SIGNIN_EVENT.SUCCESS.isFalse(),
            SIGNIN_EVENT.HAPPENED_AT.gt(window),
            SIGNIN_EVENT.ADDRESS.notIn(
                DSL.select(SIGNIN_EVENT.as("known").ADDRESS)
                    .from(SIGNIN_EVENT.as("known"))
                    .where(
                        SIGNIN_EVENT.as("known").ACCOUNT.eq(account),
                        SIGNIN_EVENT.as("known").SUCCESS.isTrue())));
    Instant last = failures.value2();
    return new Attempts.Record(
        failures.value1(),
        last == null ? Instant.EPOCH : last,
        fromAddress,
        ofAccount,
        lastSuccess != null);
  }
}
