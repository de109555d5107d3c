package eleutheria.core.drafts;

import java.util.Locale;

/** Where a draft stands. */
public enum DraftStage {
  /** It gathers edits. */
  OPEN,
  /** It will be published at a moment. */
  SCHEDULED,
  /** It waits for a second person's yes. */
  WAITING,
  /** It was to be published and is on hold, because something is not as it was seen. */
  HELD,
  PUBLISHED,
  DROPPED;

  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException if no stage has this word
   */
  public static DraftStage of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }

  /** Whether it can still be changed: what is seen by others already goes back first. */
  public boolean editable() {
    return this == OPEN || this == HELD;
  }

  public boolean over() {
    return this == PUBLISHED || this == DROPPED;
  }
}
