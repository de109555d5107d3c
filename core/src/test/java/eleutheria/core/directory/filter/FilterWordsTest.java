package eleutheria.core.directory.filter;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.ValueType;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FilterWordsTest {
  private static final FilterSchema SCHEMA =
      new FilterSchema(
          List.of(
              new FilterSchema.Field("unit", ValueType.TEXT),
              new FilterSchema.Field("title", ValueType.TEXT),
              new FilterSchema.Field("grade", ValueType.NUMBER),
              new FilterSchema.Field("firstDay", ValueType.DAY),
              new FilterSchema.Field("onCall", ValueType.YESNO),
              new FilterSchema.Field("manager", ValueType.PERSON)));

  private static final FilterWords WORDS =
      new FilterWords(
          SCHEMA,
          name -> Map.of("firstDay", "First day", "onCall", "On call").getOrDefault(name, name),
          id -> id.equals("p1") ? "Lena Aho" : id);

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "unit eq \"Ticketing\" | everyone whose unit is Ticketing",
        "unit eq \"A\" or unit eq \"B\" or unit eq \"C\" | everyone whose unit is A, B or C",
        "not (unit eq \"Finance\") | everyone whose unit is not Finance",
        "not (title eq \"Cadet\" or unit eq \"Finance\")"
            + " | everyone except those whose title is Cadet or unit is Finance",
        "unit eq \"A\" and not (title sw \"Cadet\")"
            + " | everyone whose unit is A, except those whose title begins with “Cadet”",
        "unit ne \"A\" | everyone whose unit is something other than A",
        "unit pr and not (title pr) | everyone whose unit is filled in and title is empty",
        "(unit eq \"A\" or title eq \"B\") and grade ge 12"
            + " | everyone whose (unit is A or title is B) and grade is 12 or more",
        "title eq \"B\" or not (unit co \"x\" or grade lt 3)"
            + " | everyone whose title is B or (unit does not contain “x” and grade is not under 3)",
        "unit eq \"A\" or not (not (title pr)) | everyone whose unit is A or title is filled in",
        "not (unit ne \"A\") or title pr"
            + " | everyone whose unit is A or empty or title is filled in",
        "firstDay gt \"2025-05-01\" | everyone whose first day is after 1 May 2025",
        "onCall eq true | everyone whose on call is yes",
        "manager eq \"p1\" | everyone whose manager is Lena Aho",
        "this is none | this is none",
      })
  void tellsWhomAFilterFits(String filter, String words) {
    assertThat(WORDS.tell(filter)).isEqualTo(words);
  }

  /** Whatever stands where a person's id is wanted is told, and is no failure. */
  @Test
  void aPersonWhoIsNobodyIsTold() {
    assertThat(WORDS.tell("manager eq \"lena\"")).isEqualTo("everyone whose manager is lena");
  }

  /** However it is written, its shape is the same filter, and is read as itself again. */
  @Test
  void aShapeIsTheSameFilter() {
    SplittableRandom random = new SplittableRandom(7);
    for (int round = 0; round < 2_000; round++) {
      Filter filter = parsed(text(random, 3));
      FilterShape shape = FilterShape.of(filter);
      Filter again = parsed(shape.text());
      assertThat(FilterShape.of(again)).as(shape.text()).isEqualTo(shape);
      for (int someone = 0; someone < 10; someone++) {
        Map<String, List<String>> person = person(random);
        assertThat(again.matches(name -> person.getOrDefault(name, List.of())))
            .as(shape.text() + " for " + person)
            .isEqualTo(filter.matches(name -> person.getOrDefault(name, List.of())));
      }
    }
  }

  private static Filter parsed(String text) {
    FilterParser.Parsed parsed = FilterParser.parse(text, SCHEMA);
    assertThat(parsed).as(text).isInstanceOf(FilterParser.Parsed.Good.class);
    return ((FilterParser.Parsed.Good) parsed).filter();
  }

  private static String text(SplittableRandom random, int depth) {
    if (depth == 0 || random.nextInt(4) == 0) {
      return switch (random.nextInt(4)) {
        case 0 -> (random.nextBoolean() ? "unit" : "title") + " pr";
        case 1 -> "grade " + (random.nextBoolean() ? "ge " : "lt ") + random.nextInt(4);
        default ->
            (random.nextInt(3) == 0 ? "title" : "unit")
                + (random.nextInt(4) == 0 ? " co " : " eq ")
                + "\"A \\\"b\\\" \\\\"
                + random.nextInt(3)
                + "\"";
      };
    }
    return switch (random.nextInt(3)) {
      case 0 -> "(" + text(random, depth - 1) + ") and (" + text(random, depth - 1) + ")";
      case 1 -> "(" + text(random, depth - 1) + ") or (" + text(random, depth - 1) + ")";
      default -> "not (" + text(random, depth - 1) + ")";
    };
  }

  private static Map<String, List<String>> person(SplittableRandom random) {
    Map<String, List<String>> found = new HashMap<>();
    for (String name : List.of("unit", "title")) {
      List<String> values = new ArrayList<>();
      for (int i = random.nextInt(3); i > 0; i--) {
        values.add("a \"b\" \\" + random.nextInt(3));
      }
      found.put(name, values);
    }
    if (random.nextBoolean()) {
      found.put("grade", List.of(String.valueOf(random.nextInt(4))));
    }
    return found;
  }
}
