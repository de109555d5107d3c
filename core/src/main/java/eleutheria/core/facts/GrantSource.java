package eleutheria.core.facts;

import java.util.Locale;

/** Whence a grant comes. */
public enum GrantSource {
  HAND,
  REQUEST,
  IMPORT,
  REVIEW;

  /** As it stands in the ledger and in the database. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static GrantSource of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
