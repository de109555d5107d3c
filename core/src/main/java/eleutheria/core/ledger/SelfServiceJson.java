package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import java.util.List;
import java.util.Map;

/** Facts of what people may bring to their own portal as JSON. */
final class SelfServiceJson {
  private SelfServiceJson() {}

  static Map<String, Object> key(FactKey.OfSelfService key) {
    return switch (key) {
      case FactKey.SelfService k -> Map.of();
      case FactKey.Approved k -> Map.of("listing", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfSelfService key, Object json) {
    return switch (key) {
      case FactKey.SelfService k ->
          new FactValue.SelfService(
              ((List<?>) json).stream().map(each -> FactJson.rule((Map<?, ?>) each)).toList());
      case FactKey.Approved k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Listing(
            text(map, "name"),
            text(map, "address"),
            text(map, "line"),
            text(map, "category"),
            text(map, "picture"),
            text(map, "hue"));
      }
    };
  }
}
