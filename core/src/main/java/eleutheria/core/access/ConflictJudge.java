package eleutheria.core.access;

import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Facts;
import eleutheria.core.ledger.Problem;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.NullMarked;

/**
 * Stops people's acts by which somebody would come to hold what a rule keeps apart, now or later. A
 * breach that is there already, because the rule is newer or came from a source, stops nothing; it
 * lies on the docket.
 */
@NullMarked
public final class ConflictJudge {
  private ConflictJudge() {}

  /** Whether some edits can make anybody break a rule at all. */
  public static boolean matters(Facts before, Facts after, List<Edit> edits) {
    return edits.stream().anyMatch(edit -> EffectMoments.matters(edit.key()))
        && (!before.keys(FactKey.SeparationRule.class).isEmpty()
            || !after.keys(FactKey.SeparationRule.class).isEmpty());
  }

  /** Every breach that some edits bring about, at the act or at any later moment. */
  public static Set<Conflict> caused(AccessView before, AccessView.Supposition supposed) {
    Set<Conflict> found = new LinkedHashSet<>();
    // What somebody accepts until a day lies on the docket after it; it does not stop the act.
    Set<Conflict> accepted = new HashSet<>();
    Set<Instant> moments = SeparationRules.moments(supposed.after(), supposed.at());
    before.suppose(
        supposed,
        moments,
        (instant, without, with, anew) -> {
          if (anew || moments.contains(instant)) {
            SeparationRules rules = SeparationRules.of(supposed.after(), instant);
            accepted.addAll(rules.accepted());
            rules.conflicts(with).stream()
                .filter(conflict -> !stands(without, conflict) && !accepted.contains(conflict))
                .forEach(found::add);
          }
          return true;
        });
    return found;
  }

  /** Whether somebody is entitled to both in a state, whatever the rules say. */
  public static boolean stands(AccessView state, Conflict conflict) {
    return state.entitled(conflict.person(), conflict.one())
        && state.entitled(conflict.person(), conflict.other());
  }

  /** What is told of breaches that stop an act. */
  public static List<Problem> problems(
      Collection<Conflict> conflicts,
      SeparationRules rules,
      AccessView access,
      DirectoryView directory) {
    List<Problem> problems = new ArrayList<>();
    for (Conflict conflict : conflicts) {
      problems.add(
          Problem.invalid(
              "conflict",
              conflict.person().value().toString(),
              "%s would hold %s with %s, which the rule “%s” keeps apart. End one of them, or accept it until a day."
                  .formatted(
                      directory
                          .person(conflict.person())
                          .map(p -> p.name().displayed())
                          .orElse("Someone"),
                      title(access, conflict.one()),
                      title(access, conflict.other()),
                      rules.rule(conflict.rule()).map(r -> r.terms().name()).orElse("a rule"))));
      if (problems.size() == 20) {
        break;
      }
    }
    return problems;
  }

  private static String title(AccessView access, EntitlementId id) {
    return access.apps().entitlement(id).map(Entitlement::title).orElse("a new entitlement");
  }
}
