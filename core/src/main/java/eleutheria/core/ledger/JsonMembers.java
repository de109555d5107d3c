package eleutheria.core.ledger;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Members that a JSON object must have, each as what it must be. */
public final class JsonMembers {
  private JsonMembers() {}

  public static String text(Map<?, ?> object, String name) {
    return member(object, name, String.class);
  }

  public static Map<?, ?> object(Map<?, ?> object, String name) {
    return member(object, name, Map.class);
  }

  public static List<?> list(Map<?, ?> object, String name) {
    return member(object, name, List.class);
  }

  public static Number number(Map<?, ?> object, String name) {
    return member(object, name, Number.class);
  }

  private static <T> T member(Map<?, ?> object, String name, Class<T> type) {
    @Nullable Object value = object.get(name);
    if (!type.isInstance(value)) {
      throw new IllegalArgumentException(
          "“" + name + "” is missing, or is no " + type.getSimpleName() + ": " + object.keySet());
    }
    return type.cast(value);
  }
}
