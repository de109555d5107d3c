package eleutheria.core.directory;

/** What may stand in a name, an address, a reason: whatever can be seen. */
public final class PlainText {
  public static final String SENTENCE =
      "This contains invisible characters, such as ones that reverse the direction of text."
          + " Type it again.";

  private PlainText() {}

  /**
   * Whether a text hides something: control characters but tab and line ends, characters that turn
   * the direction of writing (Unicode TR 36, section 3.5), separators of lines that are none,
   * halves of characters, and what is no character at all. Joiners stay, since some scripts need
   * them.
   */
  public static boolean hides(String text) {
    return text.codePoints().anyMatch(PlainText::hidden);
  }

  private static boolean hidden(int c) {
    return switch (Character.getType(c)) {
      case Character.CONTROL -> c != '\t' && c != '\n' && c != '\r';
      case Character.FORMAT -> c != 0x200C && c != 0x200D && c != 0x00AD && c < 0xE0000;
      case Character.LINE_SEPARATOR, Character.PARAGRAPH_SEPARATOR, Character.SURROGATE -> true;
      default -> (c & 0xFFFE) == 0xFFFE || (c >= 0xFDD0 && c <= 0xFDEF);
    };
  }
}
