package eleutheria.core.directory.intake;

import static java.util.Objects.requireNonNull;

import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/** What is wrong with which row; a row is good as long as nothing is. */
final class LineNotes {
  private final Map<DeliveredFile.Row, List<String>> notes = new IdentityHashMap<>();

  LineNotes(List<DeliveredFile.Row> rows) {
    rows.forEach(row -> notes.put(row, new ArrayList<>(row.wrong())));
  }

  void wrong(DeliveredFile.Row row, String sentence) {
    List<String> list = requireNonNull(notes.get(row));
    if (!list.contains(sentence)) {
      list.add(sentence);
    }
  }

  boolean good(DeliveredFile.Row row) {
    return requireNonNull(notes.get(row)).isEmpty();
  }

  List<String> of(DeliveredFile.Row row) {
    return List.copyOf(notes.get(row));
  }

  int count() {
    return notes.values().stream().mapToInt(List::size).sum();
  }
}
