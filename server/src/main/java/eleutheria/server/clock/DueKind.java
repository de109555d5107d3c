package eleutheria.server.clock;

import eleutheria.core.directory.Moment;
import eleutheria.core.ledger.Outcome;
import eleutheria.server.writing.Acts;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;

/** One kind of thing that the clock does at its time. */
public interface DueKind {
  String kind();

  /**
   * Decides under the ledger-head lock on what is due at one moment because of one act.
   *
   * @param subjects what the entries on the clock's list are about
   * @param cites the position of the act that set them
   * @return nothing if none of it stands any more
   */
  Optional<Outcome<String>> decide(Moment moment, Instant due, long cites, List<String> subjects);

  /** Writes what belongs beside the entry, in the same transaction. */
  default void beside(DSLContext tx, String result, Acts.Written entry) {}
}
