package eleutheria.core.facts;

import java.util.Locale;

/** Where a person stands: before the first day, at work, away for a while, gone. */
public enum PersonStatus {
  EXPECTED,
  ACTIVE,
  PAUSED,
  DEPARTED;

  /** Whether somebody belongs here: at work, or away for a while. */
  public boolean here() {
    return this == ACTIVE || this == PAUSED;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  public static PersonStatus of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
