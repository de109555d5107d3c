package eleutheria.core.queries;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.TemporalAdjusters;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How often a query is sent to whoever saved it. */
public enum Every {
  NEVER,
  /** On Mondays. */
  WEEK,
  /** On the first of the month. */
  MONTH,
  /** On the first of January, April, July and October. */
  QUARTER;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static Every of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }

  /** The next day after one on which it is due; null for never. */
  public @Nullable LocalDate after(LocalDate day) {
    return switch (this) {
      case NEVER -> null;
      case WEEK -> day.with(TemporalAdjusters.next(DayOfWeek.MONDAY));
      case MONTH -> day.with(TemporalAdjusters.firstDayOfNextMonth());
      case QUARTER -> Period.quarter(day).plusMonths(3);
    };
  }
}
