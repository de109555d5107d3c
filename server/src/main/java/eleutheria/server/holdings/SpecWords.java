package eleutheria.server.holdings;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.filter.FilterWords;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/** What a query asks, as people read it. */
final class SpecWords {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.UK);
  private static final Map<String, String> PERIODS =
      Map.of(
          "last-month", "last month", "last-quarter", "last quarter", "next-month", "next month");

  private SpecWords() {}

  static String tell(SpecForm spec, AppsView apps, FilterWords filters, ZoneId zone) {
    AskedForm asked = spec.asked();
    List<String> parts = new ArrayList<>();
    if (asked.apps() != null && !asked.apps().isEmpty()) {
      parts.add(
          asked.apps().stream()
              .map(
                  id -> apps.application(new ApplicationId(id)).map(a -> a.name()).orElse("an app"))
              .collect(Collectors.joining(", ")));
    }
    if (asked.entitlements() != null && !asked.entitlements().isEmpty()) {
      parts.add(
          asked.entitlements().size() <= 3
              ? asked.entitlements().stream()
                  .map(
                      id ->
                          apps.entitlement(new EntitlementId(id))
                              .map(Entitlement::title)
                              .orElse("an entitlement"))
                  .collect(Collectors.joining(", "))
              : asked.entitlements().size() + " entitlements");
    }
    if (asked.sensitivities() != null && !asked.sensitivities().isEmpty()) {
      parts.add(String.join(" or ", asked.sensitivities()) + " sensitivity");
    }
    if (asked.where() != null && !asked.where().isBlank()) {
      parts.add(filters.tell(asked.where()));
    }
    if (asked.only("unused")) {
      parts.add("unused for %d days".formatted(asked.unusedDays()));
    }
    if (asked.only("conflict") || asked.only("both")) {
      parts.add("in conflict with a separation rule");
    }
    if (asked.only("hand")) {
      parts.add("granted by an administrator");
    }
    if (spec.ends() != null) {
      parts.add("ending by the end of " + PERIODS.get(spec.ends()));
    } else if (asked.only("ending")) {
      parts.add(
          asked.endsBefore() == null
              ? "ending within 30 days"
              : "ending before " + DAY.format(asked.endsBefore()));
    }
    if (spec.leavers() != null) {
      parts.add("what leavers held after their stated last day, in " + PERIODS.get(spec.leavers()));
    } else if (spec.since() != null) {
      parts.add("gains and losses in " + PERIODS.get(spec.since()));
    } else if (asked.against() != null) {
      parts.add("gains and losses since " + DAY.format(LocalDate.ofInstant(asked.against(), zone)));
    }
    if (spec.during() != null) {
      parts.add("at any time in " + PERIODS.get(spec.during()));
    } else if (asked.from() != null && asked.until() != null) {
      parts.add(
          "at any time from %s to %s"
              .formatted(DAY.format(asked.from()), DAY.format(asked.until())));
    }
    return parts.isEmpty() ? "every holding" : String.join("; ", parts);
  }
}
