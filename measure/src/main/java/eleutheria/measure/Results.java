package eleutheria.measure;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What was measured, round by round, and what was wanted of it. */
final class Results {
  /**
   * @param goal null where nothing is wanted and the value is only told
   */
  private record Row(String name, String set, double[] rounds, String unit, @Nullable Goal goal) {
    double median() {
      double[] sorted = rounds.clone();
      Arrays.sort(sorted);
      int middle = sorted.length / 2;
      return sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
    }

    double lowest() {
      return Arrays.stream(rounds).min().orElseThrow();
    }

    double highest() {
      return Arrays.stream(rounds).max().orElseThrow();
    }
  }

  /** At least or at most so much. */
  record Goal(boolean atLeast, double value) {
    static Goal atLeast(double value) {
      return new Goal(true, value);
    }

    static Goal atMost(double value) {
      return new Goal(false, value);
    }

    boolean met(double measured) {
      return atLeast ? measured >= value : measured <= value;
    }

    String text() {
      return (atLeast ? "≥ " : "≤ ") + number(value);
    }
  }

  private final List<Row> rows = new ArrayList<>();
  private final Map<String, List<Double>> open = new LinkedHashMap<>();

  /** Rounds of another set are others. */
  void begin() {
    open.clear();
  }

  /** Adds one round's value of something. */
  void round(String name, double value) {
    open.computeIfAbsent(name, n -> new ArrayList<>()).add(value);
  }

  /** The rounds of something so far. */
  double[] rounds(String name) {
    List<Double> rounds = open.get(name);
    if (rounds == null) {
      throw new IllegalArgumentException("not measured: " + name);
    }
    return rounds.stream().mapToDouble(Double::doubleValue).toArray();
  }

  /** A value of its own. */
  void tell(String name, String set, String unit, @Nullable Goal goal, double... rounds) {
    rows.add(new Row(name, set, rounds, unit, goal));
  }

  /** The quotient of two things that were measured in the same rounds. */
  void ratio(
      String name, String set, String unit, @Nullable Goal goal, String above, String below) {
    double[] one = rounds(above);
    double[] other = rounds(below);
    double[] quotients = new double[one.length];
    Arrays.setAll(quotients, i -> one[i] / other[i]);
    rows.add(new Row(name, set, quotients, unit, goal));
  }

  static String number(double value) {
    if (value >= 1000) {
      return String.format(Locale.ROOT, "%,.0f", value);
    }
    return value >= 10
        ? String.format(Locale.ROOT, "%.1f", value)
        : String.format(Locale.ROOT, value >= 0.1 ? "%.2f" : "%.4f", value);
  }

  String table() {
    StringBuilder out = new StringBuilder();
    out.append(
        "%-58s %-3s %12s %12s  %-24s %s%n"
            .formatted("what", "set", "goal", "measured", "spread", "verdict"));
    for (Row row : rows) {
      String verdict =
          row.goal() == null ? "told" : row.goal().met(row.median()) ? "met" : "MISSED";
      out.append(
          "%-58s %-3s %12s %12s  %-24s %s%n"
              .formatted(
                  row.name() + " (" + row.unit() + ")",
                  row.set(),
                  row.goal() == null ? "" : row.goal().text(),
                  number(row.median()),
                  row.rounds().length == 1
                      ? ""
                      : number(row.lowest()) + " – " + number(row.highest()),
                  verdict));
    }
    return out.toString();
  }

  /** Writes the rows over those of earlier runs; what this run did not measure stays. */
  void write(Path file) throws IOException {
    Map<String, String> lines = new LinkedHashMap<>();
    if (Files.exists(file)) {
      for (String line : Files.readAllLines(file)) {
        int end = line.indexOf(", \"value\"");
        if (end > 0) {
          lines.put(line.substring(0, end), line.replaceFirst(",$", ""));
        }
      }
    }
    for (Row row : rows) {
      String what = "  {\"name\": \"%s\", \"set\": \"%s\"".formatted(row.name(), row.set());
      lines.put(
          what,
          String.format(
              Locale.ROOT,
              "%s, \"value\": %.6g, \"lowest\": %.6g, \"highest\": %.6g, \"unit\": \"%s\","
                  + " \"goal\": %s, \"met\": %s}",
              what,
              row.median(),
              row.lowest(),
              row.highest(),
              row.unit(),
              row.goal() == null ? "null" : "\"" + row.goal().text() + "\"",
              row.goal() == null ? "null" : row.goal().met(row.median())));
    }
    Files.writeString(file, "[\n" + String.join(",\n", lines.values()) + "\n]\n");
  }
}
