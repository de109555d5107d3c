package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterRest;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Mask;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Term;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AskedFormTest {
  private static final Question.Kind TEXT = new Question.ShortText("");

  private final House house = new House();
  private final LocalDate today = LocalDate.ofInstant(house.now(), House.ZONE);
  private final PersonId lena = house.person("Lena Aho", "Yard");
  private final PersonId oda = house.person("Oda Brekke", "Counter");
  private final PersonId petra = house.person("Petra Lund", "Yard");
  private final EntitlementId till = house.role("Till", Sensitivity.LOW, petra);
  private final EntitlementId vault = house.role("Vault", Sensitivity.HIGH, petra);

  @BeforeEach
  void people() {
    house.manager(oda, lena);
  }

  private static Question question(String key, Question.Kind kind, String shownWhen) {
    return new Question(key, key.toUpperCase(), "", true, kind, shownWhen);
  }

  private static FactValue.RequestForm form(Question... questions) {
    return new FactValue.RequestForm(List.of(questions), Term.SHIPPED);
  }

  private AskedForm asked(PersonId asker, Question... questions) {
    return AskedForm.of(form(questions), house.directory(), asker);
  }

  /** The problem with one answer to one question, as its code's end; empty for none. */
  private String wrong(Question.Kind kind, String... given) {
    return asked(oda, question("a", kind, ""))
        .fill(Map.of("a", List.of(given)), today)
        .problems()
        .stream()
        .map(problem -> problem.field() + " " + problem.code())
        .map(said -> said.replace("answers.a answer.", ""))
        .collect(Collectors.joining());
  }

  @Test
  void eachKindOfAnswerIsChecked() {
    assertThat(wrong(TEXT)).isEqualTo("missing");
    assertThat(wrong(TEXT, "  ")).isEqualTo("missing");
    assertThat(wrong(TEXT, "x".repeat(200))).isEmpty();
    assertThat(wrong(TEXT, "x".repeat(201))).isEqualTo("long");
    assertThat(wrong(TEXT, "one", "two")).isEqualTo("several");
    assertThat(wrong(new Question.LongText(), "x".repeat(4_000))).isEmpty();
    assertThat(wrong(new Question.LongText(), "x".repeat(4_001))).isEqualTo("long");
    assertThat(wrong(new Question.ShortText("CR-#####"), "cr-00417")).isEmpty();
    assertThat(wrong(new Question.ShortText("CR-#####"), "CR-0041")).isEqualTo("looks-like");
    Question.Kind number = new Question.Number(BigDecimal.ONE, BigDecimal.TEN);
    for (String good : List.of("1", "10", "10.000", " 2.5 ", "007")) {
      assertThat(wrong(number, good)).isEmpty();
    }
    for (String bad : List.of("ten", "1e3", "1,5", "1.0001", "1234567890123", "--1", "∞")) {
      assertThat(wrong(number, bad)).isEqualTo("number");
    }
    for (String bad : List.of("0.999", "10.001", "-1")) {
      assertThat(wrong(number, bad)).isEqualTo("range");
    }
    Question.Kind day = new Question.Day(0, 30);
    assertThat(wrong(day, today.toString())).isEmpty();
    assertThat(wrong(day, today.plusDays(30).toString())).isEmpty();
    assertThat(wrong(day, today.plusDays(31).toString())).isEqualTo("range");
    assertThat(wrong(day, today.minusDays(1).toString())).isEqualTo("range");
    assertThat(wrong(day, "31.12.2026")).isEqualTo("day");
    assertThat(wrong(new Question.Day(null, null), "+99999-01-01")).isEqualTo("day");
    Question.Kind one = new Question.OneOf(List.of("Grey Mole", "Harrow Quay"));
    assertThat(wrong(one, "Grey Mole")).isEmpty();
    assertThat(wrong(one, "grey mole")).isEqualTo("choice");
    assertThat(wrong(one, "Grey Mole", "Harrow Quay")).isEqualTo("several");
    Question.Kind several = new Question.SeveralOf(List.of("Grey Mole", "Harrow Quay"));
    assertThat(wrong(several, "Grey Mole", "Harrow Quay")).isEmpty();
    assertThat(wrong(several, "Grey Mole", "Sill")).isEqualTo("choice");
    assertThat(wrong(new Question.YesNo(), "false")).isEmpty();
    assertThat(wrong(new Question.YesNo(), "yes")).isEqualTo("yes-no");
  }

  @Test
  void nobodyIsFoundByTryingToNameThemAsAColleague() {
    Question.Kind colleague = new Question.Colleague();
    assertThat(wrong(colleague, lena.value().toString())).isEmpty();
    assertThat(wrong(colleague, petra.value().toString())).isEqualTo("colleague");
    assertThat(wrong(colleague, oda.value().toString())).isEqualTo("colleague");
    assertThat(wrong(colleague, "Lena Aho")).isEqualTo("colleague");
    // Whoever is away is the one whom somebody covers for.
    house.status(lena, PersonStatus.PAUSED);
    assertThat(wrong(colleague, lena.value().toString())).isEmpty();
    house.status(lena, PersonStatus.DEPARTED);
    assertThat(wrong(colleague, lena.value().toString())).isEqualTo("colleague");
  }

  @Test
  void whatIsNotRequiredMayStayOpen() {
    Question open = new Question("a", "A", "", false, new Question.YesNo(), "");
    assertThat(asked(oda, open).fill(Map.of(), today))
        .isEqualTo(new AskedForm.Filled(List.of(), List.of()));
    assertThat(asked(oda, open).fill(Map.of("a", List.of("maybe")), today).problems()).hasSize(1);
  }

  @Test
  void aHiddenQuestionHasNoAnswerAlsoIfOneWasTyped() {
    Question why = question("why", new Question.OneOf(List.of("Covering", "Work")), "");
    Question whom = question("whom", TEXT, "why eq \"Covering\"");
    Question till = question("till", TEXT, "whom pr");
    AskedForm form = asked(oda, why, whom, till);
    Map<String, List<String>> given =
        Map.of(
            "why",
            List.of("Work"),
            "whom",
            List.of("Mikkel"),
            "till",
            List.of("3"),
            "no",
            List.of("x"));
    AskedForm.Filled hidden = form.fill(given, today);
    assertThat(hidden.problems()).isEmpty();
    assertThat(hidden.answers())
        .containsExactly(new FormAnswer("why", "WHY", ValueType.TEXT, List.of("Work")));
    // It comes back if it is shown again.
    Map<String, List<String>> again = new HashMap<>(given);
    again.put("why", List.of("Covering"));
    assertThat(form.fill(again, today).answers())
        .extracting(FormAnswer::key)
        .containsExactly("why", "whom", "till");
    // What is no proper answer shows nothing.
    again.put("why", List.of("covering!"));
    assertThat(form.fill(again, today).problems())
        .extracting(Problem::code)
        .containsExactly("answer.choice");
  }

  @Test
  void whatIsKnownOfTheAskerIsSettledAndNotTold() {
    Question why = question("why", new Question.YesNo(), "");
    Question yard = question("yard", TEXT, "unit eq \"Yard\" and why eq true");
    Question after = question("after", TEXT, "yard pr or why eq false");
    Question other = question("other", TEXT, "not (yard pr)");
    AskedForm counter = asked(oda, why, yard, after, other);
    assertThat(counter.questions())
        .extracting(each -> each.question().key())
        .containsExactly("why", "after", "other");
    assertThat(counter.questions().get(1).shownWhen().reads()).containsExactly("why");
    assertThat(counter.questions().get(2).shownWhen()).isNull();
    AskedForm yards = asked(petra, why, yard, after, other);
    assertThat(yards.questions().get(1).shownWhen().reads()).containsExactly("why");
    assertThat(yards.questions()).hasSize(4);
  }

  @Test
  void aConditionWhoseAttributeHasGoneAsksEverybody() {
    AskedForm form = asked(oda, question("a", TEXT, "no-longer-there eq \"x\""));
    assertThat(form.questions()).hasSize(1);
    assertThat(form.questions().getFirst().shownWhen()).isNull();
  }

  @Test
  void aRequestKeepsWhatItAnsweredWhateverTheFormBecomes() {
    Question why = question("why", new Question.OneOf(List.of("Covering", "Work")), "");
    set(form(why));
    assertThat(refused(Map.of())).containsExactly("answers.why");
    AccessRequest asked = ask(till, null, Map.of("why", List.of("Work")));
    set(form(question("else", TEXT, "")));
    assertThat(asked.form())
        .extracting(FormAnswer::label, FormAnswer::values)
        .containsExactly(org.assertj.core.groups.Tuple.tuple("WHY", List.of("Work")));
    assertThat(refused(Map.of("why", List.of("Work")))).containsExactly("answers.else");
  }

  @Test
  void nothingIsAskedForLongerThanItsFormAllows() {
    set(new FactValue.RequestForm(List.of(), new Term(List.of(7), 14, false)));
    assertThat(refused(till, null)).containsExactly("until");
    assertThat(refused(till, today.plusDays(15))).containsExactly("until");
    assertThat(ask(till, today.plusDays(14), Map.of()).until()).isEqualTo(today.plusDays(14));
    // A longer form does not undo what high sensitivity needs.
    set(new FactValue.RequestForm(List.of(), new Term(List.of(), 1_000, true)));
    assertThat(refused(vault, null)).containsExactly("until");
    assertThat(refused(vault, today.plusDays(367))).containsExactly("until");
  }

  private void set(FactValue.RequestForm form) {
    house.set(new FactKey.RequestForm(new RequestScope.OfAll()), form);
  }

  private Outcome<AccessRequest> outcome(
      EntitlementId id, @Nullable LocalDate until, Map<String, List<String>> given) {
    return house.decide(
        house.authority(oda),
        m -> RequestDecisions.ask(m, 1, oda, id, until, "For the season", given, List.of()));
  }

  private AccessRequest ask(
      EntitlementId id, @Nullable LocalDate until, Map<String, List<String>> given) {
    return ((Outcome.Done<AccessRequest>) outcome(id, until, given)).result();
  }

  private List<String> refused(Map<String, List<String>> given) {
    return fields(outcome(till, null, given));
  }

  private List<String> refused(EntitlementId id, @Nullable LocalDate until) {
    return fields(outcome(id, until, Map.of()));
  }

  private static List<String> fields(Outcome<AccessRequest> outcome) {
    return ((Outcome.Refused<AccessRequest>) outcome)
        .problems().stream().map(Problem::field).toList();
  }

  @ParameterizedTest
  @CsvSource({
    "CR-#####, CR-00417, true",
    "CR-#####, CR-0041, false",
    "CR-#####, CR-004170, false",
    "@@##, ab12, true",
    "@@##, Øß12, true",
    "@@##, a112, false",
    "*, '', true",
    "*-#, a-b-1, true",
    "*-#, a-b-x, false",
    "a*b*c, AxxBxxC, true",
    "a*b*c, acb, false",
    "'', x, false",
    "# #, 1 2, true"
  })
  void aMaskFits(String mask, String text, boolean fits) {
    assertThat(Mask.fits(mask, text)).isEqualTo(fits);
  }

  /** Against regular expressions, over short random masks and texts. */
  @Test
  void aMaskFitsWhatTheSameExpressionFits() {
    Random random = new Random(11);
    for (int i = 0; i < 20_000; i++) {
      String mask = word(random, "#@*a1-", 6);
      String text = word(random, "ab12-", 6);
      String expression =
          mask.chars()
              .mapToObj(
                  c ->
                      c == '#'
                          ? "\\d"
                          : c == '@'
                              ? "\\p{L}"
                              : c == '*' ? ".*" : Pattern.quote(Character.toString(c)))
              .collect(Collectors.joining());
      assertThat(Mask.fits(mask, text)).as("%s %s", mask, text).isEqualTo(text.matches(expression));
    }
  }

  private static String word(Random random, String letters, int most) {
    return random
        .ints(random.nextInt(most + 1), 0, letters.length())
        .mapToObj(at -> letters.substring(at, at + 1))
        .collect(Collectors.joining());
  }

  /**
   * Random forms and answers, against the plain reading: each question in turn, its whole condition
   * over the asker's attributes and the answers that count so far.
   */
  @Test
  void whatIsSettledBeforehandChangesNothing() {
    Random random = new Random(7);
    for (int i = 0; i < 2_000; i++) {
      List<Question> questions = new ArrayList<>();
      for (int q = 0; q < 1 + random.nextInt(6); q++) {
        List<String> names = new ArrayList<>(List.of("unit"));
        questions.forEach(each -> names.add(each.key()));
        questions.add(
            new Question(
                "q" + q,
                "Q" + q,
                "",
                random.nextBoolean(),
                TEXT,
                random.nextInt(4) == 0 ? "" : filter(random, names, 2)));
      }
      FactValue.RequestForm form = new FactValue.RequestForm(questions, Term.SHIPPED);
      assertThat(FormDecisions.problems(house.directory(), form)).isEmpty();
      Map<String, List<String>> given = new HashMap<>();
      for (Question each : questions) {
        String value = List.of("", "Yard", "b", "x".repeat(201)).get(random.nextInt(4));
        given.put(each.key(), List.of(value));
      }
      PersonId asker = random.nextBoolean() ? oda : petra;
      Map<String, List<String>> known = new HashMap<>();
      Set<String> missing = new HashSet<>();
      for (Question each : questions) {
        FilterSchema schema = AskedForm.schema(form, each, house.directory());
        boolean shown =
            each.shownWhen().isEmpty()
                || ((FilterParser.Parsed.Good) FilterParser.parse(each.shownWhen(), schema))
                    .filter()
                    .matches(
                        name ->
                            name.equals("unit")
                                ? house.directory().person(asker).orElseThrow().values("unit")
                                : known.getOrDefault(name, List.of()));
        String value = given.get(each.key()).getFirst();
        if (shown && !value.isEmpty() && value.length() <= 200) {
          known.put(each.key(), List.of(value));
        } else if (shown && (each.required() || !value.isEmpty())) {
          missing.add("answers." + each.key());
        }
      }
      AskedForm asked = AskedForm.of(form, house.directory(), asker);
      AskedForm.Filled filled = asked.fill(given, today);
      assertThat(
              filled.answers().stream()
                  .collect(Collectors.toMap(FormAnswer::key, FormAnswer::values)))
          .isEqualTo(known);
      assertThat(filled.problems())
          .extracting(Problem::field)
          .containsExactlyInAnyOrderElementsOf(missing);
      asked.questions().stream()
          .map(AskedForm.Asked::shownWhen)
          .filter(each -> each != null)
          .forEach(each -> assertThat(each.reads()).doesNotContain("unit"));
    }
  }

  private static String filter(Random random, List<String> names, int depth) {
    String name = names.get(random.nextInt(names.size()));
    return switch (depth == 0 ? random.nextInt(3) : random.nextInt(6)) {
      case 0 -> name + " pr";
      case 1 -> name + " eq \"Yard\"";
      case 2 -> name + " ne \"b\"";
      case 3 -> "not (" + filter(random, names, depth - 1) + ")";
      case 4 ->
          "(" + filter(random, names, depth - 1) + " and " + filter(random, names, depth - 1) + ")";
      default ->
          "(" + filter(random, names, depth - 1) + " or " + filter(random, names, depth - 1) + ")";
    };
  }

  /** A filter with some attributes known is the same filter, for all values of the others. */
  @Test
  void theRestOfAFilterHoldsWhereItHolds() {
    Random random = new Random(3);
    List<String> names = List.of("a", "b", "c");
    FilterSchema schema =
        new FilterSchema(
            names.stream().map(n -> new FilterSchema.Field(n, ValueType.TEXT)).toList());
    for (int i = 0; i < 5_000; i++) {
      Filter filter =
          ((FilterParser.Parsed.Good) FilterParser.parse(filter(random, names, 3), schema))
              .filter();
      Map<String, List<String>> values = new HashMap<>();
      names.forEach(
          n ->
              values.put(
                  n,
                  List.of(List.<String>of(), List.of("Yard"), List.of("b"))
                      .get(random.nextInt(3))));
      Set<String> known =
          names.stream().filter(n -> random.nextBoolean()).collect(Collectors.toSet());
      boolean holds =
          switch (FilterRest.of(filter, known::contains, values::get)) {
            case FilterRest.Decided decided -> decided.holds();
            case FilterRest.Open open -> {
              assertThat(open.filter().reads())
                  .satisfies(read -> assertThat(known).doesNotContainAnyElementsOf(read));
              yield open.filter().matches(values::get);
            }
          };
      assertThat(holds).isEqualTo(filter.matches(values::get));
    }
  }
}
