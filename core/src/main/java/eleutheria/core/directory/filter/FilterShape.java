package eleutheria.core.directory.filter;

import eleutheria.core.facts.ValueType;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/**
 * A filter as people read and change it: chains of {@code and} and {@code or} flat, and an
 * attribute that may be one of several values as one line. It is the same filter: {@link #text()}
 * reads as what it was made of.
 */
public sealed interface FilterShape {

  /** All of the parts, or any of them. */
  record Several(boolean all, List<FilterShape> parts) implements FilterShape {}

  record Except(FilterShape inner) implements FilterShape {}

  record Present(String attribute) implements FilterShape {}

  /**
   * @param values more than one only for {@code eq}: any of them
   */
  record Line(String attribute, ValueType type, Filter.Operator operator, List<String> values)
      implements FilterShape {}

  static FilterShape of(Filter filter) {
    return switch (filter) {
      case Filter.And and -> several(true, and.left(), and.right());
      case Filter.Or or -> several(false, or.left(), or.right());
      case Filter.Not not -> new Except(of(not.inner()));
      case Filter.Has has -> new Present(has.attribute());
      case Filter.Compare c ->
          new Line(c.attribute(), c.type(), c.operator(), List.of(c.written()));
    };
  }

  private static FilterShape several(boolean all, Filter left, Filter right) {
    List<FilterShape> parts = new ArrayList<>();
    for (Filter side : List.of(left, right)) {
      FilterShape shape = of(side);
      if (shape instanceof Several same && same.all == all) {
        parts.addAll(same.parts);
      } else {
        parts.add(shape);
      }
    }
    List<FilterShape> merged = all ? parts : merged(parts);
    return merged.size() == 1 ? merged.getFirst() : new Several(all, List.copyOf(merged));
  }

  /** Neighbours that say "is" of one attribute, as one line. */
  private static List<FilterShape> merged(List<FilterShape> parts) {
    List<FilterShape> found = new ArrayList<>();
    for (FilterShape part : parts) {
      if (part instanceof Line line
          && line.operator == Filter.Operator.EQ
          && !found.isEmpty()
          && found.getLast() instanceof Line before
          && before.operator == Filter.Operator.EQ
          && before.attribute.equals(line.attribute)) {
        List<String> values = new ArrayList<>(before.values);
        values.addAll(line.values);
        found.set(
            found.size() - 1,
            new Line(line.attribute, line.type, line.operator, List.copyOf(values)));
      } else {
        found.add(part);
      }
    }
    return found;
  }

  /** In the syntax of RFC 7644. */
  default String text() {
    return switch (this) {
      case Several several ->
          several.parts.stream()
              .map(part -> part.bound(several.all))
              .collect(Collectors.joining(several.all ? " and " : " or "));
      case Except except -> "not (" + except.inner.text() + ")";
      case Present present -> present.attribute + " pr";
      case Line line ->
          line.values.stream()
              .map(
                  value ->
                      line.attribute
                          + " "
                          + line.operator.name().toLowerCase(Locale.ROOT)
                          + " "
                          + literal(line.type, value))
              .collect(Collectors.joining(" or "));
    };
  }

  private String bound(boolean all) {
    boolean loose =
        this instanceof Several several && several.all != all
            || all && this instanceof Line line && line.values.size() > 1;
    return loose ? "(" + text() + ")" : text();
  }

  private static String literal(ValueType type, String value) {
    return switch (type) {
      case NUMBER, YESNO -> value;
      case TEXT, DAY, PERSON ->
          "\""
              + value
                  .replace("\\", "\\\\")
                  .replace("\"", "\\\"")
                  .replace("\n", "\\n")
                  .replace("\r", "\\r")
                  .replace("\t", "\\t")
              + "\"";
    };
  }
}
