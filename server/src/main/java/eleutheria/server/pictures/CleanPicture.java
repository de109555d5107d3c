package eleutheria.server.pictures;

import eleutheria.server.problems.Refusal;

/**
 * A picture as it is kept: written anew from what was understood of the file, never the file
 * itself.
 *
 * @param svg whether it is SVG; otherwise PNG
 */
public record CleanPicture(boolean svg, byte[] bytes, int width, int height) {
  /** The largest file that is looked at. */
  static final int LARGEST_FILE = 1024 * 1024;

  private static final byte[] PNG = {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'};

  /**
   * What a file is, is told from its content, whatever it is called.
   *
   * @throws Refusal if it is no PNG (ISO/IEC 15948) and no SVG (SVG 2), too large, or tries what a
   *     picture does not need
   */
  public static CleanPicture of(byte[] file) {
    if (startsWith(file, PNG)) {
      return CleanPng.of(file);
    }
    for (byte b : file) {
      if (b == '<') {
        return CleanSvg.of(file);
      }
      // White space or a byte order mark.
      if (b > ' ') {
        break;
      }
    }
    throw refused("picture.kind", "A picture is a PNG or an SVG; this file is neither.");
  }

  private static boolean startsWith(byte[] file, byte[] start) {
    return file.length >= start.length
        && java.util.Arrays.equals(file, 0, start.length, start, 0, start.length);
  }

  static Refusal refused(String code, String sentence) {
    return Refusal.invalid(code, "picture", sentence);
  }
}
