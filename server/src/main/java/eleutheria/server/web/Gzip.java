package eleutheria.server.web;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Arrays;
import java.util.Locale;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.zip.CRC32;
import java.util.zip.Deflater;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Bytes made smaller (RFC 1952), in one go and by compressors that are used again: a new one takes
 * a quarter of a megabyte outside the heap.
 */
@Component
public class Gzip {
  // Magic number, deflate, no flags, no time, fastest, unknown system.
  private static final byte[] HEAD = {0x1f, (byte) 0x8b, 8, 0, 0, 0, 0, 0, 4, (byte) 255};
  private static final int FOOT = 8;

  private final BlockingQueue<Deflater> idle = new ArrayBlockingQueue<>(16);

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

  public byte[] compressed(byte[] body) {
    Deflater deflater = idle.poll();
    if (deflater == null) {
      deflater = new Deflater(Deflater.BEST_SPEED, true);
    }
    deflater.reset();
    deflater.setInput(body);
    deflater.finish();
    byte[] out = Arrays.copyOf(HEAD, HEAD.length + body.length / 2 + FOOT);
    int at = HEAD.length;
    while (!deflater.finished()) {
      if (at >= out.length - FOOT) {
        out = Arrays.copyOf(out, out.length * 2);
      }
      at += deflater.deflate(out, at, out.length - FOOT - at);
    }
    if (!idle.offer(deflater)) {
      deflater.end();
    }
    CRC32 sum = new CRC32();
    sum.update(body);
    little(out, at, (int) sum.getValue());
    little(out, at + 4, body.length);
    return Arrays.copyOf(out, at + FOOT);
  }

  private static void little(byte[] out, int at, int value) {
    for (int i = 0; i < 4; i++) {
      out[at + i] = (byte) (value >>> (8 * i));
    }
  }
}
