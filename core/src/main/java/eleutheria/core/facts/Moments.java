package eleutheria.core.facts;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;

/** Instants of facts: UTC, in whole microseconds, with an open end that is far but finite. */
public final class Moments {
  /** The open end: 9999-12-31T00:00:00Z. */
  public static final Instant FOREVER = Instant.parse("9999-12-31T00:00:00Z");

  private static final DateTimeFormatter TEXT =
      DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm:ss.SSSSSS'Z'").withZone(ZoneOffset.UTC);

  private Moments() {}

  /** The instant of the next act: never before the clock, always after the last act. */
  public static Instant next(Instant clock, Instant last) {
    Instant now = clock.truncatedTo(ChronoUnit.MICROS);
    Instant earliest = last.plus(1, ChronoUnit.MICROS);
    return now.isBefore(earliest) ? earliest : now;
  }

  /** ISO 8601 with exactly six digits of a second: the one text of an instant in the ledger. */
  public static String text(Instant instant) {
    return TEXT.format(instant);
  }

  public static Instant parse(String text) {
    return Instant.parse(text);
  }

  /** The first moment of a day in the organisation's zone. */
  public static Instant startOf(LocalDate day, ZoneId zone) {
    return day.atStartOfDay(zone).toInstant();
  }

  /** "Until this day" includes it: the first moment of the day after. */
  public static Instant endOf(LocalDate day, ZoneId zone) {
    return startOf(day.plusDays(1), zone);
  }
}
