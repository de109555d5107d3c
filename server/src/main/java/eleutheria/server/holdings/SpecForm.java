package eleutheria.server.holdings;

import eleutheria.core.queries.Period;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a query asks. Days that are told from today stay fresh in a saved query.
 *
 * @param during whoever held it at any time of these days
 * @param since whoever gained or lost it in these days
 * @param ends only what ends by itself in these days or before
 * @param leavers what people held still after their stated last day, of those who left in these
 *     days
 * @param columns of the answer, in this order
 */
record SpecForm(
    @NotNull @Valid AskedForm asked,
    @Nullable @Pattern(regexp = "last-month|last-quarter") String during,
    @Nullable @Pattern(regexp = "last-month|last-quarter") String since,
    @Nullable @Pattern(regexp = "next-month") String ends,
    @Nullable @Pattern(regexp = "last-month|last-quarter") String leavers,
    @Nullable @Size(max = 30) List<@NotNull @Size(max = 20) String> columns) {

  /** The query with its days worked out. */
  AskedForm on(LocalDate today, ZoneId zone) {
    AskedForm a = asked;
    if (during != null) {
      Period.Days days = Period.of(during).on(today);
      return new AskedForm(
          a.apps(),
          a.entitlements(),
          a.sensitivities(),
          a.where(),
          a.only(),
          a.days(),
          null,
          a.asOf(),
          null,
          days.first(),
          days.last());
    }
    if (since != null) {
      Period.Days days = Period.of(since).on(today);
      return new AskedForm(
          a.apps(),
          a.entitlements(),
          a.sensitivities(),
          a.where(),
          a.only(),
          a.days(),
          null,
          end(days.last(), zone),
          end(days.first().minusDays(1), zone),
          null,
          null);
    }
    if (ends != null) {
      return new AskedForm(
          a.apps(),
          a.entitlements(),
          a.sensitivities(),
          a.where(),
          List.of("ending"),
          a.days(),
          Period.of(ends).on(today).last().plusDays(1),
          null,
          null,
          null,
          null);
    }
    return a;
  }

  /** The last moment of a day. */
  static Instant end(LocalDate day, ZoneId zone) {
    return day.plusDays(1).atStartOfDay(zone).toInstant().minusNanos(1_000);
  }

  /** The same, of one moment and with its days fixed: what a report that was made keeps. */
  SpecForm fixed(AskedForm worked) {
    return new SpecForm(worked, null, null, null, leavers, columns);
  }
}
