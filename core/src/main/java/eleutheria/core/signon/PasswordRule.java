package eleutheria.core.signon;

import eleutheria.core.directory.filter.Folding;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;

/**
 * What a password must be. Length counts, not kinds of characters; what others try first is refused
 * (NIST SP 800-63B, section 5.1.1.2). Lengths are in Unicode code points.
 */
public final class PasswordRule {
  public static final int SHORTEST = 12;
  public static final int LONGEST = 200;

  /** The rule as people read it before they choose. */
  public static final String STATED =
      "At least 12 characters, as long as you like up to 200. Not your name or sign-in name, not a"
          + " row such as 123456789012, not one of the passwords that are tried first.";

  private static final Set<String> TRIED_FIRST =
      Set.of(
          "password",
          "passwort",
          "passord",
          "wachtwoord",
          "contrasena",
          "motdepasse",
          "qwerty",
          "azerty",
          "letmein",
          "welcome",
          "iloveyou",
          "administrator",
          "changeme",
          "secret");

  private PasswordRule() {}

  /**
   * All that is wrong with a password, each a sentence; empty if it will do.
   *
   * @param own words that belong to the person: names, sign-in name, mail
   */
  public static List<String> wrong(String password, Collection<String> own) {
    List<String> wrong = new ArrayList<>();
    int length = password.codePointCount(0, password.length());
    if (length < SHORTEST) {
      wrong.add("It has " + length + " characters; at least " + SHORTEST + " are needed.");
    }
    if (length > LONGEST) {
      wrong.add("It has " + length + " characters; at most " + LONGEST + " fit.");
    }
    String bare = Folding.bare(password);
    for (String word : own) {
      String part = Folding.bare(word);
      if (part.length() >= 4 && bare.contains(part) && part.length() * 2 > bare.length()) {
        wrong.add("It is mostly your own name or address.");
        break;
      }
    }
    String letters = bare.replaceAll("[^a-z]", "");
    if (TRIED_FIRST.contains(letters) || TRIED_FIRST.contains(bare)) {
      wrong.add("It is one of those that are tried first.");
    }
    if (length >= SHORTEST && (bare.chars().distinct().count() < 4 || row(bare))) {
      wrong.add("It is a row or repeats itself.");
    }
    return wrong;
  }

  private static boolean row(String text) {
    int steps = 0;
    for (int i = 1; i < text.length(); i++) {
      int step = text.charAt(i) - text.charAt(i - 1);
      if (Math.abs(step) <= 1 || step == -9 || step == 9) {
        steps++;
      }
    }
    return steps >= (text.length() - 1) * 0.9;
  }
}
