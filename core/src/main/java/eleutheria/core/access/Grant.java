package eleutheria.core.access;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import java.time.Instant;
import java.util.Comparator;
import org.jspecify.annotations.NullMarked;

/**
 * A grant in force.
 *
 * @param until when it ends by itself, {@link eleutheria.core.facts.Moments#FOREVER} if it does not
 */
@NullMarked
public record Grant(GrantId id, FactValue.Given given, Instant from, Instant until) {
  public static final Comparator<Grant> OLDEST_FIRST =
      Comparator.comparing(Grant::from).thenComparing(Grant::id);
}
