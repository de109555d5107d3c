package eleutheria.core.requests;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.facts.RouteStep;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A wish for an entitlement, and what has become of it.
 *
 * @param number what people call it, R-2041
 * @param route the steps that it needs, as they were when it was asked
 * @param until the last day that is wished; null for no end
 * @param form what was asked in its form, and answered
 * @param answers the decisions that stand, oldest first
 * @param messages how many messages its thread has
 */
public record AccessRequest(
    RequestId id,
    int number,
    Wish wish,
    FactValue.Route route,
    @Nullable LocalDate until,
    String reason,
    List<FormAnswer> form,
    Instant asked,
    List<Decision> answers,
    Stage stage,
    int messages) {

  public PersonId asker() {
    return wish.asker();
  }

  /** Whom it is for. */
  public PersonId person() {
    return wish.person();
  }

  public EntitlementId entitlement() {
    return wish.entitlement();
  }

  /** The step that a number stands for, from 0. */
  public RouteStep step(int step) {
    return route.steps().get(step);
  }

  public String name() {
    return "R-" + number;
  }

  /** The last day as it stands after the answers so far. */
  public @Nullable LocalDate lastDay() {
    LocalDate day = until;
    for (Decision answer : answers) {
      if (answer.until() != null) {
        day = answer.until();
      }
    }
    return day;
  }

  public Optional<Decision> lastAnswer() {
    return answers.isEmpty() ? Optional.empty() : Optional.of(answers.getLast());
  }

  AccessRequest at(Stage next) {
    return new AccessRequest(
        id, number, wish, route, until, reason, form, asked, answers, next, messages);
  }

  AccessRequest answered(Decision answer, Stage next) {
    List<Decision> all = new ArrayList<>(answers);
    all.add(answer);
    return new AccessRequest(
        id, number, wish, route, until, reason, form, asked, List.copyOf(all), next, messages);
  }

  AccessRequest withoutLastAnswer(Stage next) {
    return new AccessRequest(
        id,
        number,
        wish,
        route,
        until,
        reason,
        form,
        asked,
        answers.subList(0, answers.size() - 1),
        next,
        messages);
  }

  /** With one message more. */
  AccessRequest said() {
    return new AccessRequest(
        id, number, wish, route, until, reason, form, asked, answers, stage, messages + 1);
  }
}
