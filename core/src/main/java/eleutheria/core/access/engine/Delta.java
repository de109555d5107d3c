package eleutheria.core.access.engine;

/** Which rows become true and which cease to be, from one moment to another. */
final class Delta {
  private final IntList[] on = new IntList[Table.values().length];
  private final IntList[] off = new IntList[Table.values().length];
  private int size;

  Delta() {
    for (int i = 0; i < on.length; i++) {
      on[i] = new IntList(0);
      off[i] = new IntList(0);
    }
  }

  void add(Table table, int row, boolean before, boolean after) {
    if (before != after) {
      (after ? on : off)[table.ordinal()].add(row);
      size++;
    }
  }

  IntList on(Table table) {
    return on[table.ordinal()];
  }

  IntList off(Table table) {
    return off[table.ordinal()];
  }

  boolean touches(Table table) {
    return !on(table).isEmpty() || !off(table).isEmpty();
  }

  int size() {
    return size;
  }
}
