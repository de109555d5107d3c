package eleutheria.core.suggestions;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Pictures;
import eleutheria.core.apps.WebAddress;
import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.Problem;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.UUID;

/**
 * A link that somebody keeps for themselves. Nobody else sees it, and it is no fact: it has no
 * past.
 */
public record OwnLink(UUID id, String name, String address, String picture, String hue) {
  public static final int MOST = 60;

  /**
   * What stands in the way of keeping a link.
   *
   * @param others what they keep besides
   * @param rule what they may bring
   */
  public static List<Problem> problems(
      OwnLink wanted,
      Collection<OwnLink> others,
      SelfService selfService,
      FactValue.SelfServiceLine rule) {
    List<Problem> problems = new ArrayList<>();
    if (wanted.name().isBlank()) {
      problems.add(Problem.invalid("link.no-name", "name", "Give the link a name."));
    }
    AppDecisions.length(problems, "name", wanted.name(), AppDecisions.LONGEST_NAME);
    if (!Pictures.PICTURES.contains(wanted.picture())) {
      problems.add(Problem.invalid("tile.picture", "picture", "There is no such picture."));
    }
    if (!Pictures.HUES.contains(wanted.hue())) {
      problems.add(Problem.invalid("tile.hue", "hue", "There is no such colour."));
    }
    if (others.size() >= MOST) {
      problems.add(
          Problem.invalid(
              "link.many",
              "",
              "You have %d links already, the most you can keep.".formatted(MOST)));
    }
    List<Problem> wrong = WebAddress.problems("address", wanted.address());
    problems.addAll(wrong);
    if (wrong.isEmpty() && !selfService.allows(rule, wanted.address())) {
      problems.add(
          rule.links() == FactValue.Links.NOTHING
              ? Problem.invalid(
                  "link.none",
                  "address",
                  rule.suggest()
                      ? "Links of your own are not allowed here. You can suggest the app."
                      : "Links of your own are not allowed here.")
              : Problem.invalid(
                  "link.not-approved",
                  "address",
                  rule.suggest()
                      ? "It is not on the approved list. You can suggest it."
                      : "It is not on the approved list."));
    }
    return problems;
  }
}
