package eleutheria.core.facts;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How long access may last that somebody asks for. What is of high sensitivity always needs a last
 * day, whatever is said here.
 *
 * @param choices what is offered at a glance, in days, ascending
 * @param most the most days that can be asked for; null for no limit
 * @param endless whether it can be asked for without an end
 */
public record Term(List<Integer> choices, @Nullable Integer most, boolean endless) {
  public static final Term SHIPPED = new Term(List.of(14, 30, 90), null, true);

  public static final int MOST_CHOICES = 5;

  /** The longest that can be said, in days. */
  public static final int LONGEST = 3_660;

  public Term {
    choices = List.copyOf(choices);
  }
}
