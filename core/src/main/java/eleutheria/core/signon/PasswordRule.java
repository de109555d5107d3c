package eleutheria.core.signon;

import com.nulabinc.zxcvbn.Zxcvbn;
import eleutheria.core.directory.filter.Folding;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;

/**
 * What a password must be. Length counts, not kinds of characters; what others try first is refused
 * (NIST SP 800-63B, section 5.1.1.2). Lengths are in Unicode code points.
 */
public final class PasswordRule {
  public static final int SHORTEST = 12;
  public static final int LONGEST = 200;

  /** The rule as people read it before they choose. */
  public static final String STATED =
      "At least 12 characters, as long as you like up to 200. Not your name or sign-in name, not a sequence such as 123456789012, not one that is easy to guess.";

  /** Guesses are counted on no more than this: it costs with the square of the length. */
  private static final int GUESSED = 64;

  /** The least score: safe where a thousand can be tried in a second (of 0 to 4). */
  private static final int SCORE = 3;

  private static final Zxcvbn GUESSES = new Zxcvbn();

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
    if (length >= SHORTEST && without(bare, own).length() < SHORTEST / 2) {
      wrong.add("It is mostly your own name or address.");
    }
    if (length >= SHORTEST && wrong.isEmpty() && easy(password, own)) {
      wrong.add(
          "It is easy to guess: it is made of common passwords, names, dates or patterns of keys.");
    }
    if (length >= SHORTEST && (bare.chars().distinct().count() < 4 || row(bare))) {
      wrong.add("It is a sequence, or repeats itself.");
    }
    return wrong;
  }

  /** What is left of a password without the words that are the person's own. */
  private static String without(String bare, Collection<String> own) {
    String left = bare;
    for (String words : own) {
      for (String word : Folding.bare(words).split("[^\\p{L}\\p{N}]+")) {
        left = word.length() < 3 ? left : left.replace(word, "");
      }
    }
    return left;
  }

  private static boolean easy(String password, Collection<String> own) {
    String start =
        password.codePointCount(0, password.length()) > GUESSED
            ? password.substring(0, password.offsetByCodePoints(0, GUESSED))
            : password;
    List<String> words = own.stream().filter(word -> word.length() >= 3).toList();
    return GUESSES.measure(start, words).getScore() < SCORE;
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
