package eleutheria.server.portal;

import static eleutheria.server.tables.Tables.FEED;

import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.server.signon.Door;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** The token with which each person's tiles are read elsewhere; only its hash is kept. */
@Repository
class Feeds implements Door {
  private static final int BYTES = 32;

  /** How exactly it is noted when a token was used. */
  private static final Duration NOTED = Duration.ofHours(1);

  private final DSLContext db;
  private final SecureRandom random = new SecureRandom();

  Feeds(DSLContext db) {
    this.db = db;
  }

  /**
   * @param used when it was used last, to the hour; null for never
   */
  record Feed(Instant made, @Nullable Instant used) {}

  String newToken() {
    byte[] bytes = new byte[BYTES];
    random.nextBytes(bytes);
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }

  Optional<Feed> find(PersonId person) {
    return db.select(FEED.MADE_AT, FEED.USED_AT)
        .from(FEED)
        .where(FEED.PERSON_ID.eq(person.value()))
        .fetchOptional(r -> new Feed(r.value1(), r.value2()));
  }

  /** Keeps a token in place of another, which no longer works. */
  static void keep(DSLContext tx, PersonId person, String token, Instant at) {
    String hash = LedgerChain.hash(token);
    tx.insertInto(FEED)
        .set(FEED.PERSON_ID, person.value())
        .set(FEED.TOKEN_HASH, hash)
        .set(FEED.MADE_AT, at)
        .onDuplicateKeyUpdate()
        .set(FEED.TOKEN_HASH, hash)
        .set(FEED.MADE_AT, at)
        .setNull(FEED.USED_AT)
        .execute();
  }

  /** Whose token it is; that it was used is noted. */
  Optional<PersonId> reader(String token, Instant now) {
    String hash = LedgerChain.hash(token);
    Optional<PersonId> found =
        db.select(FEED.PERSON_ID)
            .from(FEED)
            .where(FEED.TOKEN_HASH.eq(hash))
            .fetchOptional(r -> new PersonId(r.value1()));
    if (found.isPresent()) {
      db.update(FEED)
          .set(FEED.USED_AT, now)
          .where(
              FEED.TOKEN_HASH.eq(hash), FEED.USED_AT.isNull().or(FEED.USED_AT.lt(now.minus(NOTED))))
          .execute();
    }
    return found;
  }

  @Override
  public void shut(DSLContext tx, PersonId person, @Nullable String keep) {
    tx.deleteFrom(FEED).where(FEED.PERSON_ID.eq(person.value())).execute();
  }
}
