package eleutheria.server.state;

import eleutheria.core.facts.FactKey;
import java.util.List;
import java.util.stream.Stream;

/** The tables of all kinds of facts. */
final class FactTables {
  /** In the order in which foreign keys let them be read and written. */
  static final List<FactTable> ALL =
      Stream.of(
              DirectoryTables.ALL,
              MandateTables.ALL,
              AppTables.ALL,
              AccessTables.ALL,
              RequestTables.ALL,
              PortalTables.ALL,
              SelfServiceTables.ALL)
          .flatMap(List::stream)
          .toList();

  private FactTables() {}

  static FactTable of(FactKey key) {
    for (FactTable table : ALL) {
      if (table.kind().isInstance(key)) {
        return table;
      }
    }
    throw new IllegalStateException("no table for " + key);
  }
}
