package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class FormDecisionsTest {
  private static final RequestScope ALL = new RequestScope.OfAll();
  private static final Question.Kind CHOICE = new Question.OneOf(List.of("Covering", "My work"));

  private final House house = new House();
  private final PersonId ines = house.person("Ines Roth", "Yard");
  private final PersonId petra = house.person("Petra Lund", "Yard");
  private final EntitlementId till = house.role("Till", Sensitivity.LOW, petra);
  private final EntitlementId vault = house.role("Vault", Sensitivity.HIGH, petra);

  @BeforeEach
  void people() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
  }

  private static Question question(String key, Question.Kind kind, String shownWhen) {
    return new Question(key, "What is " + key + "?", "", true, kind, shownWhen);
  }

  private static FactValue.RequestForm form(Question... questions) {
    return new FactValue.RequestForm(List.of(questions), Term.SHIPPED);
  }

  private static FactValue.RequestForm term(List<Integer> choices, @Nullable Integer most) {
    return new FactValue.RequestForm(List.of(), new Term(choices, most, true));
  }

  private FactValue.@Nullable RequestForm base(RequestScope scope) {
    return house.access().apps().formOf(scope).orElse(null);
  }

  private Outcome<String> set(PersonId by, RequestScope scope, FactValue.RequestForm wanted) {
    return house.decide(
        house.authority(by), m -> FormDecisions.set(m, scope, base(scope), wanted, "As agreed"));
  }

  private Outcome<String> clear(PersonId by, RequestScope scope) {
    return house.decide(
        house.authority(by), m -> FormDecisions.clear(m, scope, base(scope), "No longer"));
  }

  private List<String> asked(EntitlementId id) {
    return house
        .access()
        .apps()
        .form(house.access().apps().entitlement(id).orElseThrow())
        .questions()
        .stream()
        .map(Question::key)
        .toList();
  }

  private RequestScope app(EntitlementId id) {
    return new RequestScope.OfApp(house.app(id));
  }

  private static List<String> fields(List<Problem> problems) {
    return problems.stream().map(Problem::field).toList();
  }

  private List<String> wrong(FactValue.RequestForm form) {
    return fields(FormDecisions.problems(house.directory(), form));
  }

  @Test
  void theNarrowestFormCounts() {
    assertThat(asked(till)).isEmpty();
    set(ines, ALL, form(question("why", CHOICE, "")));
    set(
        ines,
        new RequestScope.OfSensitivity(Sensitivity.HIGH),
        form(question("ticket", CHOICE, "")));
    assertThat(asked(till)).containsExactly("why");
    assertThat(asked(vault)).containsExactly("ticket");
    set(ines, app(vault), form(question("safe", CHOICE, "")));
    set(ines, new RequestScope.OfEntitlement(till), form());
    assertThat(asked(vault)).containsExactly("safe");
    assertThat(asked(till)).isEmpty();
    assertThat(house.access().apps().underForm(ALL)).isEmpty();
    assertThat(house.access().apps().formFor(app(till)).questions()).hasSize(1);
    clear(ines, app(vault));
    clear(ines, new RequestScope.OfEntitlement(till));
    assertThat(asked(vault)).containsExactly("ticket");
    assertThat(asked(till)).containsExactly("why");
  }

  @Test
  void theLedgerSaysWhatTheFormIsFor() {
    Outcome.Done<String> done =
        (Outcome.Done<String>)
            set(ines, new RequestScope.OfEntitlement(till), form(question("why", CHOICE, "")));
    assertThat(done.act().name()).isEqualTo(ActName.REQUEST_FORM_SET);
    assertThat(done.act().objects()).containsExactly(till);
    assertThat(((Outcome.Done<String>) clear(ines, new RequestScope.OfEntitlement(till))).act())
        .extracting(act -> act.name())
        .isEqualTo(ActName.REQUEST_FORM_CLEAR);
  }

  @Test
  void aFormIsSetByWhoeverConfiguresRequestsForEverybody() {
    MandateId some = new MandateId(UUID.randomUUID());
    house.set(
        new FactKey.Mandate(some),
        new FactValue.Terms(
            "Till forms",
            "",
            new TreeSet<>(List.of(Power.REQUESTS_CONFIGURE.word())),
            new Reach(null, new TreeSet<>(List.of(house.app(till).value().toString())), null)));
    PersonId dora = house.person("Dora Falk", "Yard");
    house.hold(some, dora);
    FactValue.RequestForm form = form(question("why", CHOICE, ""));
    // Their own application, not another, and nothing that is for all.
    assertThat(set(dora, app(till), form)).isInstanceOf(Outcome.Done.class);
    assertThat(set(dora, app(vault), form)).isInstanceOf(Outcome.Refused.class);
    assertThat(set(dora, ALL, form)).isInstanceOf(Outcome.Refused.class);
    // Owning is not enough.
    assertThat(set(petra, app(till), form())).isInstanceOf(Outcome.Refused.class);
    assertThat(clear(petra, app(till))).isInstanceOf(Outcome.Refused.class);
  }

  @Test
  void whatSomebodyElseHasChangedIsNotOverwritten() {
    FactValue.RequestForm first = form(question("why", CHOICE, ""));
    set(ines, ALL, first);
    Outcome<String> late =
        house.decide(
            house.authority(ines), m -> FormDecisions.set(m, ALL, null, form(), "As agreed"));
    assertThat(((Outcome.Refused<String>) late).problems())
        .extracting(Problem::kind)
        .containsExactly(Problem.Kind.STALE);
    assertThat(((Outcome.Refused<String>) set(ines, ALL, first)).problems())
        .extracting(Problem::code)
        .containsExactly("request-form.same");
    Outcome<String> silent =
        house.decide(house.authority(ines), m -> FormDecisions.set(m, ALL, first, form(), " "));
    assertThat(fields(((Outcome.Refused<String>) silent).problems())).containsExactly("reason");
    assertThat(((Outcome.Refused<String>) clear(ines, app(till))).problems())
        .extracting(Problem::kind)
        .containsExactly(Problem.Kind.ABSENT);
  }

  @Test
  void aQuestionHasAKeyOfItsOwnThatNoAttributeHas() {
    assertThat(wrong(form(question("a", CHOICE, ""), question("a", CHOICE, ""))))
        .containsExactly("questions.1.key");
    assertThat(wrong(form(question("unit", CHOICE, "")))).containsExactly("questions.0.key");
    for (String key : List.of("", "Which", "1st", "a b", "a_b", "a.b", "x".repeat(41))) {
      assertThat(wrong(form(question(key, CHOICE, "")))).containsExactly("questions.0.key");
    }
    assertThat(wrong(form(question("x".repeat(40), CHOICE, "")))).isEmpty();
  }

  @Test
  void aConditionNamesEarlierQuestionsAndAttributesAlone() {
    Question why = question("why", CHOICE, "");
    assertThat(wrong(form(why, question("whom", new Question.Colleague(), "why eq \"Covering\""))))
        .isEmpty();
    assertThat(wrong(form(why, question("b", CHOICE, "unit eq \"Yard\" and why pr")))).isEmpty();
    // Itself, a later one, none at all, and what cannot be compared so.
    for (String filter : List.of("b pr", "c pr", "no-such pr", "why gt", "why eq Covering")) {
      assertThat(wrong(form(why, question("b", CHOICE, filter), question("c", CHOICE, ""))))
          .containsExactly("questions.1.shownWhen");
    }
    assertThat(
            wrong(
                form(
                    question("n", new Question.Number(null, null), ""),
                    question("b", CHOICE, "n co 1"))))
        .containsExactly("questions.1.shownWhen");
  }

  @Test
  void whatCannotBeAnsweredIsNotAsked() {
    BigDecimal one = BigDecimal.ONE;
    assertThat(wrong(form(question("a", new Question.Number(one, BigDecimal.ZERO), ""))))
        .containsExactly("questions.0.least");
    assertThat(wrong(form(question("a", new Question.Number(one, new BigDecimal("1.0001")), ""))))
        .containsExactly("questions.0.least");
    assertThat(wrong(form(question("a", new Question.Number(one, one), "")))).isEmpty();
    assertThat(wrong(form(question("a", new Question.Day(1, 0), ""))))
        .containsExactly("questions.0.earliest");
    assertThat(wrong(form(question("a", new Question.Day(null, Integer.MIN_VALUE), ""))))
        .containsExactly("questions.0.earliest");
    assertThat(wrong(form(question("a", new Question.Day(0, 0), "")))).isEmpty();
    for (List<String> choices :
        List.of(
            List.of("Only"),
            List.of("Same", "Same"),
            List.of("Good", " "),
            List.of("Good", "Good "),
            List.of("Good", "x".repeat(101)),
            Collections.nCopies(51, "Same"))) {
      assertThat(wrong(form(question("a", new Question.SeveralOf(choices), ""))))
          .containsExactly("questions.0.choices");
    }
    Question wordless = new Question("a", " ", "x".repeat(501), true, CHOICE, "");
    assertThat(wrong(form(wordless))).containsExactly("questions.0.label", "questions.0.help");
    assertThat(wrong(form(question("a", new Question.ShortText("#".repeat(101)), ""))))
        .containsExactly("questions.0.looksLike");
  }

  @Test
  void aFormHasAtMostAHundredQuestions() {
    List<Question> many =
        new ArrayList<>(
            IntStream.range(0, 100).mapToObj(i -> question("q" + i, CHOICE, "")).toList());
    assertThat(wrong(new FactValue.RequestForm(many, Term.SHIPPED))).isEmpty();
    many.add(question("last", CHOICE, ""));
    assertThat(wrong(new FactValue.RequestForm(many, Term.SHIPPED))).containsExactly("questions");
  }

  @Test
  void aTermOffersWhatItAllows() {
    assertThat(wrong(term(List.of(1, 3_660), null))).isEmpty();
    assertThat(wrong(term(List.of(), 1))).isEmpty();
    assertThat(wrong(term(List.of(14, 30), 30))).isEmpty();
    assertThat(wrong(term(List.of(14, 31), 30))).containsExactly("term.choices");
    for (List<Integer> choices :
        List.of(
            List.of(0),
            List.of(30, 14),
            List.of(14, 14),
            List.of(3_661),
            List.of(1, 2, 3, 4, 5, 6))) {
      assertThat(wrong(term(choices, null))).containsExactly("term.choices");
    }
    assertThat(wrong(term(List.of(), 0))).containsExactly("term.most");
    assertThat(wrong(term(List.of(), 3_661))).containsExactly("term.most");
  }
}
