package eleutheria.core.requests;

import eleutheria.core.facts.PersonId;
import java.time.Instant;

/** One thing that was written into the thread of a request. */
public record Message(PersonId by, Kind kind, String text, Instant at) {
  public enum Kind {
    SAID,
    /** By who decides, to who asked; the clock stands until it is answered. */
    ASKED,
    /** By who asked; the clock goes on. */
    ANSWERED
  }
}
