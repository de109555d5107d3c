package eleutheria.server.holdings;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.openpdf.text.Font;
import org.openpdf.text.FontFactory;
import org.openpdf.text.Phrase;
import org.openpdf.text.pdf.BaseFont;
import org.openpdf.text.pdf.FontSelector;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The letters of reports on paper: the faces of the product, which the web's build unpacks for us;
 * for other scripts those of Debian's packages fonts-dejavu-core (Greek, Cyrillic, Arabic) and
 * fonts-droid-fallback (Chinese, Japanese, Korean). Where these are missing, what is not Latin
 * cannot be drawn; that is said in the log and in the report.
 */
final class PdfFonts {
  private static final Logger log = LoggerFactory.getLogger(PdfFonts.class);
  private static final String OWN = "static/paper/";
  private static final String FOLDER = "/usr/share/fonts/truetype/";
  private static final List<String> OTHERS =
      List.of("dejavu/DejaVuSans.ttf", "droid/DroidSansFallbackFull.ttf");
  private static final List<String> BOLD_OTHERS =
      List.of("dejavu/DejaVuSans-Bold.ttf", "droid/DroidSansFallbackFull.ttf");

  private final FontSelector plain;
  private final FontSelector bold;
  private final boolean complete;

  private PdfFonts(List<String> own, List<String> ownBold, float size) {
    List<Font> others = others(OTHERS, size);
    complete = others.size() == OTHERS.size();
    plain = selector(own(own, size), others, size, Font.NORMAL);
    bold = selector(own(ownBold, size), others(BOLD_OTHERS, size), size, Font.BOLD);
  }

  static PdfFonts text(float size) {
    return new PdfFonts(
        List.of("text-400", "text-ext-400"), List.of("text-700", "text-ext-700"), size);
  }

  static PdfFonts title(float size) {
    List<String> faces = List.of("title-700", "title-ext-700", "text-700", "text-ext-700");
    return new PdfFonts(faces, faces, size);
  }

  /** They are read once, and are absent where the web was not built. */
  private static final Map<String, BaseFont> READ = new ConcurrentHashMap<>();

  private static List<Font> own(List<String> names, float size) {
    List<Font> found = new ArrayList<>();
    for (String name : names) {
      BaseFont face = READ.computeIfAbsent(name, PdfFonts::read);
      if (face != null) {
        found.add(new Font(face, size));
      }
    }
    return found;
  }

  private static @Nullable BaseFont read(String name) {
    String file = name + ".ttf";
    try (InputStream in = PdfFonts.class.getClassLoader().getResourceAsStream(OWN + file)) {
      return in == null
          ? null
          : readable(
              BaseFont.createFont(
                  file, BaseFont.IDENTITY_H, BaseFont.EMBEDDED, true, in.readAllBytes(), null));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Which letters of it are used is told by the letters alone (ISO 14289-1, 7.21.4.2). */
  private static BaseFont readable(BaseFont face) {
    face.setIncludeCidSet(false);
    return face;
  }

  private static List<Font> others(List<String> names, float size) {
    List<Font> found = new ArrayList<>();
    for (String name : names) {
      Path file = Path.of(FOLDER + name);
      if (Files.isReadable(file)) {
        Font font =
            FontFactory.getFont(
                file.toString(), BaseFont.IDENTITY_H, BaseFont.EMBEDDED, size, Font.NORMAL);
        readable(font.getBaseFont());
        found.add(font);
      } else {
        log.warn("The font {} is missing; names in its scripts cannot be drawn", file);
      }
    }
    return found;
  }

  private static FontSelector selector(List<Font> own, List<Font> others, float size, int style) {
    FontSelector selector = new FontSelector();
    own.forEach(selector::addFont);
    others.forEach(selector::addFont);
    if (own.isEmpty() && others.isEmpty()) {
      selector.addFont(new Font(Font.HELVETICA, size, style));
    }
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
