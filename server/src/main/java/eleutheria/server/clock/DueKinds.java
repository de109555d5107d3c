package eleutheria.server.clock;

import static eleutheria.server.tables.Tables.DUE;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.springframework.stereotype.Component;

/** What the clock can do here; of what it does not know, it leaves the doing to a newer node. */
@Component
public class DueKinds {
  private final Map<String, DueKind> known;

  DueKinds(List<DueKind> kinds) {
    known = kinds.stream().collect(Collectors.toMap(DueKind::kind, Function.identity()));
  }

  DueKind of(String kind) {
    DueKind found = known.get(kind);
    if (found == null) {
      throw new IllegalArgumentException("nothing here does what is due of the kind " + kind);
    }
    return found;
  }

  /** What falls due until a moment and is to be done here. */
  public Condition due(Instant until) {
    return DUE.DUE_AT.le(until).and(DUE.FAILED_AT.isNull()).and(DUE.KIND.in(known.keySet()));
  }
}
