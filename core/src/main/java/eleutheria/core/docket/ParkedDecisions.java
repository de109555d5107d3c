package eleutheria.core.docket;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** What becomes of something that the product has given up doing by itself. */
public final class ParkedDecisions {
  private static final int LONGEST_REASON = 1_000;

  private ParkedDecisions() {}

  /** Whether somebody answers for all of it: it may be about anybody. */
  public static boolean answers(Authority authority) {
    return authority.hasEverywhere(Power.SETTINGS_EDIT);
  }

  /**
   * Has it tried anew.
   *
   * @param cites the position of the act that wanted it
   */
  public static Outcome<String> retry(Moment moment, Case.Parked parked, long cites) {
    return answers(moment.authority())
        ? Outcome.done(act(ActName.PARKED_RETRY, parked, cites), List.of(), parked.id())
        : Outcome.refused(Problem.absent("failed task"));
  }

  /** Has it never done, for a reason. */
  public static Outcome<String> drop(Moment moment, Case.Parked parked, long cites, String reason) {
    if (!answers(moment.authority())) {
      return Outcome.refused(Problem.absent("failed task"));
    }
    List<Problem> problems = new ArrayList<>();
    if (reason.isBlank()) {
      problems.add(
          Problem.invalid("parked.no-reason", "reason", "Say why it does not need to be done."));
    }
    AppDecisions.length(problems, "reason", reason, LONGEST_REASON);
    return problems.isEmpty()
        ? Outcome.done(
            act(ActName.PARKED_DROP, parked, cites).because(reason.strip()), List.of(), parked.id())
        : Outcome.refused(problems);
  }

  private static Act act(ActName name, Case.Parked parked, long cites) {
    Act act = parked.person() == null ? Act.of(name) : Act.of(name, parked.person());
    return act.with(Map.of("kind", parked.what(), "cites", cites));
  }
}
