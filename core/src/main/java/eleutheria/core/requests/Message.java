package eleutheria.core.requests;

import eleutheria.core.facts.PersonId;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * One thing that was written into the thread of a request.
 *
 * @param to whom the step was passed on to with these words; else null
 */
public record Message(PersonId by, Kind kind, String text, Instant at, @Nullable PersonId to) {
  public Message(PersonId by, Kind kind, String text, Instant at) {
    this(by, kind, text, at, null);
  }

  public enum Kind {
    SAID,
    /** By who decides, to who asked; the clock stands until it is answered. */
    ASKED,
    /** By who asked; the clock goes on. */
    ANSWERED,
    /** By who decides, who passes the step on. */
    PASSED
  }
}
