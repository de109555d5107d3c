package eleutheria.core.directory.filter;

import eleutheria.core.facts.ValueType;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import java.util.Optional;

/**
 * Reads the filter syntax of RFC 7644, section 3.4.2.2: {@code not} binds before {@code and},
 * {@code and} before {@code or}; words are read in any case. Attribute paths with a sub-attribute
 * or a value filter in brackets are refused, since attributes here are flat.
 */
public final class FilterParser {
  /** The longest filter, in characters, and the deepest nesting of parentheses. */
  public static final int LONGEST = 4_000;

  private static final int DEEPEST = 50;

  private final String text;
  private final FilterSchema schema;
  private int at;
  private int depth;

  private FilterParser(String text, FilterSchema schema) {
    this.text = text;
    this.schema = schema;
  }

  /** The outcome of reading: a filter, or what is wrong with the text and where. */
  public sealed interface Parsed {
    record Good(Filter filter) implements Parsed {}

    /**
     * @param from offset of the first character that is wrong, from 0
     * @param until offset behind the last one; equal to {@code from} where something is missing
     */
    record Bad(String message, int from, int until) implements Parsed {}
  }

  public static Parsed parse(String text, FilterSchema schema) {
    if (text.length() > LONGEST) {
      return new Parsed.Bad(
          "A filter has at most " + LONGEST + " characters; this has " + text.length() + ".",
          LONGEST,
          text.length());
    }
    FilterParser parser = new FilterParser(text, schema);
    try {
      Filter filter = parser.or();
      parser.space();
      if (parser.at < text.length()) {
        int from = parser.at;
        throw parser.wrong(
            "“and” or “or” is expected after a complete comparison.", from, parser.wordEnd(from));
      }
      return new Parsed.Good(filter);
    } catch (Wrong wrong) {
      return new Parsed.Bad(wrong.message, wrong.from, wrong.until);
    }
  }

  private Filter or() {
    Filter left = and();
    while (word("or")) {
      left = new Filter.Or(left, and());
    }
    return left;
  }

  private Filter and() {
    Filter left = not();
    while (word("and")) {
      left = new Filter.And(left, not());
    }
    return left;
  }

  private Filter not() {
    int start = at;
    if (word("not")) {
      space();
      if (at >= text.length() || text.charAt(at) != '(') {
        throw wrong("“not” needs a parenthesis: not (…).", start, at);
      }
      return new Filter.Not(parenthesis());
    }
    space();
    if (at < text.length() && text.charAt(at) == '(') {
      return parenthesis();
    }
    return comparison();
  }

  private Filter parenthesis() {
    int open = at++;
    if (++depth > DEEPEST) {
      throw wrong("Parentheses nest at most " + DEEPEST + " deep.", open, open + 1);
    }
    Filter inner = or();
    space();
    if (at >= text.length() || text.charAt(at) != ')') {
      throw at < text.length()
          ? wrong("“and”, “or” or a closing parenthesis is expected here.", at, wordEnd(at))
          : wrong("This parenthesis is not closed.", open, open + 1);
    }
    at++;
    depth--;
    return inner;
  }

  private Filter comparison() {
    space();
    int from = at;
    String name = name();
    Optional<FilterSchema.Field> field = schema.field(name);
    if (field.isEmpty()) {
      throw wrong("There is no attribute “" + name + "”" + schema.suggestion(name) + ".", from, at);
    }
    space();
    int operatorFrom = at;
    String word = operatorWord();
    if (word.equals("pr")) {
      return new Filter.Has(field.get().name());
    }
    Filter.Operator operator = operator(word, operatorFrom);
    ValueType type = field.get().type();
    refuse(type, operator, operatorFrom, at);
    space();
    String written = literal(type);
    return new Filter.Compare(
        field.get().name(),
        type,
        operator,
        type == ValueType.TEXT ? Folding.fold(written) : written,
        written);
  }

  private String name() {
    int from = at;
    while (at < text.length() && nameCharacter(text.charAt(at))) {
      at++;
    }
    if (from == at) {
      throw wrong("An attribute's name is expected here.", from, Math.min(from + 1, text.length()));
    }
    if (at < text.length() && (text.charAt(at) == '.' || text.charAt(at) == '[')) {
      throw wrong(
          "Attributes have no parts here; “" + text.substring(from, at) + "” is used alone.",
          at,
          wordEnd(at));
    }
    return text.substring(from, at);
  }

  /** ATTRNAME of RFC 7643, section 2.1. */
  private static boolean nameCharacter(char c) {
    return c == '-' || c == '_' || c == '$' || (c < 0x80 && Character.isLetterOrDigit(c));
  }

  private String operatorWord() {
    int from = at;
    while (at < text.length() && Character.isLetter(text.charAt(at))) {
      at++;
    }
    return text.substring(from, at).toLowerCase(Locale.ROOT);
  }

  private Filter.Operator operator(String word, int from) {
    for (Filter.Operator operator : Filter.Operator.values()) {
      if (operator.name().equalsIgnoreCase(word)) {
        return operator;
      }
    }
    throw wrong(
        "One of eq, ne, co, sw, ew, gt, ge, lt, le or pr is expected here.",
        from,
        Math.max(at, wordEnd(from)));
  }

  private void refuse(ValueType type, Filter.Operator operator, int from, int until) {
    boolean part =
        operator == Filter.Operator.CO
            || operator == Filter.Operator.SW
            || operator == Filter.Operator.EW;
    boolean order =
        switch (operator) {
          case GT, GE, LT, LE -> true;
          default -> false;
        };
    boolean refused =
        switch (type) {
          case TEXT, DAY -> false;
          case NUMBER -> part;
          case YESNO, PERSON -> part || order;
        };
    if (refused) {
      throw wrong(
          "“" + operator.name().toLowerCase(Locale.ROOT) + "” cannot compare " + type.word() + ".",
          from,
          until);
    }
  }

  private String literal(ValueType type) {
    int from = at;
    if (at >= text.length()) {
      throw wrong("A value is missing at the end.", from, from);
    }
    boolean quoted = text.charAt(at) == '"';
    String value = quoted ? string() : bareWord();
    switch (type) {
      case TEXT -> {
        if (!quoted) {
          throw wrong("A text stands in double quotes: \"" + value + "\".", from, at);
        }
        return value;
      }
      case PERSON -> {
        if (!quoted) {
          throw wrong("Put a person's id in double quotes.", from, at);
        }
        return value;
      }
      case DAY -> {
        try {
          return LocalDate.parse(value).toString();
        } catch (DateTimeParseException e) {
          throw wrong("Write a day as \"2026-09-30\".", from, at);
        }
      }
      case NUMBER -> {
        try {
          return new BigDecimal(value).toString();
        } catch (NumberFormatException e) {
          throw wrong("“" + value + "” is not a number.", from, at);
        }
      }
      case YESNO -> {
        if (!value.equals("true") && !value.equals("false")) {
          throw wrong("Yes is true and no is false here.", from, at);
        }
        return value;
      }
    }
    throw new IllegalStateException("all types are handled");
  }

  /** A JSON string (RFC 8259, section 7). */
  private String string() {
    int from = at++;
    StringBuilder out = new StringBuilder();
    while (at < text.length()) {
      char c = text.charAt(at++);
      if (c == '"') {
        return out.toString();
      }
      out.append(c == '\\' ? escaped(from) : c);
    }
    throw wrong("This quote is not closed.", from, from + 1);
  }

  private char escaped(int from) {
    if (at >= text.length()) {
      throw wrong("This quote is not closed.", from, from + 1);
    }
    char c = text.charAt(at++);
    return switch (c) {
      case '"', '\\', '/' -> c;
      case 'b' -> '\b';
      case 'f' -> '\f';
      case 'n' -> '\n';
      case 'r' -> '\r';
      case 't' -> '\t';
      case 'u' -> {
        try {
          char code =
              (char) Integer.parseInt(text.substring(at, Math.min(at + 4, text.length())), 16);
          at += 4;
          yield code;
        } catch (NumberFormatException e) {
          throw wrong(
              "Four hexadecimal digits follow \\u.", at - 2, Math.min(at + 4, text.length()));
        }
      }
      default -> throw wrong("\\" + c + " is no escape.", at - 2, at);
    };
  }

  private String bareWord() {
    int from = at;
    at = wordEnd(at);
    return text.substring(from, at);
  }

  private boolean word(String word) {
    space();
    int end = at + word.length();
    boolean found =
        end <= text.length()
            && text.substring(at, end).equalsIgnoreCase(word)
            && (end == text.length() || !nameCharacter(text.charAt(end)));
    if (found) {
      at = end;
    }
    return found;
  }

  private int wordEnd(int from) {
    int end = from;
    while (end < text.length() && " ()\t\n\r".indexOf(text.charAt(end)) < 0) {
      end++;
    }
    return Math.max(end, Math.min(from + 1, text.length()));
  }

  private void space() {
    while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
      at++;
    }
  }

  private Wrong wrong(String message, int from, int until) {
    return new Wrong(message, from, until);
  }

  /** Carries what is wrong out of the descent; never leaves this class. */
  private static final class Wrong extends RuntimeException {
    private final String message;
    private final int from;
    private final int until;

    Wrong(String message, int from, int until) {
      super(message, null, false, false);
      this.message = message;
      this.from = from;
      this.until = until;
    }
  }
}
