package eleutheria.server.web;

import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.Arrays;
import java.util.Locale;
import java.util.zip.Deflater;
import java.util.zip.GZIPOutputStream;
import org.jspecify.annotations.Nullable;

/** Bytes made smaller (RFC 1952), quickly rather than as far as possible. */
public final class Gzip {
  private Gzip() {}

  /** Whether whoever asks takes compressed answers. */
  public static boolean accepted(HttpServletRequest request) {
    return accepted(request.getHeader("Accept-Encoding"));
  }

  /** Whether a list of encodings (RFC 9110 §12.5.3) has this one and does not refuse it. */
  static boolean accepted(@Nullable String encodings) {
    return encodings != null
        && Arrays.stream(encodings.split(","))
            .map(each -> each.replace(" ", "").toLowerCase(Locale.ROOT))
            .anyMatch(
                each ->
                    each.equals("gzip")
                        || (each.startsWith("gzip;q=") && !each.matches("gzip;q=0(\\.0*)?")));
  }

  public static byte[] compressed(byte[] body) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream(body.length / 2 + 64);
    try (OutputStream out = new Fast(bytes)) {
      out.write(body);
    } catch (IOException e) {
      throw new UncheckedIOException("bytes in memory can always be written", e);
    }
    return bytes.toByteArray();
  }

  private static final class Fast extends GZIPOutputStream {
    Fast(OutputStream out) throws IOException {
      super(out, 8192);
      def.setLevel(Deflater.BEST_SPEED);
    }
  }
}
