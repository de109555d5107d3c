package eleutheria.core.ledger;

import eleutheria.core.facts.Duty;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/** Facts of who decides requests as JSON. */
final class RequestJson {
  private RequestJson() {}

  static Map<String, Object> key(FactKey.OfRequests key) {
    return switch (key) {
      case FactKey.Deputy k ->
          Map.of("deputy", FactJson.id(k.deputy()), "person", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfRequests key, Object json) {
    return switch (key) {
      case FactKey.Deputy k -> {
        TreeSet<Duty> duties = new TreeSet<>();
        for (Object word : (List<?>) json) {
          duties.add(
              Duty.of(String.valueOf(word))
                  .orElseThrow(() -> new IllegalArgumentException("unknown duty: " + word)));
        }
        yield new FactValue.Duties(duties);
      }
    };
  }
}
