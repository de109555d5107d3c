package eleutheria.server.holdings;

import eleutheria.core.ledger.CanonicalJson;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What queries ask, as canonical JSON (RFC 8785) and back. */
@Component
class Specs {
  private final JsonMapper json;

  Specs(JsonMapper json) {
    this.json = json;
  }

  String write(SpecForm spec) {
    return CanonicalJson.write(given(json.convertValue(spec, Map.class)));
  }

  SpecForm read(String spec) {
    return json.readValue(spec, SpecForm.class);
  }

  /** Without what is not given. */
  private static Map<String, Object> given(Map<?, ?> map) {
    Map<String, Object> found = new TreeMap<>();
    map.forEach(
        (name, value) -> {
          Object kept = value instanceof Map<?, ?> inner ? given(inner) : value;
          if (kept != null && !nothing(kept)) {
            found.put(String.valueOf(name), kept);
          }
        });
    if (map.containsKey("asked") && !found.containsKey("asked")) {
      found.put("asked", Map.of());
    }
    return found;
  }

  private static boolean nothing(@Nullable Object value) {
    return value instanceof Collection<?> list && list.equals(List.of())
        || value instanceof Map<?, ?> inner && inner.isEmpty();
  }
}
