package eleutheria.core.facts;

import java.time.Instant;

/** What {@link Facts#apply} does to rows: the only three things that can happen to a fact. */
public sealed interface Move {
  FactKey key();

  /** A new row. */
  record Opened(FactKey key, Spell spell) implements Move {}

  /** The end of a row moves; {@code spell} is the row as it was. */
  record Ended(FactKey key, Spell spell, Instant until) implements Move {}

  /** A row that never came into force goes; the ledger keeps what it was. */
  record Dropped(FactKey key, Spell spell) implements Move {}
}
