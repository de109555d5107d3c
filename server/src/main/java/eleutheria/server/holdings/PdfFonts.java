package eleutheria.server.holdings;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.openpdf.text.Font;
import org.openpdf.text.FontFactory;
import org.openpdf.text.Phrase;
import org.openpdf.text.pdf.BaseFont;
import org.openpdf.text.pdf.FontSelector;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The letters of reports on paper, from Debian's packages fonts-dejavu-core (Latin, Greek,
 * Cyrillic, Arabic) and fonts-droid-fallback (Chinese, Japanese, Korean). Where they are missing,
 * what is not Latin-1 cannot be drawn; that is said in the log and in the report.
 */
final class PdfFonts {
  private static final Logger log = LoggerFactory.getLogger(PdfFonts.class);
  private static final String FOLDER = "/usr/share/fonts/truetype/";
  private static final List<String> PLAIN =
      List.of("dejavu/DejaVuSans.ttf", "droid/DroidSansFallbackFull.ttf");
  private static final List<String> BOLD =
      List.of("dejavu/DejaVuSans-Bold.ttf", "droid/DroidSansFallbackFull.ttf");

  private final FontSelector plain;
  private final FontSelector bold;
  private final boolean complete;

  PdfFonts(float size) {
    List<Font> found = fonts(PLAIN, size, Font.NORMAL);
    complete = found.size() == PLAIN.size();
    plain = selector(found, size, Font.NORMAL);
    bold = selector(fonts(BOLD, size, Font.NORMAL), size, Font.BOLD);
  }

  private static List<Font> fonts(List<String> names, float size, int style) {
    List<Font> found = new ArrayList<>();
    for (String name : names) {
      Path file = Path.of(FOLDER + name);
      if (Files.isReadable(file)) {
        found.add(
            FontFactory.getFont(
                file.toString(), BaseFont.IDENTITY_H, BaseFont.EMBEDDED, size, style));
      } else {
        log.warn("The font {} is missing; names in its scripts cannot be drawn", file);
      }
    }
    return found;
  }

  private static FontSelector selector(List<Font> fonts, float size, int style) {
    FontSelector selector = new FontSelector();
    fonts.forEach(selector::addFont);
    selector.addFont(new Font(Font.HELVETICA, size, style));
    return selector;
  }

  /** Whether every script can be drawn. */
  boolean complete() {
    return complete;
  }

  Phrase plain(String text) {
    return plain.process(text);
  }

  Phrase bold(String text) {
    return bold.process(text);
  }

  /** Whether a text is read from the right (Unicode bidirectional classes R and AL). */
  static boolean fromTheRight(String text) {
    return text.codePoints()
        .anyMatch(
            c -> {
              byte direction = Character.getDirectionality(c);
              return direction == Character.DIRECTIONALITY_RIGHT_TO_LEFT
                  || direction == Character.DIRECTIONALITY_RIGHT_TO_LEFT_ARABIC;
            });
  }
}
