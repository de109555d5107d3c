package eleutheria.core.suggestions;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.List;
import java.util.function.BiPredicate;

/**
 * Who may keep links and suggest apps themselves, by a policy in which the first rule that fits
 * counts.
 */
public record SelfService(List<FactValue.SelfServiceLine> rules, Approved approved) {
  /** What holds for whom no rule fits, and where nobody has said anything. */
  public static final FactValue.SelfServiceLine OTHERWISE =
      new FactValue.SelfServiceLine(FactValue.Audience.EVERYONE, FactValue.Links.APPROVED, true);

  public static SelfService at(Facts facts, Instant at) {
    return new SelfService(policy(facts, at).rules(), Approved.at(facts, at));
  }

  public static FactValue.SelfService policy(Facts facts, Instant at) {
    return facts.valueAt(FactKey.SelfService.ORGANISATION, at) instanceof FactValue.SelfService said
        ? said
        : new FactValue.SelfService(List.of());
  }

  /**
   * What somebody may bring.
   *
   * @param in whether somebody is in an audience
   */
  public FactValue.SelfServiceLine of(
      PersonId person, BiPredicate<FactValue.Audience, PersonId> in) {
    return rules.stream()
        .filter(rule -> in.test(rule.audience(), person))
        .findFirst()
        .orElse(OTHERWISE);
  }

  /** Whether a rule lets a link be kept. */
  public boolean allows(FactValue.SelfServiceLine rule, String address) {
    return switch (rule.links()) {
      case NOTHING -> false;
      case APPROVED -> approved.covering(address).isPresent();
      case ANYTHING -> true;
    };
  }
}
