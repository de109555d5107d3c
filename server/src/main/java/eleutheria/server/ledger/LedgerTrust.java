package eleutheria.server.ledger;

import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.settings.Settings;
import eleutheria.server.writing.Acts;
import java.time.Clock;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the last check of the ledger came to, for all nodes. A difference lies on the docket of
 * whoever reads the ledger, and stops all writing where it is so set.
 */
@Component
public class LedgerTrust implements Acts.Trusting {
  private static final Logger log = LoggerFactory.getLogger(LedgerTrust.class);
  private static final String KEPT = "ledger-check";

  private final LedgerCheck check;
  private final Settings kept;
  private final ServerSettings settings;
  private final Clock clock;
  private final JsonMapper json;

  LedgerTrust(
      LedgerCheck check, Settings kept, ServerSettings settings, Clock clock, JsonMapper json) {
    this.check = check;
    this.kept = kept;
    this.settings = settings;
    this.clock = clock;
    this.json = json;
  }

  /**
   * A difference that a check has found.
   *
   * @param entries up to which entry was checked
   */
  public record Difference(Instant at, long entries, String why) {}

  LedgerCheck.Checked check() {
    LedgerCheck.Checked checked = check.check();
    if (checked.right()) {
      kept.forget(KEPT);
    } else {
      String why =
          checked.broken() == null
              ? String.valueOf(checked.why())
              : "entry %d: %s".formatted(checked.broken(), checked.why());
      log.error("The ledger does not check: {}", why);
      kept.put(
          KEPT, json.writeValueAsString(new Difference(clock.instant(), checked.entries(), why)));
    }
    return checked;
  }

  /** What the last check has found; null if all was right, or none has run. */
  public @Nullable Difference difference() {
    Optional<String> found = kept.get(KEPT);
    return found.map(text -> json.readValue(text, Difference.class)).orElse(null);
  }

  /** Ends an act while a difference stands, where that is so set. */
  @Override
  public void require() {
    if (!settings.stopOnDifference()) {
      return;
    }
    Difference difference = difference();
    if (difference != null) {
      throw Refusal.of(
          Problem.stale(
              "",
              "The check of the ledger found a difference (%s). Nothing can be saved until the people who run this server have found the cause and a check finds no difference."
                  .formatted(difference.why())));
    }
  }

  @Scheduled(cron = "${eleutheria.check-at}")
  void nightly() {
    check();
  }
}
