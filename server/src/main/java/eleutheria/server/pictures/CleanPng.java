package eleutheria.server.pictures;

import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Iterator;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/** A PNG, decoded and encoded anew: nothing but its pixels is kept. */
final class CleanPng {
  /** The longest side that is decoded, in pixels. */
  static final int LONGEST = 4096;

  /** The longest side that is kept. */
  static final int KEPT = 640;

  private CleanPng() {}

  static CleanPicture of(byte[] file) {
    try (ImageInputStream in = ImageIO.createImageInputStream(new ByteArrayInputStream(file))) {
      Iterator<ImageReader> readers = ImageIO.getImageReadersByFormatName("png");
      ImageReader reader = readers.next();
      try {
        reader.setInput(in, true, true);
        int width = reader.getWidth(0);
        int height = reader.getHeight(0);
        if (width > LONGEST || height > LONGEST) {
          throw CleanPicture.refused(
              "picture.large",
              "It has %d × %d pixels; at most %d a side are taken."
                  .formatted(width, height, LONGEST));
        }
        return written(reader.read(0));
      } finally {
        reader.dispose();
      }
    } catch (IOException | RuntimeException e) {
      if (e instanceof eleutheria.server.problems.Refusal refusal) {
        throw refusal;
      }
      throw CleanPicture.refused("picture.broken", "It cannot be read as a PNG.");
    }
  }

  private static CleanPicture written(BufferedImage read) throws IOException {
    double scale = Math.min(1, (double) KEPT / Math.max(read.getWidth(), read.getHeight()));
    int width = Math.max(1, (int) Math.round(read.getWidth() * scale));
    int height = Math.max(1, (int) Math.round(read.getHeight() * scale));
    BufferedImage drawn = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
    Graphics2D graphics = drawn.createGraphics();
    graphics.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BICUBIC);
    graphics.drawImage(read, 0, 0, width, height, null);
    graphics.dispose();
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(drawn, "png", out);
    return new CleanPicture(false, out.toByteArray(), width, height);
  }
}
