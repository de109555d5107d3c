package eleutheria.core.facts;

import java.util.Locale;

/** Where an application stands; it is held by somebody only while it is open. */
public enum ApplicationState {
  /** Being made ready; nobody holds it yet. */
  PROPOSED,
  OPEN,
  /** For a while nobody holds it; the grants stay. */
  PAUSED,
  /** Shut out: its grants stay and are held by nobody. */
  BLOCKED,
  /** At its end. */
  RETIRED;

  /** As it stands in the ledger and in the database. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static ApplicationState of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
