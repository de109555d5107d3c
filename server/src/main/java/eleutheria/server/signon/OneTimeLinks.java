package eleutheria.server.signon;

import static eleutheria.server.tables.Tables.ONE_TIME_LINK;

import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.ServerSettings;
import java.net.URI;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Links that work once. The token stands behind the address's {@code #}, so that no server, proxy
 * or mail scanner that fetches the link ever sees it, and only its hash is kept.
 */
@Component
public class OneTimeLinks implements Door {
  public static final String INVITE = "invite";
  public static final String FIRST_STEWARD = "first-steward";
  public static final Duration LASTS = Duration.ofDays(14);

  /** A link to set a new password, where there is one. */
  public static final String RESET = "reset";

  public static final Duration RESET_LASTS = Duration.ofDays(1);

  private final DSLContext db;
  private final Clock clock;
  private final URI base;
  private final SecureRandom random = new SecureRandom();

  OneTimeLinks(DSLContext db, Clock clock, ServerSettings settings) {
    this.db = db;
    this.clock = clock;
    this.base = settings.baseAddress();
  }

  /**
   * @param askedBy who had it sent; null for the first steward's
   */
  record Link(
      String purpose, @Nullable PersonId person, @Nullable PersonId askedBy, Instant until) {}

  @Override
  public void shut(DSLContext tx, PersonId person, @Nullable String keep) {
    tx.deleteFrom(ONE_TIME_LINK)
        .where(ONE_TIME_LINK.PERSON_ID.eq(person.value()), ONE_TIME_LINK.USED_AT.isNull())
        .execute();
  }

  /**
   * Makes a link; an older one for the same person no longer works.
   *
   * @param askedBy who has it sent; null for the first steward's
   */
  public URI make(String purpose, @Nullable PersonId person, @Nullable PersonId askedBy) {
    byte[] bytes = new byte[32];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    Instant now = clock.instant();
    UUID id = person == null ? null : person.value();
    db.deleteFrom(ONE_TIME_LINK)
        .where(
            id == null ? ONE_TIME_LINK.PURPOSE.eq(purpose) : DSL.noCondition(),
            id == null ? ONE_TIME_LINK.PERSON_ID.isNull() : ONE_TIME_LINK.PERSON_ID.eq(id),
            ONE_TIME_LINK.USED_AT.isNull())
        .execute();
    db.insertInto(ONE_TIME_LINK)
        .set(ONE_TIME_LINK.TOKEN_HASH, LedgerChain.hash(token))
        .set(ONE_TIME_LINK.PURPOSE, purpose)
        .set(ONE_TIME_LINK.PERSON_ID, id)
        .set(ONE_TIME_LINK.ASKED_BY, askedBy == null ? null : askedBy.value())
        .set(ONE_TIME_LINK.MADE_AT, now)
        .set(ONE_TIME_LINK.UNTIL_AT, now.plus(RESET.equals(purpose) ? RESET_LASTS : LASTS))
        .execute();
    return base.resolve("/welcome#" + token);
  }

  Optional<Link> look(String token) {
    return db.selectFrom(ONE_TIME_LINK)
        .where(
            ONE_TIME_LINK.TOKEN_HASH.eq(LedgerChain.hash(token)),
            ONE_TIME_LINK.USED_AT.isNull(),
            ONE_TIME_LINK.UNTIL_AT.gt(clock.instant()))
        .fetchOptional(
            row -> {
              UUID person = row.get(ONE_TIME_LINK.PERSON_ID);
              UUID asker = row.get(ONE_TIME_LINK.ASKED_BY);
              return new Link(
                  row.get(ONE_TIME_LINK.PURPOSE),
                  person == null ? null : new PersonId(person),
                  asker == null ? null : new PersonId(asker),
                  row.get(ONE_TIME_LINK.UNTIL_AT));
            });
  }

  /** Uses it up; refused if someone was faster. */
  static void useUp(DSLContext tx, String token, Instant at) {
    int used =
        tx.update(ONE_TIME_LINK)
            .set(ONE_TIME_LINK.USED_AT, at)
            .where(
                ONE_TIME_LINK.TOKEN_HASH.eq(LedgerChain.hash(token)),
                ONE_TIME_LINK.USED_AT.isNull())
            .execute();
    if (used != 1) {
      throw Refusal.of(Problem.stale("", "This link was used a moment ago."));
    }
  }
}
