package eleutheria.core.ledger;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Writes JSON in the canonical form of RFC 8785: members sorted by UTF-16 code units (section
 * 3.2.3), no white space, and the shortest escapes (section 3.2.2.2). Numbers are whole and within
 * ±(2^53 − 1), where the form of section 3.2.2.3 is plain decimal digits; everything else that is a
 * quantity travels as text.
 */
public final class CanonicalJson {
  private static final long LARGEST = (1L << 53) - 1;

  private CanonicalJson() {}

  /**
   * @param value a map with text keys, list, text, integer, long, boolean or null
   * @throws IllegalArgumentException for any other value, a number out of range, or text with a
   *     lone surrogate (RFC 8785, section 3.2.2.2, refuses it)
   */
  public static String write(@Nullable Object value) {
    StringBuilder out = new StringBuilder(128);
    write(value, out);
    return out.toString();
  }

  private static void write(@Nullable Object value, StringBuilder out) {
    switch (value) {
      case null -> out.append("null");
      case String text -> text(text, out);
      case Boolean bool -> out.append(bool.booleanValue());
      case Integer number -> out.append(number.intValue());
      case Long number -> number(number, out);
      case Map<?, ?> map -> object(map, out);
      case List<?> list -> array(list, out);
      default -> throw new IllegalArgumentException("no canonical form for " + value.getClass());
    }
  }

  private static void number(long number, StringBuilder out) {
    if (number > LARGEST || number < -LARGEST) {
      throw new IllegalArgumentException("beyond 2^53 - 1: " + number);
    }
    out.append(number);
  }

  private static void object(Map<?, ?> map, StringBuilder out) {
    TreeMap<String, @Nullable Object> sorted = new TreeMap<>();
    map.forEach((key, value) -> sorted.put((String) key, value));
    out.append('{');
    boolean first = true;
    for (Map.Entry<String, @Nullable Object> member : sorted.entrySet()) {
      if (!first) {
        out.append(',');
      }
      first = false;
      text(member.getKey(), out);
      out.append(':');
      write(member.getValue(), out);
    }
    out.append('}');
  }

  private static void array(List<?> list, StringBuilder out) {
    out.append('[');
    for (int i = 0; i < list.size(); i++) {
      if (i > 0) {
        out.append(',');
      }
      write(list.get(i), out);
    }
    out.append(']');
  }

  private static void text(String text, StringBuilder out) {
    out.append('"');
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      switch (c) {
        case '"' -> out.append("\\\"");
        case '\\' -> out.append("\\\\");
        case '\b' -> out.append("\\b");
        case '\t' -> out.append("\\t");
        case '\n' -> out.append("\\n");
        case '\f' -> out.append("\\f");
        case '\r' -> out.append("\\r");
        default -> {
          if (c < 0x20) {
            out.append(String.format("\\u%04x", (int) c));
          } else if (Character.isSurrogate(c)) {
            i = pair(text, i, out);
          } else {
            out.append(c);
          }
        }
      }
    }
    out.append('"');
  }

  private static int pair(String text, int at, StringBuilder out) {
    boolean whole =
        Character.isHighSurrogate(text.charAt(at))
            && at + 1 < text.length()
            && Character.isLowSurrogate(text.charAt(at + 1));
    if (!whole) {
      throw new IllegalArgumentException("lone surrogate at " + at);
    }
    out.append(text, at, at + 2);
    return at + 1;
  }
}
