package eleutheria.core.directory.filter;

import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
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
      default -> "everyone whose " + told(shape, false);
    };
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
      case FilterShape.Except except ->
          switch (except.inner()) {
            case FilterShape.Present present -> named(present.attribute()) + " is empty";
            case FilterShape.Line line when line.operator() == Filter.Operator.EQ ->
                named(line.attribute()) + " is not " + values(line);
            default -> "not (" + told(except.inner(), false) + ")";
          };
      case FilterShape.Present present -> named(present.attribute()) + " is filled in";
      case FilterShape.Line line -> named(line.attribute()) + " " + compared(line);
    };
  }

  private String compared(FilterShape.Line line) {
    String value = values(line);
    boolean day = line.type() == eleutheria.core.facts.ValueType.DAY;
    return switch (line.operator()) {
      case EQ -> "is " + value;
      case NE -> "is anything but " + value;
      case CO -> "contains “" + value + "”";
      case SW -> "begins with “" + value + "”";
      case EW -> "ends with “" + value + "”";
      case GT -> (day ? "is after " : "is over ") + value;
      case GE -> "is " + value + (day ? " or later" : " or more");
      case LT -> (day ? "is before " : "is under ") + value;
      case LE -> "is " + value + (day ? " or earlier" : " or less");
    };
  }

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
