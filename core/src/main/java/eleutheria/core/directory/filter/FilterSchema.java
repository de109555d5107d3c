package eleutheria.core.directory.filter;

import eleutheria.core.facts.ValueType;
import java.util.Collection;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Which attributes a filter may name; names are read in any case (RFC 7643, section 2.1). */
public final class FilterSchema {
  private final Map<String, Field> fields = new TreeMap<>();

  public record Field(String name, ValueType type) {}

  public FilterSchema(Collection<Field> fields) {
    fields.forEach(field -> this.fields.put(field.name().toLowerCase(Locale.ROOT), field));
  }

  public Optional<Field> field(String name) {
    return Optional.ofNullable(fields.get(name.toLowerCase(Locale.ROOT)));
  }

  /** "; did you mean “unit”" where a name is near, else the names there are. */
  String suggestion(String name) {
    String wanted = name.toLowerCase(Locale.ROOT);
    for (Map.Entry<String, Field> entry : fields.entrySet()) {
      String known = entry.getKey();
      if (known.startsWith(wanted) || wanted.startsWith(known) || oneApart(known, wanted)) {
        return "; did you mean “" + entry.getValue().name() + "”";
      }
    }
    return "; there are "
        + String.join(", ", fields.values().stream().map(Field::name).sorted().toList());
  }

  private static boolean oneApart(String one, String other) {
    if (Math.abs(one.length() - other.length()) > 1) {
      return false;
    }
    int head = 0;
    while (head < Math.min(one.length(), other.length())
        && one.charAt(head) == other.charAt(head)) {
      head++;
    }
    int tail = 0;
    while (tail < Math.min(one.length(), other.length()) - head
        && one.charAt(one.length() - 1 - tail) == other.charAt(other.length() - 1 - tail)) {
      tail++;
    }
    int apart = Math.max(one.length(), other.length()) - head - tail;
    boolean swapped =
        apart == 2
            && one.length() == other.length()
            && one.charAt(head) == other.charAt(head + 1)
            && one.charAt(head + 1) == other.charAt(head);
    return apart <= 1 || swapped;
  }
}
