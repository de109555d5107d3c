package eleutheria.core.facts;

import java.util.Locale;

/**
 * What the values of an attribute are. All are stored as text: numbers as decimal digits, days as
 * ISO 8601, yes/no as {@code true} and {@code false}, persons as their id.
 */
public enum ValueType {
  TEXT,
  NUMBER,
  DAY,
  YESNO,
  PERSON;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  public static ValueType of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
