package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantSource;
import java.util.Map;

/** Facts of grants and separation rules as JSON. */
final class AccessJson {
  private AccessJson() {}

  static Map<String, Object> key(FactKey.OfAccess key) {
    return switch (key) {
      case FactKey.Grant k -> Map.of("grant", FactJson.id(k.subject()));
      case FactKey.GrantReason k -> Map.of("grant", FactJson.id(k.subject()));
      case FactKey.SeparationRule k -> Map.of("rule", FactJson.id(k.subject()));
      case FactKey.Excepted k ->
          Map.of(
              "one", FactJson.id(k.one()),
              "other", FactJson.id(k.other()),
              "person", FactJson.id(k.person()),
              "rule", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfAccess key, Object json) {
    return switch (key) {
      case FactKey.Grant k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Given(
            FactJson.subject(object(map, "subject")),
            EntitlementId.parse(text(map, "entitlement")),
            GrantSource.of(text(map, "source")));
      }
      case FactKey.GrantReason k -> new FactValue.Text((String) json);
      case FactKey.SeparationRule k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Separation(
            text(map, "name"),
            text(map, "why"),
            FactJson.entitlements(map, "one"),
            FactJson.entitlements(map, "other"));
      }
      case FactKey.Excepted k -> FactValue.Present.PRESENT;
    };
  }
}
