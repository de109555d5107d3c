package eleutheria.core.access;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RouteStep;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * What one person does not decide alone, whatever powers they have: loosening a separation rule or
 * a route of requests for something of high sensitivity. Gaining by one's own act is judged by
 * effect ({@link EffectJudge}).
 *
 * <p>While nobody else could give the yes, a fresh sign-in stands for it, and the entry says so.
 */
@NullMarked
public final class SecondYes {
  /** The code of the problem that somebody else's yes is missing. */
  public static final String CODE = "second-yes";

  private SecondYes() {}

  /** What keeps an actor from doing this without somebody else. */
  static List<Problem> judge(Moment moment, List<Edit> edits) {
    List<Problem> problems = new ArrayList<>();
    List<String> shortened = shortened(moment, edits);
    if (!shortened.isEmpty() && othersCould(moment, Power.REQUESTS_CONFIGURE)) {
      problems.add(
          Problem.forbidden(
              CODE,
              "This leaves out a step of requests for %s, which is of high sensitivity; that needs a second person’s approval. Make it a draft, and ask."
                  .formatted(shortened.getFirst())));
    }
    List<String> loosened = loosened(moment, edits);
    if (loosened.isEmpty() || !othersCould(moment, Power.ACCESS_RULES)) {
      return problems;
    }
    loosened.forEach(
        name ->
            problems.add(
                Problem.forbidden(
                    CODE,
                    "This loosens the rule “%s” for something of high sensitivity, which needs a second person’s approval. Make it a draft, and ask."
                        .formatted(name))));
    return problems;
  }

  /** Whether it would need somebody else's yes, and nobody else could give it. */
  static boolean alone(Moment moment, List<Edit> edits) {
    return (!loosened(moment, edits).isEmpty() && !othersCould(moment, Power.ACCESS_RULES))
        || (!shortened(moment, edits).isEmpty() && !othersCould(moment, Power.REQUESTS_CONFIGURE));
  }

  /** Whether anybody but the actor has a power everywhere. */
  static boolean othersCould(Moment moment, Power power) {
    DirectoryView directory = moment.directory();
    return directory.mandates().stream()
        .filter(mandate -> mandate.terms().powers().contains(power.word()))
        .flatMap(mandate -> mandate.holders().stream())
        .flatMap(
            holder ->
                switch (holder) {
                  case PersonId person -> Stream.of(person);
                  case GroupId group -> directory.members(group).stream();
                  default -> Stream.<PersonId>empty();
                })
        .filter(person -> !person.equals(moment.authority().person()))
        .filter(
            person ->
                directory.person(person).filter(p -> p.status() == PersonStatus.ACTIVE).isPresent())
        .anyMatch(person -> directory.authority(person).hasEverywhere(power));
  }

  /**
   * Names of rules that keep fewer pairs apart for ever, of which something is of high sensitivity.
   */
  private static List<String> loosened(Moment moment, List<Edit> edits) {
    Map<FactKey, List<Edit>> rules = new LinkedHashMap<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.SeparationRule) {
        rules.computeIfAbsent(edit.key(), k -> new ArrayList<>()).add(edit);
      }
    }
    List<String> found = new ArrayList<>();
    rules.forEach(
        (key, own) -> {
          FactValue.Separation lasting = null;
          for (Edit edit : own) {
            if (edit.wanted() != null
                && edit.wanted().until().equals(Moments.FOREVER)
                && edit.wanted().value() instanceof FactValue.Separation terms) {
              lasting = terms;
            }
          }
          for (Edit edit : own) {
            if (edit.base() != null
                && edit.base().value() instanceof FactValue.Separation terms
                && lost(moment, terms, lasting)) {
              found.add(terms.name());
              return;
            }
          }
        });
    return found;
  }

  /**
   * What of high sensitivity could be had by requests without a yes that they need now; also where
   * other answers, to a form that is changed, could make a step needless.
   */
  private static List<String> shortened(Moment moment, List<Edit> edits) {
    Map<RequestScope, Optional<FactValue.Route>> changed = new HashMap<>();
    Map<RequestScope, Optional<FactValue.RequestForm>> forms = new HashMap<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Route(RequestScope scope)) {
        lasting(changed, scope, edit, FactValue.Route.class);
      } else if (edit.key() instanceof FactKey.RequestForm(RequestScope scope)) {
        lasting(forms, scope, edit, FactValue.RequestForm.class);
      }
    }
    if (changed.isEmpty() && forms.isEmpty()) {
      return List.of();
    }
    AppsView apps = AccessView.at(moment).apps();
    return apps.entitlements().stream()
        .filter(e -> e.role().sensitivity() == Sensitivity.HIGH)
        .filter(
            e ->
                !keeps(apps.route(e, changed), apps.route(e))
                    || (!apps.form(e, forms).equals(apps.form(e))
                        && !apps.route(e).steps().stream().allMatch(RouteStep::always)))
        .map(Entitlement::title)
        .toList();
  }

  /** What a scope will have for good; nothing where the edits leave it nothing that lasts. */
  private static <V extends FactValue> void lasting(
      Map<RequestScope, Optional<V>> changed, RequestScope scope, Edit edit, Class<V> kind) {
    Spell wanted = edit.wanted();
    if (wanted != null
        && wanted.until().equals(Moments.FOREVER)
        && kind.isInstance(wanted.value())) {
      changed.put(scope, Optional.of(kind.cast(wanted.value())));
    } else {
      changed.putIfAbsent(scope, Optional.empty());
    }
  }

  /** Whether each step that is needed now is needed afterwards, in the same cases or always. */
  private static boolean keeps(FactValue.Route after, FactValue.Route before) {
    return before.steps().stream()
        .allMatch(
            step ->
                after.steps().stream()
                    .anyMatch(
                        each ->
                            each.seat().equals(step.seat())
                                && (each.always() || each.onlyIf().equals(step.onlyIf()))));
  }

  private static boolean lost(
      Moment moment, FactValue.Separation was, FactValue.@Nullable Separation lasting) {
    for (EntitlementId one : was.one()) {
      for (EntitlementId other : was.other()) {
        boolean kept =
            lasting != null
                && ((lasting.one().contains(one) && lasting.other().contains(other))
                    || (lasting.one().contains(other) && lasting.other().contains(one)));
        if (!kept && (high(moment, one) || high(moment, other))) {
          return true;
        }
      }
    }
    return false;
  }

  private static boolean high(Moment moment, EntitlementId id) {
    return AccessView.at(moment)
        .apps()
        .entitlement(id)
        .map(Entitlement::role)
        .filter(role -> role.sensitivity() == Sensitivity.HIGH)
        .isPresent();
  }
}
