package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Reading;
import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Question;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.Term;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.requests.AskedForm;
import eleutheria.core.requests.FormDecisions;
import eleutheria.core.requests.RequestScopes;
import eleutheria.server.problems.ProblemView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.Colleague;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What whoever asks is asked: reading, trying and setting request forms. */
@RestController
class FormsController {
  private static final int MOST_QUESTIONS = 150;

  private final World world;
  private final Commands commands;
  private final Organisation organisation;
  private final Clock clock;

  FormsController(World world, Commands commands, Organisation organisation, Clock clock) {
    this.world = world;
    this.commands = commands;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * How long access may last that somebody asks for, in days.
   *
   * @param choices what is offered at a glance, ascending
   * @param most the most that can be asked for; null for no limit
   * @param endless whether it can be asked for without an end
   */
  record TermForm(
      @NotNull @Size(max = 20) List<@NotNull Integer> choices,
      @Nullable Integer most,
      boolean endless) {
    static TermForm of(Term term) {
      return new TermForm(term.choices(), term.most(), term.endless());
    }
  }

  /** A form as it is set. */
  record FormShape(
      @NotNull @Size(max = MOST_QUESTIONS) List<@NotNull @Valid QuestionForm> questions,
      @NotNull @Valid TermForm term) {
    static FormShape of(FactValue.RequestForm form) {
      return new FormShape(
          form.questions().stream().map(QuestionForm::of).toList(), TermForm.of(form.term()));
    }

    FactValue.RequestForm form() {
      return new FactValue.RequestForm(
          questions.stream().map(QuestionForm::question).toList(),
          new Term(term.choices(), term.most(), term.endless()));
    }
  }

  /**
   * The form of a scope.
   *
   * @param scope {@code all}, {@code low}, {@code medium}, {@code high}, {@code application:…} or
   *     {@code entitlement:…}
   * @param set whether it has a form of its own; else {@code questions} are those of a wider scope
   * @param questions what is asked, in words
   * @param entitlements for how many entitlements it counts, or would
   */
  record FormLine(
      String scope,
      @Nullable AppRef app,
      @Nullable EntitlementRef entitlement,
      boolean set,
      List<String> questions,
      int entitlements,
      boolean mayEdit) {}

  record FormsView(List<FormLine> lines, long position) {}

  /** What a condition may name beside earlier questions. */
  record FormAttribute(String name, String label, String type) {
    static List<FormAttribute> of(DirectoryView directory) {
      return directory.definitions().entrySet().stream()
          .map(
              each ->
                  new FormAttribute(
                      each.getKey(), each.getValue().label(), each.getValue().type().word()))
          .toList();
    }
  }

  /**
   * @param conditions one for each question, in their order
   */
  record FormView(
      FormLine line,
      FormShape form,
      List<ConditionView> conditions,
      List<FormAttribute> attributes,
      long position) {}

  record FormSetForm(
      @Nullable @Valid FormShape base,
      @NotNull @Valid FormShape wanted,
      @NotNull @Size(max = 4000) String reason) {}

  record FormClearForm(@NotNull @Valid FormShape base, @NotNull @Size(max = 4000) String reason) {}

  /**
   * @param person who would ask; null for oneself
   */
  record FormTryForm(@Nullable UUID person, @NotNull @Valid FormShape form) {}

  /**
   * A form as one person would meet it.
   *
   * @param problems what is wrong with it; it cannot be set as it is then
   */
  record TriedForm(
      Colleague person,
      List<AskQuestion> questions,
      List<Colleague> colleagues,
      List<ConditionView> conditions,
      List<ProblemView.Item> problems) {}

  // ---- reading

  @GetMapping("/api/forms")
  @Needs(Power.REQUESTS_CONFIGURE)
  FormsView forms(Viewer viewer) {
    return world.look(
        (facts, whole) -> {
          AccessView access = whole.access();
          return new FormsView(
              Scopes.shown(viewer.authority(), access, s -> access.apps().formOf(s).isPresent())
                  .stream()
                  .map(scope -> line(viewer.authority(), access, scope))
                  .toList(),
              world.position());
        });
  }

  @GetMapping("/api/forms/{scope}")
  @Needs(Power.REQUESTS_CONFIGURE)
  FormView form(Viewer viewer, @PathVariable String scope) {
    RequestScope wanted = Scopes.of(scope);
    return world.look(
        (facts, whole) -> {
          AccessView access = whole.access();
          Scopes.readable(viewer.authority(), access, wanted);
          FactValue.RequestForm form = access.apps().formFor(wanted);
          return new FormView(
              line(viewer.authority(), access, wanted),
              FormShape.of(form),
              conditions(access.directory(), form),
              FormAttribute.of(access.directory()),
              world.position());
        });
  }

  private static FormLine line(Authority authority, AccessView access, RequestScope scope) {
    AppsView apps = access.apps();
    return new FormLine(
        scope.word(),
        Scopes.app(apps, scope),
        Scopes.entitlement(apps, scope),
        apps.formOf(scope).isPresent(),
        apps.formFor(scope).questions().stream().map(Question::label).toList(),
        apps.underForm(scope).size(),
        RequestScopes.may(authority, access, scope));
  }

  private static List<ConditionView> conditions(
      DirectoryView directory, FactValue.RequestForm form) {
    return form.questions().stream().map(each -> ConditionView.of(directory, form, each)).toList();
  }

  /**
   * A form as a person would meet it. Which questions they would be asked tells of their
   * attributes, so that it needs the power to see those.
   */
  @PostMapping("/api/forms/tried")
  @Needs(Power.REQUESTS_CONFIGURE)
  TriedForm tried(Viewer viewer, @Valid @RequestBody FormTryForm wanted) {
    DirectoryView directory = world.whole().access().directory();
    Reading reading = new Reading(viewer.authority(), directory);
    PersonId id = wanted.person() == null ? viewer.person() : new PersonId(wanted.person());
    Person person =
        directory
            .person(id)
            .filter(p -> reading.seesPerson(p.id()))
            .orElseThrow(() -> Refusal.of(Problem.absent("person")));
    FactValue.RequestForm form = wanted.form().form();
    List<Problem> problems = FormDecisions.problems(directory, form);
    AskedForm asked = AskedForm.of(form, directory, id);
    LocalDate today = LocalDate.ofInstant(clock.instant(), organisation.zone());
    return new TriedForm(
        Colleague.of(person),
        problems.isEmpty() ? AskQuestion.of(asked, today) : List.of(),
        asked.colleagues().stream()
            .filter(reading::seesPerson)
            .flatMap(one -> directory.person(one).stream())
            .map(Colleague::of)
            .toList(),
        conditions(directory, form),
        problems.stream().map(ProblemView.Item::of).toList());
  }

  // ---- setting

  @PutMapping("/api/forms/{scope}")
  @Needs(value = Power.REQUESTS_CONFIGURE, foresees = true)
  Receipt set(Viewer viewer, @PathVariable String scope, @Valid @RequestBody FormSetForm form) {
    RequestScope of = Scopes.of(scope);
    FactValue.RequestForm base = form.base() == null ? null : form.base().form();
    FactValue.RequestForm wanted = form.wanted().form();
    return commands.perform(
        viewer,
        null,
        String.class,
        moment -> FormDecisions.set(moment, of, base, wanted, form.reason()));
  }

  @PostMapping("/api/forms/{scope}/clear")
  @Needs(value = Power.REQUESTS_CONFIGURE, foresees = true)
  Receipt clear(Viewer viewer, @PathVariable String scope, @Valid @RequestBody FormClearForm form) {
    RequestScope of = Scopes.of(scope);
    FactValue.RequestForm base = form.base().form();
    return commands.perform(
        viewer, null, String.class, moment -> FormDecisions.clear(moment, of, base, form.reason()));
  }
}
