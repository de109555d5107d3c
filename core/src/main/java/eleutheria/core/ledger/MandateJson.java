package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;

/** Facts of mandates as JSON. */
final class MandateJson {
  private MandateJson() {}

  static Map<String, Object> key(FactKey.OfMandates key) {
    return switch (key) {
      case FactKey.Mandate k -> Map.of("mandate", FactJson.id(k.subject()));
      case FactKey.MandateHeld k ->
          Map.of("holder", k.holder().text(), "mandate", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfMandates key, Object json) {
    return switch (key) {
      case FactKey.MandateHeld k -> FactValue.Present.PRESENT;
      case FactKey.Mandate k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        SortedSet<String> powers = FactJson.set(map, "powers");
        yield new FactValue.Terms(
            text(map, "name"),
            text(map, "line"),
            powers == null ? new TreeSet<>() : powers,
            FactJson.reach(object(map, "reach")));
      }
    };
  }
}
