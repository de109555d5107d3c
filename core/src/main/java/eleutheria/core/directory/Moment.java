package eleutheria.core.directory;

import eleutheria.core.facts.Edits;
import eleutheria.core.facts.Facts;
import eleutheria.core.mandates.Authority;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.UUID;
import java.util.function.Supplier;

/**
 * Everything a decision may look at: the state under the ledger-head lock, the act's instant, fresh
 * ids, and what the actor may do.
 *
 * @param zone the organisation's zone, in which days are counted
 */
public record Moment(
    Facts facts,
    DirectoryView directory,
    Instant at,
    ZoneId zone,
    Supplier<UUID> ids,
    Authority authority) {

  public Edits edits() {
    return new Edits(facts, at);
  }

  public LocalDate today() {
    return at.atZone(zone).toLocalDate();
  }
}
