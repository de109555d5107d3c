package eleutheria.verifier;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Reads one line of JSON that must be in the canonical form of RFC 8785, limited to what the ledger
 * uses: objects with sorted names, arrays, texts, whole numbers, true and false. Anything else,
 * even a space, is refused; so a line has exactly one spelling.
 */
final class StrictJson {
  private final String text;
  private int at;

  private StrictJson(String text) {
    this.text = text;
  }

  /** What is wrong with a line. */
  static final class Malformed extends Exception {
    Malformed(String message) {
      super(message);
    }
  }

  static Object read(String line) throws Malformed {
    StrictJson reader = new StrictJson(line);
    Object value = reader.value();
    if (reader.at != line.length()) {
      throw new Malformed("something follows the value");
    }
    return value;
  }

  /** The text between two offsets of the members that were read: what was hashed. */
  static String raw(String line, String member) throws Malformed {
    StrictJson reader = new StrictJson(line);
    reader.expect('{');
    while (true) {
      String name = reader.string();
      reader.expect(':');
      int from = reader.at;
      reader.value();
      if (name.equals(member)) {
        return line.substring(from, reader.at);
      }
      reader.expect(',');
    }
  }

  /** The text of each element of an array. */
  static List<String> elements(String array) throws Malformed {
    StrictJson reader = new StrictJson(array);
    List<String> elements = new ArrayList<>();
    reader.expect('[');
    if (reader.peek() == ']') {
      return elements;
    }
    while (true) {
      int from = reader.at;
      reader.value();
      elements.add(array.substring(from, reader.at));
      if (reader.peek() == ']') {
        return elements;
      }
      reader.expect(',');
    }
  }

  private Object value() throws Malformed {
    char c = peek();
    return switch (c) {
      case '{' -> object();
      case '[' -> array();
      case '"' -> string();
      case 't' -> word("true", Boolean.TRUE);
      case 'f' -> word("false", Boolean.FALSE);
      default -> number();
    };
  }

  private Object word(String word, Object value) throws Malformed {
    for (int i = 0; i < word.length(); i++) {
      expect(word.charAt(i));
    }
    return value;
  }

  private Map<String, Object> object() throws Malformed {
    Map<String, Object> map = new LinkedHashMap<>();
    expect('{');
    if (peek() == '}') {
      at++;
      return map;
    }
    String last = null;
    while (true) {
      String name = string();
      if (last != null && last.compareTo(name) >= 0) {
        throw new Malformed("names are not sorted");
      }
      last = name;
      expect(':');
      map.put(name, value());
      if (peek() == '}') {
        at++;
        return map;
      }
      expect(',');
    }
  }

  private List<Object> array() throws Malformed {
    List<Object> list = new ArrayList<>();
    expect('[');
    if (peek() == ']') {
      at++;
      return list;
    }
    while (true) {
      list.add(value());
      if (peek() == ']') {
        at++;
        return list;
      }
      expect(',');
    }
  }

  private Long number() throws Malformed {
    int from = at;
    while (at < text.length() && Character.isDigit(text.charAt(at)) && text.charAt(at) < 0x80) {
      at++;
    }
    String digits = text.substring(from, at);
    if (digits.isEmpty()
        || digits.length() > 15
        || (digits.length() > 1 && digits.startsWith("0"))) {
      throw new Malformed("no number at " + from);
    }
    return Long.valueOf(digits);
  }

  private String string() throws Malformed {
    expect('"');
    StringBuilder out = new StringBuilder();
    while (true) {
      char c = next();
      if (c == '"') {
        return out.toString();
      }
      if (c < 0x20) {
        throw new Malformed("a control character");
      }
      out.append(c == '\\' ? escaped() : c);
    }
  }

  private char escaped() throws Malformed {
    char c = next();
    int simple = "\"\\bfnrt".indexOf(c);
    if (simple >= 0) {
      return "\"\\\b\f\n\r\t".charAt(simple);
    }
    if (c != 'u') {
      throw new Malformed("an escape that is not canonical");
    }
    int code = 0;
    for (int i = 0; i < 4; i++) {
      int digit = "0123456789abcdef".indexOf(next());
      if (digit < 0) {
        throw new Malformed("an escape that is not canonical");
      }
      code = code * 16 + digit;
    }
    if (code >= 0x20 || "\b\f\n\r\t".indexOf(code) >= 0) {
      throw new Malformed("an escape that is not canonical");
    }
    return (char) code;
  }

  private char peek() throws Malformed {
    if (at >= text.length()) {
      throw new Malformed("the line is cut off");
    }
    return text.charAt(at);
  }

  private char next() throws Malformed {
    char c = peek();
    at++;
    return c;
  }

  private void expect(char wanted) throws Malformed {
    if (next() != wanted) {
      throw new Malformed("“" + wanted + "” is expected at " + (at - 1));
    }
  }

  /** A member of an object that must be there and of this kind. */
  static <T> T member(@Nullable Object object, String name, Class<T> type) throws Malformed {
    if (object instanceof Map<?, ?> map && type.isInstance(map.get(name))) {
      return type.cast(map.get(name));
    }
    throw new Malformed("“" + name + "” is missing");
  }
}
