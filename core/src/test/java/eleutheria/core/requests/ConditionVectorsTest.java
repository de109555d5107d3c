package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.directory.filter.FilterShape;
import eleutheria.core.facts.ValueType;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Conditions over answers, against the same vectors as the browser's (web/src/requests/forms). They
 * hold the filter, its parts as the browser gets them, and what comes of answers.
 */
class ConditionVectorsTest {
  record Case(Map<String, List<String>> answers, boolean holds) {}

  record Vector(
      String why, Map<String, String> types, String filter, Object shape, List<Case> cases) {
    @Override
    public String toString() {
      return filter;
    }
  }

  static Stream<Vector> vectors() {
    try {
      return Arrays.stream(
          new ObjectMapper()
              .readValue(
                  ConditionVectorsTest.class.getResourceAsStream("conditions.json"),
                  Vector[].class));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @ParameterizedTest
  @MethodSource("vectors")
  void aConditionHoldsHereAsInTheBrowser(Vector vector) {
    FilterSchema schema =
        new FilterSchema(
            vector.types.entrySet().stream()
                .map(each -> new FilterSchema.Field(each.getKey(), ValueType.of(each.getValue())))
                .toList());
    Filter filter = ((FilterParser.Parsed.Good) FilterParser.parse(vector.filter, schema)).filter();
    assertThat(shape(FilterShape.of(filter))).isEqualTo(vector.shape);
    for (Case each : vector.cases) {
      assertThat(filter.matches(name -> each.answers.getOrDefault(name, List.of())))
          .as("%s with %s", vector.filter, each.answers)
          .isEqualTo(each.holds);
    }
  }

  private static Map<String, Object> shape(FilterShape shape) {
    return switch (shape) {
      case FilterShape.Several s -> map(s.all() ? "all" : "any", s.parts(), null, null, List.of());
      case FilterShape.Except s -> map("except", List.of(s.inner()), null, null, List.of());
      case FilterShape.Present s -> map("present", List.of(), s.attribute(), null, List.of());
      case FilterShape.Line s ->
          map(
              "line",
              List.of(),
              s.attribute(),
              s.operator().name().toLowerCase(Locale.ROOT),
              s.values());
    };
  }

  private static Map<String, Object> map(
      String kind,
      List<FilterShape> parts,
      @Nullable String attribute,
      @Nullable String operator,
      List<String> values) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("kind", kind);
    map.put("parts", parts.stream().map(ConditionVectorsTest::shape).toList());
    map.put("attribute", attribute);
    map.put("operator", operator);
    map.put("values", values);
    return map;
  }
}
