package eleutheria.core.requests;

import java.util.Locale;

/** The decisions that a request needs, in their order. */
public enum Step {
  MANAGER,
  OWNER;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
