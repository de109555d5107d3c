package eleutheria.core.queries;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PeriodTest {
  @ParameterizedTest
  @CsvSource({
    "2026-11-27, last-month, 2026-10-01, 2026-10-31",
    "2026-03-31, last-month, 2026-02-01, 2026-02-28",
    "2028-03-01, last-month, 2028-02-01, 2028-02-29",
    "2026-01-01, last-month, 2025-12-01, 2025-12-31",
    "2026-11-27, last-quarter, 2026-07-01, 2026-09-30",
    "2026-01-31, last-quarter, 2025-10-01, 2025-12-31",
    "2026-04-01, last-quarter, 2026-01-01, 2026-03-31",
    "2026-11-27, next-month, 2026-12-01, 2026-12-31",
    "2026-12-31, next-month, 2027-01-01, 2027-01-31",
    "2027-01-31, next-month, 2027-02-01, 2027-02-28",
  })
  void liesWhereItSays(LocalDate today, String period, LocalDate first, LocalDate last) {
    assertThat(Period.of(period).on(today)).isEqualTo(new Period.Days(first, last));
    assertThat(Period.of(period).word()).isEqualTo(period);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-11-27, week, 2026-11-30",
    "2026-11-30, week, 2026-12-07",
    "2026-11-30, month, 2026-12-01",
    "2026-12-01, month, 2027-01-01",
    "2026-11-27, quarter, 2027-01-01",
    "2027-01-01, quarter, 2027-04-01",
  })
  void isDueAfterADay(LocalDate day, String every, LocalDate next) {
    assertThat(Every.of(every).after(day)).isEqualTo(next);
  }

  @Test
  void neverIsNeverDue() {
    assertThat(Every.NEVER.after(LocalDate.of(2026, 11, 27))).isNull();
  }
}
