package eleutheria.core.facts;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What somebody decides that a deputy may decide for them. */
public enum Duty {
  /** Requests of the people whom they manage. */
  TEAM,
  /** Requests for the applications that they own. */
  APPS;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  public static Optional<Duty> of(String word) {
    return Arrays.stream(values()).filter(duty -> duty.word().equals(word)).findFirst();
  }
}
