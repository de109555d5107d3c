package eleutheria.server.refs;

import eleutheria.core.directory.filter.FilterShape;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A filter in parts, as it is edited in words.
 *
 * @param kind all, any, except, present or line
 * @param parts of all, any and except, which has one
 * @param attribute of present and line
 * @param operator of a line: eq, ne, co, sw, ew, gt, ge, lt or le (RFC 7644, table 3)
 * @param values of a line; several only with eq: any of them
 */
public record ShapeView(
    String kind,
    List<ShapeView> parts,
    @Nullable String attribute,
    @Nullable String operator,
    List<String> values) {

  public static ShapeView of(FilterShape shape) {
    return switch (shape) {
      case FilterShape.Several s ->
          new ShapeView(
              s.all() ? "all" : "any",
              s.parts().stream().map(ShapeView::of).toList(),
              null,
              null,
              List.of());
      case FilterShape.Except s ->
          new ShapeView("except", List.of(of(s.inner())), null, null, List.of());
      case FilterShape.Present s ->
          new ShapeView("present", List.of(), s.attribute(), null, List.of());
      case FilterShape.Line s ->
          new ShapeView(
              "line",
              List.of(),
              s.attribute(),
              s.operator().name().toLowerCase(Locale.ROOT),
              s.values());
    };
  }
}
