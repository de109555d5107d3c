package eleutheria.core.directory;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What the clock puts on record: that facts have begun or ended by themselves. */
public final class ClockDecisions {
  private ClockDecisions() {}

  /**
   * An entry for what happened by itself at one moment because of one act. It changes no fact: the
   * facts have said so since that act.
   *
   * @param due the moment at which they began or ended
   * @param cites the position of the act that set it
   */
  public static Outcome<Integer> boundary(
      Moment moment, Instant due, long cites, List<FactKey> keys) {
    Set<ObjectId> objects = new LinkedHashSet<>();
    int begun = 0;
    int ended = 0;
    for (FactKey key : keys) {
      objects.addAll(key.objects());
      if (begins(moment.facts(), key, due)) {
        begun++;
      } else {
        ended++;
      }
    }
    return Outcome.done(
        new Act(
            ActName.CLOCK_BOUNDARY,
            new ArrayList<>(objects),
            "",
            Map.of("begun", begun, "cites", cites, "due", Moments.text(due), "ended", ended)),
        List.of(),
        keys.size());
  }

  private static boolean begins(Facts facts, FactKey key, Instant due) {
    return facts.at(key, due).isPresent();
  }
}
