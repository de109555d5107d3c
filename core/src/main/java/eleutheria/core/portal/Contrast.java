package eleutheria.core.portal;

import java.util.regex.Pattern;

/** Contrast of two colours as WCAG 2.2 defines it: from 1 (the same) to 21 (black and white). */
public final class Contrast {
  /** What text needs at least (success criterion 1.4.3). */
  public static final double TEXT = 4.5;

  /** What a mark needs at least (success criterion 1.4.11). */
  public static final double MARK = 3;

  private static final Pattern COLOUR = Pattern.compile("#[0-9a-f]{6}");

  private Contrast() {}

  /** Whether this is a colour: {@code #} and six hexadecimal digits in lower case. */
  public static boolean isColour(String text) {
    return COLOUR.matcher(text).matches();
  }

  /**
   * @throws IllegalArgumentException if one of them is no colour
   */
  public static double of(String one, String other) {
    double first = luminance(one);
    double second = luminance(other);
    return (Math.max(first, second) + 0.05) / (Math.min(first, second) + 0.05);
  }

  private static double luminance(String colour) {
    if (!isColour(colour)) {
      throw new IllegalArgumentException("no colour: " + colour);
    }
    int rgb = Integer.parseInt(colour.substring(1), 16);
    return 0.2126 * linear(rgb >> 16) + 0.7152 * linear(rgb >> 8) + 0.0722 * linear(rgb);
  }

  private static double linear(int channel) {
    double value = (channel & 0xff) / 255.0;
    return value <= 0.04045 ? value / 12.92 : Math.pow((value + 0.055) / 1.055, 2.4);
  }
}
