package eleutheria.core.directory.filter;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.ValueType;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FilterTest {
  private static final FilterSchema SCHEMA =
      new FilterSchema(
          List.of(
              new FilterSchema.Field("unit", ValueType.TEXT),
              new FilterSchema.Field("licences", ValueType.TEXT),
              new FilterSchema.Field("grade", ValueType.NUMBER),
              new FilterSchema.Field("firstDay", ValueType.DAY),
              new FilterSchema.Field("onCall", ValueType.YESNO),
              new FilterSchema.Field("manager", ValueType.PERSON)));

  private static final Map<String, List<String>> OLENA =
      Map.of(
          "unit", List.of("Harbour Control"),
          "licences", List.of("Lifeboat", "Radio"),
          "grade", List.of("12"),
          "firstDay", List.of("2025-05-01"),
          "onCall", List.of("true"));

  private static boolean matches(String filter) {
    FilterParser.Parsed parsed = FilterParser.parse(filter, SCHEMA);
    assertThat(parsed).as(filter).isInstanceOf(FilterParser.Parsed.Good.class);
    return ((FilterParser.Parsed.Good) parsed)
        .filter()
        .matches(name -> OLENA.getOrDefault(name, List.of()));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "unit eq \"harbour control\" | true",
        "UNIT EQ \"HARBOUR CONTROL\" | true",
        "unit ne \"Deck crew\" | true",
        "unit sw \"Har\" | true",
        "unit ew \"trol\" and unit co \"our c\" | true",
        "licences eq \"radio\" | true",
        "licences ne \"Radio\" | true",
        "not (licences eq \"Radio\") | false",
        "grade gt 9 | true",
        "grade lt 9 | false",
        "grade eq 12.0 | true",
        "firstDay ge \"2025-05-01\" | true",
        "firstDay gt \"2025-05-01\" | false",
        "onCall eq true | true",
        "manager pr | false",
        "manager ne \"x\" | false",
        "not (manager eq \"x\") | true",
        "unit eq \"x\" or unit eq \"y\" and grade gt 1 | false",
        "unit pr or unit eq \"y\" and grade gt 99 | true",
        "(unit pr or unit eq \"y\") and grade gt 99 | false",
        "unit eq \"\\u0048arbour Control\" | true"
      })
  void readsAndDecides(String filter, boolean expected) {
    assertThat(matches(filter)).as(filter).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "unti eq \"x\" | 0 | 4 | did you mean “unit”",
        "unit is \"x\" | 5 | 7 | One of eq, ne",
        "unit eq x | 8 | 9 | double quotes",
        "unit eq \"x | 8 | 9 | not closed",
        "unit eq \"x\" and | 15 | 15 | attribute's name",
        "(unit eq \"x\" | 0 | 1 | not closed",
        "unit eq \"x\" unit pr | 12 | 16 | “and” or “or”",
        "unit.sub eq \"x\" | 4 | 8 | no parts",
        "grade co 1 | 6 | 8 | cannot compare number",
        "onCall gt true | 7 | 9 | cannot compare",
        "firstDay eq \"1 May\" | 12 | 19 | 2026-09-30",
        "not unit pr | 0 | 4 | parenthesis"
      })
  void saysWhatIsWrongAndWhere(String filter, int from, int until, String sentence) {
    assertThat(FilterParser.parse(filter, SCHEMA))
        .isInstanceOfSatisfying(
            FilterParser.Parsed.Bad.class,
            bad -> {
              assertThat(bad.message()).contains(sentence);
              assertThat(bad.from()).isEqualTo(from);
              assertThat(bad.until()).isEqualTo(until);
            });
  }

  @Test
  void foldsAsUnicodeSays() {
    assertThat(Folding.fold("STRASSE")).isEqualTo(Folding.fold("Straße"));
    assertThat(Folding.fold("Å")).isEqualTo(Folding.fold("A\u030a"));
    assertThat(Folding.bare("Åse Ødegård")).isEqualTo("ase odegard");
    assertThat(Folding.bare("ΕΛΈΝΗ")).isEqualTo(Folding.bare("Ελένη"));
  }

  /** Whatever is typed, the parser answers; and what it accepts, it can decide. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void survivesEverything(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    String[] words = {
      "unit", "grade", "eq", "pr", "and", "or", "not", "(", ")", "\"x\"", "12", "\\", "\"", "[",
      ".", " ", "true"
    };
    for (int i = 0; i < 20_000; i++) {
      StringBuilder text = new StringBuilder();
      for (int n = random.nextInt(9); n >= 0; n--) {
        text.append(words[random.nextInt(words.length)]).append(random.nextInt(3) == 0 ? "" : " ");
      }
      switch (FilterParser.parse(text.toString(), SCHEMA)) {
        case FilterParser.Parsed.Good good ->
            good.filter().matches(name -> OLENA.getOrDefault(name, List.of()));
        case FilterParser.Parsed.Bad bad -> {
          assertThat(bad.message()).isNotBlank();
          assertThat(bad.from()).isBetween(0, text.length());
          assertThat(bad.until()).isBetween(bad.from(), text.length());
        }
      }
    }
  }

  @Test
  void refusesWhatIsTooDeepOrTooLong() {
    assertThat(FilterParser.parse("(".repeat(3_000), SCHEMA))
        .isInstanceOf(FilterParser.Parsed.Bad.class);
    assertThat(FilterParser.parse("unit pr and ".repeat(5_000), SCHEMA))
        .isInstanceOf(FilterParser.Parsed.Bad.class);
  }
}
