package eleutheria.server.clock;

import eleutheria.core.directory.ClockDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Boundaries;
import eleutheria.core.facts.FactKey;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.writing.Later;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Facts that begin or end by themselves. */
@Component
class BoundaryDue implements DueKind {
  @Override
  public String kind() {
    return Later.BOUNDARY;
  }

  @Override
  public Optional<Outcome<String>> decide(
      Moment moment, Instant due, long cites, List<String> subjects) {
    List<FactKey> keys =
        subjects.stream()
            .map(Later::key)
            .filter(key -> Boundaries.stands(moment.facts(), new Boundaries.Boundary(due, key)))
            .distinct()
            .toList();
    if (keys.isEmpty()) {
      return Optional.empty();
    }
    Outcome.Done<Integer> done =
        (Outcome.Done<Integer>) ClockDecisions.boundary(moment, due, cites, keys);
    return Optional.of(Outcome.done(done.act(), done.edits(), kind()));
  }
}
