package eleutheria.core.access;

import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Judges power by effect: whoever moves access, by whatever edit, needs the power to give or to end
 * every entitlement that someone gains or loses, within reach; and nobody gains by their own act.
 */
@NullMarked
public final class EffectJudge {
  private EffectJudge() {}

  /**
   * @param right on what the decision rests; {@link Outcome.Right#BY_RULE} has been judged already
   * @param before the state that the act was decided on
   * @param edits what the act changes
   */
  public static List<Problem> judge(
      Moment moment, AccessView before, Effects effects, List<Edit> edits, Outcome.Right right) {
    List<Problem> problems = new ArrayList<>();
    if (right == Outcome.Right.BY_RULE) {
      return problems;
    }
    Authority authority = moment.authority();
    Map<EntitlementId, Set<PersonId>> gained = effects.entitledGained();
    gained.forEach(
        (id, people) -> {
          Entitlement entitlement = entitlement(before, id);
          boolean filling =
              right == Outcome.Right.AS_GROUP_OWNER
                  && entitlement != null
                  && entitlement.role().sensitivity() != Sensitivity.HIGH;
          if (!filling) {
            outside(moment, before, Power.ACCESS_GIVE, id, people).ifPresent(problems::add);
          }
        });
    effects
        .entitledLost()
        .forEach(
            (id, people) -> {
              if (right != Outcome.Right.AS_GROUP_OWNER) {
                outside(moment, before, Power.ACCESS_END, id, people).ifPresent(problems::add);
              }
            });
    List<String> own = own(moment, before, effects);
    if (!own.isEmpty() && SecondYes.othersCould(moment, Power.ACCESS_GIVE)) {
      problems.add(
          Problem.forbidden(
              "own-gain",
              "By this you would gain %s yourself; someone else does that."
                  .formatted(String.join(", ", own))));
    }
    problems.addAll(SecondYes.judge(moment, edits));
    return problems;
  }

  /**
   * Whether it would need somebody else's yes, and nobody else could give it. A fresh sign-in is
   * enough then, and the entry says so.
   */
  public static boolean alone(
      Moment moment, AccessView before, Effects effects, List<Edit> edits, Outcome.Right right) {
    return right != Outcome.Right.BY_RULE
        && ((!own(moment, before, effects).isEmpty()
                && !SecondYes.othersCould(moment, Power.ACCESS_GIVE))
            || SecondYes.alone(moment, edits));
  }

  /** What the actor gains themselves. */
  private static List<String> own(Moment moment, AccessView before, Effects effects) {
    PersonId actor = moment.authority().person();
    return actor == null
        ? List.of()
        : effects.entitledGained().entrySet().stream()
            .filter(e -> e.getValue().contains(actor))
            .map(e -> title(before, e.getKey()))
            .toList();
  }

  private static java.util.Optional<Problem> outside(
      Moment moment, AccessView before, Power power, EntitlementId id, Set<PersonId> people) {
    Entitlement entitlement = entitlement(before, id);
    if (entitlement != null && moment.authority().reaches(power, entitlement.application(), null)) {
      // Of whatever unit: nobody need be looked at.
      return java.util.Optional.empty();
    }
    long outside =
        people.stream()
            .flatMap(p -> moment.directory().person(p).stream())
            .filter(p -> p.status() != PersonStatus.DEPARTED)
            .filter(p -> !may(moment.authority(), power, entitlement, p))
            .count();
    if (outside == 0) {
      return java.util.Optional.empty();
    }
    return java.util.Optional.of(
        Problem.forbidden(
            "effect",
            "By this %s %s %s, which needs the power “%s” there."
                .formatted(
                    outside == 1 ? "1 person" : outside + " people",
                    power == Power.ACCESS_GIVE
                        ? (outside == 1 ? "gains" : "gain")
                        : (outside == 1 ? "loses" : "lose"),
                    title(before, id),
                    power.word())));
  }

  private static boolean may(
      Authority authority, Power power, @Nullable Entitlement entitlement, Person person) {
    String unit = person.value(Attributes.UNIT);
    return entitlement == null
        ? authority.hasEverywhere(power)
        : authority.reaches(power, entitlement.application(), unit);
  }

  private static @Nullable Entitlement entitlement(AccessView before, EntitlementId id) {
    return before.apps().entitlement(id).orElse(null);
  }

  private static String title(AccessView before, EntitlementId id) {
    return before.apps().entitlement(id).map(Entitlement::title).orElse("a new entitlement");
  }
}
