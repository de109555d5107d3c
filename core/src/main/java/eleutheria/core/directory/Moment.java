package eleutheria.core.directory;

import eleutheria.core.facts.Edits;
import eleutheria.core.facts.Facts;
import eleutheria.core.mandates.Authority;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Supplier;

/**
 * Everything a decision may look at: the state under the ledger-head lock, the act's instant, fresh
 * ids, and what the actor may do.
 *
 * @param zone the organisation's zone, in which days are counted
 * @param views of this very state that are there already, by their type, so that a decision does
 *     not work them out again
 */
public record Moment(
    Facts facts,
    DirectoryView directory,
    Instant at,
    ZoneId zone,
    Supplier<UUID> ids,
    Authority authority,
    Map<Class<?>, Object> views) {
  public Moment(
      Facts facts,
      DirectoryView directory,
      Instant at,
      ZoneId zone,
      Supplier<UUID> ids,
      Authority authority) {
    this(facts, directory, at, zone, ids, authority, Map.of());
  }

  /** The same, with a view of this state that is there already. */
  public <T> Moment with(Class<T> type, T view) {
    return new Moment(facts, directory, at, zone, ids, authority, Map.of(type, view));
  }

  /** The same for somebody else. */
  public Moment by(Authority other) {
    return new Moment(facts, directory, at, zone, ids, other, views);
  }

  /** A view of this state, if it is there already. */
  public <T> Optional<T> known(Class<T> type) {
    return Optional.ofNullable(views.get(type)).map(type::cast);
  }

  public Edits edits() {
    return new Edits(facts, at);
  }

  public LocalDate today() {
    return at.atZone(zone).toLocalDate();
  }
}
