package eleutheria.core.directory.filter;

import com.ibm.icu.lang.UCharacter;
import com.ibm.icu.text.Normalizer2;
import java.util.Locale;

/** How texts are compared: NFC and case-folded, so that one name is one name. */
public final class Folding {
  private static final Normalizer2 NFC = Normalizer2.getNFCInstance();
  private static final Normalizer2 NFKD = Normalizer2.getNFKDInstance();

  private Folding() {}

  /** NFC, then full case folding (Unicode, section 3.13), then NFC again. */
  public static String fold(String text) {
    if (ascii(text)) {
      return text.toLowerCase(Locale.ROOT);
    }
    return NFC.normalize(UCharacter.foldCase(NFC.normalize(text), true));
  }

  /** What find compares: folded, without accents and other marks; "Åse" is found by "ase". */
  public static String bare(String text) {
    if (ascii(text)) {
      return text.toLowerCase(Locale.ROOT);
    }
    String apart = NFKD.normalize(UCharacter.foldCase(text, true));
    StringBuilder out = new StringBuilder(apart.length());
    apart
        .codePoints()
        .filter(c -> Character.getType(c) != Character.NON_SPACING_MARK)
        .forEach(out::appendCodePoint);
    return out.toString()
        .replace('ø', 'o')
        .replace('đ', 'd')
        .replace('ł', 'l')
        .replace("æ", "ae")
        .replace("œ", "oe");
  }

  /** Most texts are; for them folding is lower case, and the tables are not needed. */
  private static boolean ascii(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (text.charAt(i) >= 0x80) {
        return false;
      }
    }
    return true;
  }
}
