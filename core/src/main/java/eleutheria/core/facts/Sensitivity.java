package eleutheria.core.facts;

import java.util.Locale;

/** How much an application or an entitlement can do. */
public enum Sensitivity {
  LOW,
  MEDIUM,
  HIGH;

  /** As it stands in the ledger and in the database. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static Sensitivity of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
