package eleutheria.server.holdings;

import eleutheria.server.use.UseBook;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Which holdings are asked for, as it stands in addresses and in saved queries. What is not given
 * does not narrow.
 *
 * @param apps only entitlements of these applications
 * @param entitlements only these
 * @param sensitivities only entitlements of these sensitivities
 * @param where a filter over the holder's attributes (RFC 7644, section 3.4.2.2)
 * @param only marks that a holding must have, all of them: unused; conflict, breaking a separation
 *     rule, which nobody accepted; both, the same, accepted or not; hand, given by an
 *     administrator; ending
 * @param days for how many days something has to have been left alone to count as unused, 90 unless
 *     given; as long as events of use are kept
 * @param endsBefore the day before whose beginning something must end by itself; in 30 days unless
 *     given
 * @param asOf the moment; now unless given
 * @param against another moment: whoever gained or lost something from then until the first
 * @param from the first day of a span: whoever held something at any moment of it
 * @param until its last day
 */
public record AskedForm(
    @Nullable @Size(max = 200) List<UUID> apps,
    @Nullable @Size(max = 500) List<UUID> entitlements,
    @Nullable @Size(max = 3) List<@Pattern(regexp = "low|medium|high") String> sensitivities,
    @Nullable @Size(max = 2000) String where,
    @Nullable @Size(max = 5)
        List<@Pattern(regexp = "unused|conflict|both|hand|ending") String> only,
    @Nullable @Min(1) @Max(730) Integer days,
    @Nullable LocalDate endsBefore,
    @Nullable Instant asOf,
    @Nullable Instant against,
    @Nullable LocalDate from,
    @Nullable LocalDate until) {
  static final AskedForm ALL =
      new AskedForm(null, null, null, null, null, null, null, null, null, null, null);

  boolean only(String mark) {
    return only != null && only.contains(mark);
  }

  int unusedDays() {
    return days == null ? UseBook.DAYS : days;
  }

  /** The same of another moment. */
  AskedForm at(@Nullable Instant moment) {
    return new AskedForm(
        apps,
        entitlements,
        sensitivities,
        where,
        only,
        days,
        endsBefore,
        moment,
        against,
        from,
        until);
  }
}
