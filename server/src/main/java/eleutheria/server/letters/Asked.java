package eleutheria.server.letters;

import org.jspecify.annotations.Nullable;

/**
 * A request as the reader of a letter knows it.
 *
 * @param number what people call it, R-2041
 * @param whose "your request for Refund Bench · Approver", to follow a verb
 * @param holder who would hold it; null for the reader
 * @param why why they get the letter
 */
public record Asked(
    String number, String title, String whose, @Nullable String holder, String why) {
  private static final String ONE_EACH = " You get one email for each answer.";

  /** They asked for themselves. */
  public static Asked own(String number, String title) {
    return new Asked(
        number,
        title,
        "your request for " + title,
        null,
        "You get this because you made the request." + ONE_EACH);
  }

  /** They asked for somebody else. */
  public static Asked forOther(String number, String title, String person) {
    return new Asked(
        number,
        title,
        "your request for %s for %s".formatted(title, person),
        person,
        "You get this because you made the request." + ONE_EACH);
  }

  /** Somebody else asked for them. */
  public static Asked byOther(String number, String title, String asker) {
    return new Asked(
        number,
        title,
        "the request for %s that %s made for you".formatted(title, asker),
        null,
        "You get this because the access is for you." + ONE_EACH);
  }
}
