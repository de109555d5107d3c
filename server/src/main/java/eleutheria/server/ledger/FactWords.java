package eleutheria.server.ledger;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * What a fact says, as people read it. Exhaustive over the kinds of values, so that none is told as
 * it is written.
 */
final class FactWords {
  private final ThingNames names;

  FactWords(ThingNames names) {
    this.names = names;
  }

  /** Empty where the key alone says it: somebody is in a group, or owns something. */
  String tell(FactKey key, FactValue value) {
    if (key instanceof FactKey.FrontRank || key instanceof FactKey.Fronted) {
      return "its place in the order";
    }
    return switch (value) {
      case FactValue.Present v -> "";
      case FactValue.Text v -> v.text();
      case FactValue.PersonName v -> v.displayed();
      case FactValue.Standing v ->
          v.stated() == null
              ? v.status().word()
              : v.status().word() + ", last day " + v.stated() + " according to the source";
      case FactValue.Ref v -> names.of(v.object());
      case FactValue.Form.Listed v -> "listed";
      case FactValue.Form.Mirrored v -> "mirrored from " + names.of(v.source());
      case FactValue.Form.ByFilter v -> names.words().tell(v.filter());
      case FactValue.Definition v ->
          listed(
              v.label(),
              v.type().word(),
              v.many() ? "several values" : "",
              v.personal() ? "personal" : "",
              v.source() == null ? "" : "from " + names.of(v.source()));
      case FactValue.Terms v ->
          v.name() + ": " + (v.powers().size() == 1 ? "1 power" : v.powers().size() + " powers");
      case FactValue.Delivery v -> v.name();
      case FactValue.Profile v -> listed(v.name(), v.line(), v.sensitivity().word());
      case FactValue.AppState v -> state(v);
      case FactValue.WayIn.Link v -> "opens " + v.address();
      case FactValue.Seats v ->
          "%d seats at %s %s a month each"
              .formatted(v.count(), BigDecimal.valueOf(v.price(), 2).toPlainString(), v.currency());
      case FactValue.Role v ->
          listed(
              v.name(),
              v.line(),
              v.sensitivity().word(),
              v.requestable() ? "requestable" : "not requestable");
      case FactValue.Given v -> names.given(v);
      case FactValue.TileFace v ->
          listed(v.name(), v.line(), v.address().isEmpty() ? "" : "opens " + v.address());
      case FactValue.Brand v ->
          listed(
              v.name().isEmpty() ? "no name of its own" : v.name(),
              v.mark().isEmpty() ? "no mark" : "a mark of its own",
              "colour " + v.band(),
              "shown as " + v.form() + (v.tight() ? ", closely spaced" : ""));
      case FactValue.SelfService v -> selfService(v);
      case FactValue.Listing v -> listed(v.name(), v.category(), v.address());
      case FactValue.FrontFace v ->
          listed(
              v.name(), v.only() ? "only the collections listed" : "", v.waves() ? "in waves" : "");
      case FactValue.CollectionFace v -> listed(v.name(), v.line());
      case FactValue.Separation v ->
          v.name() + ": " + titles(v.one()) + " apart from " + titles(v.other());
      case FactValue.Route v -> names.route(v);
      case FactValue.RequestForm v -> ThingNames.form(v);
      case FactValue.Duties v ->
          v.duties().stream()
              .map(
                  duty ->
                      switch (duty) {
                        case TEAM -> "requests of the team";
                        case APPS -> "requests for their apps";
                      })
              .collect(Collectors.joining(" and "));
      case FactValue.Audience v -> names.audience(v);
      case FactValue.Place v ->
          v.offered() ? "offered to people who lack it" : "shown to people who hold it";
    };
  }

  private static String state(FactValue.AppState value) {
    return switch (value.state()) {
      case PROPOSED -> "proposed";
      case OPEN -> "open";
      case PAUSED -> "paused";
      case BLOCKED -> "blocked";
      case RETIRED -> "retired";
    };
  }

  private String selfService(FactValue.SelfService value) {
    List<String> told = new ArrayList<>();
    value
        .rules()
        .forEach(
            rule ->
                told.add(
                    names.audience(rule.audience())
                        + ": "
                        + switch (rule.links()) {
                          case NOTHING -> "no links of their own";
                          case APPROVED -> "links from the approved list";
                          case ANYTHING -> "any link";
                        }
                        + (rule.suggest() ? ", may suggest apps" : "")));
    return told.isEmpty() ? "nothing for anybody" : String.join("; ", told);
  }

  private String titles(Iterable<eleutheria.core.facts.EntitlementId> entitlements) {
    List<String> found = new ArrayList<>();
    entitlements.forEach(id -> found.add(names.of(id)));
    return String.join(", ", found);
  }

  private static String listed(String... parts) {
    return String.join(
        ", ", java.util.Arrays.stream(parts).filter(part -> !part.isBlank()).toList());
  }
}
