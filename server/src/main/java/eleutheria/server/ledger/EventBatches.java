package eleutheria.server.ledger;

import static eleutheria.core.ledger.JsonMembers.number;
import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;

import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.JsonMembers;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.writing.Acts;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Seals sign-ins into the ledger: those of a span become one entry with their number and one hash
 * over them, so that none is changed or taken away later without the check telling. The newest
 * minute waits for the next batch, since rows of it may still be on their way.
 */
@Component
class EventBatches {
  static final ActName ACT = ActName.SIGN_INS_SEAL;
  private static final Duration UNDER_WAY = Duration.ofMinutes(1);
  private static final int FETCHED = 5_000;

  private final DSLContext db;
  private final Acts acts;
  private final ServerSettings settings;
  private final Clock clock;
  private final JsonMapper json;

  EventBatches(DSLContext db, Acts acts, ServerSettings settings, Clock clock, JsonMapper json) {
    this.db = db;
    this.acts = acts;
    this.settings = settings;
    this.clock = clock;
    this.json = json;
  }

  @Scheduled(
      initialDelayString = "${eleutheria.seal-every}",
      fixedDelayString = "${eleutheria.seal-every}")
  void seal() {
    seal(clock.instant().minus(UNDER_WAY));
  }

  /** Seals what has happened since the last batch and before a moment. */
  void seal(Instant before) {
    Instant until = before.truncatedTo(ChronoUnit.MICROS);
    acts.byTheClock(
        Integer.class,
        moment -> {
          Instant since = sealedUpTo();
          Instant kept = clock.instant().minus(settings.useKept());
          Batch batch = batch(since.isAfter(kept) ? since : oldestSince(kept, until), until);
          return batch.count() == 0
              ? Optional.empty()
              : Optional.of(
                  Outcome.done(Act.of(ACT).with(batch.details()), List.of(), batch.count()));
        },
        (tx, result, entry) -> {});
  }

  /** Sign-ins from one moment until another, which is not in it. */
  private record Batch(Instant since, Instant until, int count, String hash) {
    Map<String, Object> details() {
      return Map.of(
          "since", Moments.text(since), "until", Moments.text(until), "count", count, "hash", hash);
    }
  }

  private Batch batch(Instant since, Instant until) {
    StringBuilder hashes = new StringBuilder();
    int count = 0;
    try (var rows =
        db.selectFrom(SIGNIN_EVENT)
            .where(SIGNIN_EVENT.HAPPENED_AT.ge(since), SIGNIN_EVENT.HAPPENED_AT.lt(until))
            .orderBy(SIGNIN_EVENT.ID)
            .fetchSize(FETCHED)
            .fetchLazy()) {
      for (Record row : rows) {
        count++;
        hashes.append(LedgerChain.hash(text(row))).append('\n');
        if (count % FETCHED == 0) {
          String so = LedgerChain.hash(hashes.toString());
          hashes.setLength(0);
          hashes.append(so).append('\n');
        }
      }
    }
    return new Batch(since, until, count, LedgerChain.hash(hashes.toString()));
  }

  private static String text(Record row) {
    return "%d %s %s %s %s %s"
        .formatted(
            row.get(SIGNIN_EVENT.ID),
            row.get(SIGNIN_EVENT.HAPPENED_AT),
            row.get(SIGNIN_EVENT.ACCOUNT),
            row.get(SIGNIN_EVENT.PERSON_ID),
            row.get(SIGNIN_EVENT.ADDRESS),
            row.get(SIGNIN_EVENT.SUCCESS));
  }

  /**
   * The oldest sign-in that is kept one by one, where nothing is sealed or only what is there as
   * counts alone: a span that begins before it could never be checked.
   */
  private Instant oldestSince(Instant kept, Instant until) {
    return db.select(DSL.min(SIGNIN_EVENT.HAPPENED_AT))
        .from(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.HAPPENED_AT.gt(kept), SIGNIN_EVENT.HAPPENED_AT.lt(until))
        .fetchOptional(0, Instant.class)
        .orElse(until);
  }

  private Instant sealedUpTo() {
    return db.select(LEDGER_ENTRY.JSON)
        .from(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.ACT.eq(ACT.word()))
        .orderBy(LEDGER_ENTRY.POSITION.desc())
        .limit(1)
        .fetchOptional(LEDGER_ENTRY.JSON)
        .map(text -> moment(details(text), "until"))
        .orElse(Instant.EPOCH);
  }

  private Map<?, ?> details(String entry) {
    return object(json.readValue(entry, Map.class), "details");
  }

  private static Instant moment(Map<?, ?> details, String name) {
    return Moments.parse(JsonMembers.text(details, name));
  }

  /** What is wrong with the sign-ins that are sealed and still kept; null if nothing is. */
  @Nullable String broken() {
    Instant kept = clock.instant().minus(settings.useKept());
    for (Record entry :
        db.select(LEDGER_ENTRY.POSITION, LEDGER_ENTRY.JSON)
            .from(LEDGER_ENTRY)
            .where(LEDGER_ENTRY.ACT.eq(ACT.word()), LEDGER_ENTRY.INSTANT.gt(kept))
            .orderBy(LEDGER_ENTRY.POSITION)
            .fetch()) {
      Map<?, ?> details = details(entry.get(LEDGER_ENTRY.JSON));
      Instant since = moment(details, "since");
      // Of an older span some are there as counts alone by now, as they should be.
      if (since.isAfter(kept)
          && !batch(since, moment(details, "until")).details().equals(details(entry))) {
        return "the sign-ins that entry %d seals were changed or taken away"
            .formatted(entry.get(LEDGER_ENTRY.POSITION));
      }
    }
    return null;
  }

  private Map<String, Object> details(Record entry) {
    Map<?, ?> details = details(entry.get(LEDGER_ENTRY.JSON));
    return Map.of(
        "since", details.get("since"),
        "until", details.get("until"),
        "count", number(details, "count").intValue(),
        "hash", details.get("hash"));
  }
}
