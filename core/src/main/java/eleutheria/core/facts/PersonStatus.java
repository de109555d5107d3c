package eleutheria.core.facts;

import java.util.Locale;

/** Where a person stands: before the first day, at work, away for a while, gone. */
public enum PersonStatus {
  EXPECTED,
  ACTIVE,
  PAUSED,
  DEPARTED;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  public static PersonStatus of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
