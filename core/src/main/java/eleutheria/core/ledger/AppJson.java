package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.number;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Sensitivity;
import java.util.List;
import java.util.Map;

/** Facts of applications and their entitlements as JSON. */
final class AppJson {
  private AppJson() {}

  static Map<String, Object> key(FactKey.OfApps key) {
    return switch (key) {
      case FactKey.Application k -> Map.of("application", FactJson.id(k.subject()));
      case FactKey.AppState k -> Map.of("application", FactJson.id(k.subject()));
      case FactKey.WayIn k -> Map.of("application", FactJson.id(k.subject()));
      case FactKey.Seats k -> Map.of("application", FactJson.id(k.subject()));
      case FactKey.Entitlement k -> Map.of("entitlement", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfApps key, Object json) {
    return switch (key) {
      case FactKey.Application k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Profile(
            text(map, "name"),
            text(map, "line"),
            text(map, "picture"),
            text(map, "hue"),
            Sensitivity.of(text(map, "sensitivity")),
            text(map, "contact"),
            map.get("nicknames") instanceof List<?> all
                ? all.stream().map(String.class::cast).toList()
                : List.of());
      }
      case FactKey.AppState k -> new FactValue.AppState(ApplicationState.of((String) json));
      case FactKey.WayIn k -> new FactValue.WayIn.Link(text((Map<?, ?>) json, "address"));
      case FactKey.Seats k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Seats(
            number(map, "count").intValue(),
            number(map, "price").longValue(),
            text(map, "currency"));
      }
      case FactKey.Entitlement k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Role(
            ApplicationId.parse(text(map, "application")),
            text(map, "name"),
            text(map, "line"),
            Sensitivity.of(text(map, "sensitivity")),
            Boolean.TRUE.equals(map.get("requestable")));
      }
    };
  }
}
