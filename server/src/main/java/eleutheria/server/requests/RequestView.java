package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Decision;
import eleutheria.core.requests.FormAnswer;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.core.requests.Stage;
import eleutheria.server.refs.Colleague;
import eleutheria.server.refs.EntitlementRef;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A request as it is told to who asked and who decides.
 *
 * @param person whom it is for; mostly who asked
 * @param until the last day that was asked for; null for no end
 * @param lastDay the last day as the decisions have set it
 * @param answers what its form was answered with
 * @param stage waiting, asked_back, given, refused, withdrawn, lapsed or overtaken
 * @param from when the stage begins: a grant, or the next step, a moment after the decision
 * @param lapses when it ends by itself if nobody acts; null once it is over
 * @param steps who decides, in their order, with what they said
 * @param ends when the grant ends by itself; null if there is none or it does not
 * @param messages how many messages its thread has
 * @param endedEarly whether its grant has ended before that: handed back, or ended by somebody
 */
public record RequestView(
    String id,
    String number,
    Colleague asker,
    Colleague person,
    EntitlementRef entitlement,
    @Nullable LocalDate until,
    @Nullable LocalDate lastDay,
    String reason,
    List<FormAnswerView> answers,
    Instant asked,
    String stage,
    Instant from,
    @Nullable Instant lapses,
    List<StepView> steps,
    @Nullable Instant ends,
    int messages,
    boolean endedEarly) {

  /**
   * One step.
   *
   * @param step which of the route, from 0
   * @param as what makes them decide: manager, managers_manager, owner, member, named, steward,
   *     passed_on
   * @param people who may decide, while it is not decided
   * @param deputies who may decide for whom of them, while it is not decided
   * @param coming who will be able to decide as a deputy later, while it waits
   * @param behalf for whom it was decided, by a deputy
   * @param state done, waiting, next or skipped
   */
  public record StepView(
      int step,
      String as,
      List<String> people,
      List<DeputyRef> deputies,
      List<ComingRef> coming,
      String state,
      @Nullable String by,
      @Nullable String behalf,
      boolean yes,
      boolean steppedIn,
      @Nullable Instant at,
      String note) {}

  /**
   * An answer to a question of the form, as it was asked then.
   *
   * @param type text, number, day, yesno or person
   * @param values days as ISO 8601, yes and no as true and false, people by name
   */
  public record FormAnswerView(String key, String label, String type, List<String> values) {
    public static List<FormAnswerView> of(AccessView access, List<FormAnswer> answers) {
      return answers.stream().map(each -> of(access, each)).toList();
    }

    private static FormAnswerView of(AccessView access, FormAnswer answer) {
      return new FormAnswerView(
          answer.key(),
          answer.label(),
          answer.type().word(),
          answer.type() != ValueType.PERSON
              ? answer.values()
              : answer.values().stream()
                  .map(id -> PersonId.read(id).map(p -> name(access, p)).orElse("someone"))
                  .toList());
    }
  }

  /** Who decides for whom, by name. */
  public record DeputyRef(String name, String of) {}

  /** Who will decide for whom, by name, and from when. */
  public record ComingRef(String name, String of, Instant from) {}

  public static RequestView of(Facts facts, AccessView access, AccessRequest request, ZoneId zone) {
    return new RequestView(
        request.id().value().toString(),
        request.name(),
        colleague(access, request.asker()),
        colleague(access, request.person()),
        access
            .apps()
            .entitlement(request.entitlement())
            .map(e -> EntitlementRef.of(access.apps(), e))
            .orElseThrow(),
        request.until(),
        request.lastDay(),
        request.reason(),
        FormAnswerView.of(access, request.form()),
        request.asked(),
        RequestStore.word(request.stage()),
        RequestStore.at(request.stage()),
        RequestStore.lapses(request.stage()),
        steps(facts, access, request),
        request.stage() instanceof Stage.Given && request.lastDay() != null
            ? Moments.endOf(request.lastDay(), zone)
            : null,
        request.messages(),
        request.stage() instanceof Stage.Given given
            && !given.from().isAfter(access.at())
            && access.grant(given.grant()).isEmpty()
            && (request.lastDay() == null
                || Moments.endOf(request.lastDay(), zone).isAfter(access.at())));
  }

  private static List<StepView> steps(Facts facts, AccessView access, AccessRequest request) {
    List<StepView> steps = new ArrayList<>();
    for (Decision answer : request.answers()) {
      steps.add(
          new StepView(
              answer.step(),
              word(answer.capacity()),
              List.of(),
              List.of(),
              List.of(),
              "done",
              name(access, answer.by()),
              answer.behalf() == null ? null : name(access, answer.behalf()),
              answer.yes(),
              answer.steppedIn(),
              answer.at(),
              answer.note()));
    }
    if (request.stage() instanceof Stage.Open waiting) {
      List<Deciders> before = new ArrayList<>();
      for (int step = waiting.step(); step < request.route().steps().size(); step++) {
        boolean first = step == waiting.step();
        Deciders deciders =
            first ? Deciders.of(access, request, waiting) : Deciders.of(access, request, step);
        boolean same =
            !first
                && (before.stream().anyMatch(each -> each.decideAlso(deciders))
                    || RequestDecisions.settled(access, request, step));
        if (!same) {
          steps.add(
              new StepView(
                  step,
                  word(deciders.capacity()),
                  deciders.people().stream().limit(5).map(p -> name(access, p)).toList(),
                  deputies(access, deciders),
                  first ? coming(facts, access, request, waiting) : List.of(),
                  first ? "waiting" : "next",
                  null,
                  null,
                  false,
                  false,
                  null,
                  ""));
        }
        before.add(deciders);
      }
    }
    return steps;
  }

  private static List<ComingRef> coming(
      Facts facts, AccessView access, AccessRequest request, Stage.Open waiting) {
    return Deciders.coming(facts, access, request, waiting).stream()
        .limit(5)
        .map(
            span ->
                new ComingRef(
                    name(access, span.deputy()), name(access, span.person()), span.from()))
        .toList();
  }

  static List<DeputyRef> deputies(AccessView access, Deciders deciders) {
    return deciders.deputies().entrySet().stream()
        .limit(5)
        .map(each -> new DeputyRef(name(access, each.getKey()), name(access, each.getValue())))
        .toList();
  }

  public static String word(Deciders.Capacity as) {
    return as.name().toLowerCase(Locale.ROOT);
  }

  private static Colleague colleague(AccessView access, PersonId id) {
    return access.directory().person(id).map(Colleague::of).orElseThrow();
  }

  static String name(AccessView access, PersonId id) {
    return access.directory().person(id).map(p -> p.name().displayed()).orElse("someone");
  }
}
