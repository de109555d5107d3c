package eleutheria.core.access.engine;

import java.util.Map;

/** When rows are true: as they are on record, or as a trial has them. */
final class Times {
  /** From one moment until just before another. */
  record Span(long from, long until) {
    /** Of a row that is not there. */
    static final Span NEVER = new Span(Long.MAX_VALUE, Long.MAX_VALUE);

    boolean on(long at) {
      return from <= at && at < until;
    }
  }

  private final Store store;
  private final Map<Long, Span> varied;

  /**
   * @param varied by {@link #key}, the rows that a trial has otherwise
   */
  Times(Store store, Map<Long, Span> varied) {
    this.store = store;
    this.varied = varied;
  }

  static long key(Table table, int row) {
    return (long) table.ordinal() << 32 | row;
  }

  long from(Table table, int row) {
    Span span = varied.isEmpty() ? null : varied.get(key(table, row));
    return span == null ? store.rows(table).from(row) : span.from();
  }

  long until(Table table, int row) {
    Span span = varied.isEmpty() ? null : varied.get(key(table, row));
    return span == null ? store.rows(table).until(row) : span.until();
  }

  boolean on(Table table, int row, long at) {
    return from(table, row) <= at && at < until(table, row);
  }

  boolean overlaps(Table table, int row, long from, long until) {
    return from(table, row) < until && until(table, row) > from;
  }
}
