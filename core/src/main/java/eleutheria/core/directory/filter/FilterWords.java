package eleutheria.core.directory.filter;

import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.ValueType;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.UnaryOperator;

/** Filters in words, for whoever does not read their syntax. */
public final class FilterWords {
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.UK);

  private final FilterSchema schema;
  private final UnaryOperator<String> label;
  private final UnaryOperator<String> person;

  /**
   * @param label what an attribute is called
   * @param person what the person with an id is called
   */
  public FilterWords(
      FilterSchema schema, UnaryOperator<String> label, UnaryOperator<String> person) {
    this.schema = schema;
    this.label = label;
    this.person = person;
  }

  /** "everyone whose unit is Ticketing"; the filter itself where it cannot be read. */
  public String tell(String filter) {
    return FilterParser.parse(filter, schema) instanceof FilterParser.Parsed.Good good
        ? tell(FilterShape.of(good.filter()))
        : filter;
  }

  /** "unit is Ticketing": what must be so, of nobody in particular. */
  public String clause(FilterShape shape) {
    return told(shape, false);
  }

  public String tell(FilterShape shape) {
    return switch (shape) {
      case FilterShape.Except except when !(simple(except.inner())) ->
          "everyone except those whose " + told(except.inner(), false);
      case FilterShape.Several all when all.all() -> {
        List<FilterShape> wanted = new ArrayList<>();
        List<FilterShape> left = new ArrayList<>();
        all.parts()
            .forEach(
                part ->
                    (part instanceof FilterShape.Except except && !simple(except.inner())
                            ? left
                            : wanted)
                        .add(part));
        String except =
            left.stream()
                .map(part -> told(((FilterShape.Except) part).inner(), false))
                .reduce((one, other) -> one + ", and those whose " + other)
                .orElse("");
        String begin =
            wanted.isEmpty()
                ? "everyone"
                : "everyone whose " + told(new FilterShape.Several(true, wanted), false);
        yield except.isEmpty() ? begin : begin + ", except those whose " + except;
      }
      case FilterShape.Present present -> "everyone with " + article(named(present.attribute()));
      default -> "everyone whose " + told(shape, false);
    };
  }

  private static String article(String name) {
    return (name.matches("(?i)[aeiou].*") ? "an " : "a ") + name;
  }

  /** What is denied in a word or two, and needs no "except those". */
  private static boolean simple(FilterShape shape) {
    return shape instanceof FilterShape.Present
        || shape instanceof FilterShape.Line line && line.operator() == Filter.Operator.EQ;
  }

  private String told(FilterShape shape, boolean within) {
    return switch (shape) {
      case FilterShape.Several several -> {
        String joined =
            several.parts().stream()
                .map(part -> told(part, several.parts().size() > 1))
                .reduce((one, other) -> one + (several.all() ? " and " : " or ") + other)
                .orElse("");
        yield within && several.parts().size() > 1 ? "(" + joined + ")" : joined;
      }
      case FilterShape.Except except -> denied(except.inner(), within);
      case FilterShape.Present present -> named(present.attribute()) + " is filled in";
      case FilterShape.Line line ->
          named(line.attribute())
              + " "
              + compared(
                  line,
                  requireNonNull(SAYS.getOrDefault(key(line), SAYS.get(line.operator().name()))));
    };
  }

  /** The same as "not (…)", carried to each line: a filter is two-valued, so nothing is changed. */
  private String denied(FilterShape shape, boolean within) {
    return switch (shape) {
      case FilterShape.Several several ->
          told(
              new FilterShape.Several(
                  !several.all(),
                  several.parts().stream().<FilterShape>map(FilterShape.Except::new).toList()),
              within);
      case FilterShape.Except except -> told(except.inner(), within);
      case FilterShape.Present present -> named(present.attribute()) + " is empty";
      case FilterShape.Line line ->
          named(line.attribute())
              + " "
              + compared(
                  line,
                  requireNonNull(
                      DENIES.getOrDefault(key(line), DENIES.get(line.operator().name()))));
    };
  }

  private static String key(FilterShape.Line line) {
    return line.type() == ValueType.DAY ? "DAY " + line.operator() : line.operator().name();
  }

  private String compared(FilterShape.Line line, String says) {
    return says.formatted(values(line));
  }

  /** What a line says, by operator, with its value; of days where they are said otherwise. */
  private static final Map<String, String> SAYS =
      Map.ofEntries(
          Map.entry("EQ", "is %s"),
          Map.entry("NE", "is something other than %s"),
          Map.entry("CO", "contains “%s”"),
          Map.entry("SW", "begins with “%s”"),
          Map.entry("EW", "ends with “%s”"),
          Map.entry("GT", "is over %s"),
          Map.entry("GE", "is %s or more"),
          Map.entry("LT", "is under %s"),
          Map.entry("LE", "is %s or less"),
          Map.entry("DAY GT", "is after %s"),
          Map.entry("DAY GE", "is %s or later"),
          Map.entry("DAY LT", "is before %s"),
          Map.entry("DAY LE", "is %s or earlier"));

  private static final Map<String, String> DENIES =
      Map.ofEntries(
          Map.entry("EQ", "is not %s"),
          Map.entry("NE", "is %s or empty"),
          Map.entry("CO", "does not contain “%s”"),
          Map.entry("SW", "does not begin with “%s”"),
          Map.entry("EW", "does not end with “%s”"),
          Map.entry("GT", "is not over %s"),
          Map.entry("GE", "is not %s or more"),
          Map.entry("LT", "is not under %s"),
          Map.entry("LE", "is not %s or less"),
          Map.entry("DAY GT", "is not after %s"),
          Map.entry("DAY GE", "is not %s or later"),
          Map.entry("DAY LT", "is not before %s"),
          Map.entry("DAY LE", "is not %s or earlier"));

  private String values(FilterShape.Line line) {
    List<String> told = line.values().stream().map(value -> value(line, value)).toList();
    int last = told.size() - 1;
    return last == 0
        ? told.getFirst()
        : String.join(", ", told.subList(0, last)) + " or " + told.get(last);
  }

  private String value(FilterShape.Line line, String value) {
    return switch (line.type()) {
      case YESNO -> value.equals("true") ? "yes" : "no";
      case DAY -> DAY.format(LocalDate.parse(value));
      case PERSON -> person.apply(value);
      case TEXT, NUMBER -> value;
    };
  }

  /** "unit", but "ID card" as it is. */
  private String named(String attribute) {
    String name = label.apply(attribute);
    return name.length() > 1 && Character.isUpperCase(name.charAt(1))
        ? name
        : name.substring(0, 1).toLowerCase(Locale.ROOT) + name.substring(1);
  }
}
