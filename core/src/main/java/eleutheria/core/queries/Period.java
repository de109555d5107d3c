package eleutheria.core.queries;

import java.time.LocalDate;
import java.util.Locale;

/** A stretch of days that is told by where it lies from today, so that a query stays fresh. */
public enum Period {
  LAST_MONTH,
  LAST_QUARTER,
  NEXT_MONTH;

  /**
   * @param last the last day in it
   */
  public record Days(LocalDate first, LocalDate last) {}

  /** As it stands in a saved query: {@code last-month}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static Period of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT).replace('-', '_'));
  }

  /** The days that it stands for on a day. */
  public Days on(LocalDate today) {
    LocalDate month = today.withDayOfMonth(1);
    return switch (this) {
      case LAST_MONTH -> new Days(month.minusMonths(1), month.minusDays(1));
      case LAST_QUARTER -> {
        LocalDate quarter = quarter(today);
        yield new Days(quarter.minusMonths(3), quarter.minusDays(1));
      }
      case NEXT_MONTH -> new Days(month.plusMonths(1), month.plusMonths(2).minusDays(1));
    };
  }

  /** The first day of the quarter that a day lies in. */
  static LocalDate quarter(LocalDate day) {
    return LocalDate.of(day.getYear(), (day.getMonthValue() - 1) / 3 * 3 + 1, 1);
  }
}
