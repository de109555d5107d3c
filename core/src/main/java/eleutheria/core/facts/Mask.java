package eleutheria.core.facts;

/**
 * What a short answer must look like: {@code #} is a digit, {@code @} a letter, {@code *} any
 * number of characters, also none; everything else is itself, in any case. {@code CR-#####} fits
 * "CR-00417".
 */
public final class Mask {
  private Mask() {}

  /** Takes at most (length of the mask) × (length of the text) steps. */
  public static boolean fits(String mask, String text) {
    int star = -1;
    int resume = 0;
    int at = 0;
    int in = 0;
    while (in < text.length()) {
      if (at < mask.length() && mask.charAt(at) == '*') {
        star = at++;
        resume = in;
      } else if (at < mask.length() && one(mask.charAt(at), text.charAt(in))) {
        at++;
        in++;
      } else if (star >= 0) {
        at = star + 1;
        in = ++resume;
      } else {
        return false;
      }
    }
    while (at < mask.length() && mask.charAt(at) == '*') {
      at++;
    }
    return at == mask.length();
  }

  private static boolean one(char wanted, char given) {
    return switch (wanted) {
      case '#' -> given >= '0' && given <= '9';
      case '@' -> Character.isLetter(given);
      default -> Character.toLowerCase(wanted) == Character.toLowerCase(given);
    };
  }
}
