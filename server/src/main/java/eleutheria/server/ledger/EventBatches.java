package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.LEDGER_ENTRY;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;

import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.settings.ServerSettings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Seals sign-ins into the ledger: what has happened since the last batch becomes one entry with the
 * rows' range, their number and one hash over them, so that none is changed or taken away later
 * without the check telling.
 */
@Component
class EventBatches {
  static final String ACT = "sign-ins.seal";
  private static final Duration DAY = Duration.ofDays(1);
  private static final int MOST = 50_000;

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
    acts.byTheClock(
        Integer.class,
        moment -> {
          long after = sealedUpTo();
          List<? extends Record> rows = rows(after, Long.MAX_VALUE);
          if (rows.isEmpty()) {
            return Optional.empty();
          }
          Map<String, Object> details =
              Map.of(
                  "after", after,
                  "until", rows.getLast().get(SIGNIN_EVENT.ID),
                  "count", rows.size(),
                  "since", rows.getFirst().get(SIGNIN_EVENT.HAPPENED_AT).toString(),
                  "hash", hash(rows));
          return Optional.of(Outcome.done(Act.of(ACT).with(details), List.of(), rows.size()));
        },
        (tx, result, entry) -> {});
  }

  private long sealedUpTo() {
    return db.select(LEDGER_ENTRY.JSON)
        .from(LEDGER_ENTRY)
        .where(LEDGER_ENTRY.ACT.eq(ACT))
        .orderBy(LEDGER_ENTRY.POSITION.desc())
        .limit(1)
        .fetchOptional(LEDGER_ENTRY.JSON)
        .map(text -> number(details(text), "until"))
        .orElse(0L);
  }

  private Map<?, ?> details(String entry) {
    return (Map<?, ?>) json.readValue(entry, Map.class).get("details");
  }

  private static long number(Map<?, ?> details, String name) {
    return ((Number) details.get(name)).longValue();
  }

  private List<? extends Record> rows(long after, long until) {
    return db.selectFrom(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.ID.gt(after), SIGNIN_EVENT.ID.le(until))
        .orderBy(SIGNIN_EVENT.ID)
        .limit(MOST)
        .fetch();
  }

  private static String hash(List<? extends Record> rows) {
    StringBuilder text = new StringBuilder();
    for (Record row : rows) {
      text.append(row.get(SIGNIN_EVENT.ID))
          .append(' ')
          .append(row.get(SIGNIN_EVENT.HAPPENED_AT))
          .append(' ')
          .append(row.get(SIGNIN_EVENT.ACCOUNT))
          .append(' ')
          .append(row.get(SIGNIN_EVENT.ADDRESS))
          .append(' ')
          .append(row.get(SIGNIN_EVENT.SUCCESS))
          .append('\n');
    }
    return LedgerChain.hash(text.toString());
  }

  /** What is wrong with the sign-ins that are sealed and still kept; null if nothing is. */
  @Nullable String broken() {
    Instant kept = clock.instant().minus(settings.useKept());
    for (Record entry :
        db.select(LEDGER_ENTRY.POSITION, LEDGER_ENTRY.JSON)
            .from(LEDGER_ENTRY)
            .where(LEDGER_ENTRY.ACT.eq(ACT), LEDGER_ENTRY.INSTANT.gt(kept))
            .orderBy(LEDGER_ENTRY.POSITION)
            .fetch()) {
      Map<?, ?> details = details(entry.get(LEDGER_ENTRY.JSON));
      if (!Instant.parse((String) details.get("since")).isAfter(kept.plus(DAY))) {
        // Some of them are there as counts alone by now, as they should be.
        continue;
      }
      List<? extends Record> rows = rows(number(details, "after"), number(details, "until"));
      if (rows.size() != number(details, "count") || !hash(rows).equals(details.get("hash"))) {
        return "the sign-ins that entry %d seals were changed or taken away"
            .formatted(entry.get(LEDGER_ENTRY.POSITION));
      }
    }
    return null;
  }
}
