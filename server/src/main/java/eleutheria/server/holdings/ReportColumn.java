package eleutheria.server.holdings;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A column that a query can answer with. */
enum ReportColumn {
  PERSON("person", "Person"),
  USER_NAME("userName", "Sign-in name"),
  UNIT("unit", "Unit"),
  SITE("site", "Site"),
  TITLE("title", "Title"),
  STATUS("status", "Status"),
  APP("app", "Application"),
  ROLE("role", "Entitlement"),
  SENSITIVITY("sensitivity", "Sensitivity"),
  GROUNDS("grounds", "Grounds"),
  THROUGH("through", "Through"),
  GIVEN_BY("givenBy", "Granted by"),
  REASON("reason", "Reason"),
  SINCE("since", "Held since"),
  UNTIL("until", "Until"),
  LAST_USED("lastUsed", "Last used"),
  CHANGE("change", "Change"),
  ON("on", "On"),
  BY("by", "By"),
  HELD("held", "Held"),
  CLASHES("clashes", "Also holds"),
  STATED("stated", "Stated last day"),
  LEFT("left", "Ended"),
  COST("cost", "Price per seat and month");

  private final String word;
  private final String label;

  ReportColumn(String word, String label) {
    this.word = word;
    this.label = label;
  }

  /** As it stands in queries and in the heads of files. */
  String word() {
    return word;
  }

  /** As it is read. */
  String label() {
    return label;
  }

  static Optional<ReportColumn> of(String word) {
    return Arrays.stream(values()).filter(c -> c.word.equals(word)).findFirst();
  }

  /** What is answered with where nothing else is wanted. */
  static List<ReportColumn> usual(SpecForm spec, AskedForm asked) {
    if (spec.leavers() != null) {
      return List.of(PERSON, UNIT, APP, ROLE, STATED, LEFT);
    }
    if (asked.against() != null) {
      return List.of(PERSON, UNIT, APP, ROLE, CHANGE, ON, BY, GROUNDS);
    }
    if (asked.from() != null) {
      return List.of(PERSON, UNIT, APP, ROLE, HELD);
    }
    if (asked.only("conflict") || asked.only("both")) {
      return List.of(PERSON, UNIT, APP, ROLE, CLASHES, GROUNDS);
    }
    return List.of(PERSON, UNIT, APP, ROLE, GROUNDS, SINCE, UNTIL, LAST_USED);
  }

  /** The columns of a query; words that name none are passed over. */
  static List<ReportColumn> of(SpecForm spec, AskedForm asked) {
    @Nullable List<String> wanted = spec.columns();
    return wanted == null || wanted.isEmpty()
        ? usual(spec, asked)
        : wanted.stream().flatMap(w -> of(w).stream()).distinct().toList();
  }
}
