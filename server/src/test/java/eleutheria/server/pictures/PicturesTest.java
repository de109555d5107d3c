package eleutheria.server.pictures;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import eleutheria.server.problems.Refusal;
import eleutheria.server.testing.RunningServer;
import eleutheria.server.testing.Visitor;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is uploaded is written anew, or refused with the reason. */
class PicturesTest {
  private static final String HEAD =
      "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\""
          + " viewBox=\"0 0 24 24\">";

  private static byte[] png(int width, int height) throws IOException {
    BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
    image.setRGB(0, 0, 0xffaa2200);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(image, "png", out);
    return out.toByteArray();
  }

  private static String svg(String inside) {
    return new String(
        CleanPicture.of((HEAD + inside + "</svg>").getBytes(StandardCharsets.UTF_8)).bytes(),
        StandardCharsets.UTF_8);
  }

  @Test
  void aPngKeepsItsPixelsAndNothingElse() throws IOException {
    byte[] file = png(40, 20);
    // What stands behind the end, or in a comment, is no pixel.
    byte[] more = Arrays.copyOf(file, file.length + 2000);
    byte[] note = "<script>alert(1)</script>".getBytes(StandardCharsets.UTF_8);
    System.arraycopy(note, 0, more, file.length, note.length);
    CleanPicture clean = CleanPicture.of(more);
    assertThat(clean.svg()).isFalse();
    assertThat(new String(clean.bytes(), StandardCharsets.ISO_8859_1)).doesNotContain("script");
    BufferedImage read = ImageIO.read(new ByteArrayInputStream(clean.bytes()));
    assertThat(List.of(read.getWidth(), read.getHeight())).containsExactly(40, 20);
    assertThat(read.getRGB(0, 0)).isEqualTo(0xffaa2200);
    assertThat(CleanPicture.of(png(1280, 640)).width()).isEqualTo(CleanPng.KEPT);
  }

  @Test
  void anSvgKeepsItsShapesAndLeavesOutWhatAnEditorNoted() {
    String clean =
        svg(
            "<metadata><x/></metadata><defs><linearGradient id=\"g\"><stop offset=\"0\""
                + " stop-color=\"#fff\"/></linearGradient></defs>"
                + "<path d=\"M1 1h4v4z\" style=\"fill:url(#g);-inkscape-font:x\""
                + " class=\"c\" data-x=\"1\"/>");
    assertThat(clean)
        .contains("<path d=\"M1 1h4v4z\" fill=\"url(#g)\">", "<linearGradient id=\"g\">")
        .doesNotContain("metadata", "class", "data-x", "inkscape", "style");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "<script>alert(1)</script>",
        "<g><script href=\"https://evil.example/x.js\"/></g>",
        "<path d=\"M0 0\" onload=\"alert(1)\"/>",
        "<image href=\"https://evil.example/x.png\"/>",
        "<a xlink:href=\"javascript:alert(1)\"><path d=\"M0 0\"/></a>",
        "<use href=\"#x\"/>",
        "<foreignObject><p xmlns=\"http://www.w3.org/1999/xhtml\">x</p></foreignObject>",
        "<style>@import url(https://evil.example/x.css);</style>",
        "<path d=\"M0 0\" fill=\"url(https://evil.example/x.svg#a)\"/>",
        "<path d=\"M0 0\" style=\"fill:url('//evil.example/#a')\"/>",
        "<animate attributeName=\"href\" to=\"javascript:alert(1)\"/>",
        "<set attributeName=\"onclick\" to=\"alert(1)\"/>",
      })
  void anSvgThatCouldDoSomethingIsRefused(String inside) {
    assertThatThrownBy(() -> svg(inside)).isInstanceOf(Refusal.class);
  }

  @Test
  void whatIsNoPictureIsRefused() throws IOException {
    List<byte[]> bad =
        List.of(
            new byte[0],
            "GIF89a".getBytes(StandardCharsets.US_ASCII),
            "<html><body>no</body></html>".getBytes(StandardCharsets.UTF_8),
            ("<!DOCTYPE svg [<!ENTITY x SYSTEM \"file:///etc/passwd\">]>" + HEAD + "&x;</svg>")
                .getBytes(StandardCharsets.UTF_8),
            (HEAD + "<g>".repeat(60) + "</g>".repeat(60) + "</svg>")
                .getBytes(StandardCharsets.UTF_8),
            "<svg xmlns=\"http://www.w3.org/2000/svg\"><path d=\"M0 0\"/></svg>"
                .getBytes(StandardCharsets.UTF_8),
            Arrays.copyOf(png(8, 8), 30));
    for (byte[] file : bad) {
      assertThatThrownBy(() -> CleanPicture.of(file)).isInstanceOf(Refusal.class);
    }
  }

  @Test
  void aPictureIsKeptOnceAndServedAsNothingButAPicture() throws IOException {
    RunningServer server = RunningServer.shop();
    Visitor ines = server.signedIn("ines");
    Visitor.Answer kept = ines.upload("/api/pictures", png(16, 16)).expect(200);
    String word = kept.json().path("picture").asString();
    assertThat(ines.upload("/api/pictures", png(16, 16)).json().path("picture").asString())
        .isEqualTo(word);
    HttpResponse<byte[]> shown =
        server.nobody().bytes("/api/pictures/" + word.substring(4), "Accept", "image/*");
    assertThat(shown.statusCode()).isEqualTo(200);
    assertThat(shown.headers().firstValue("Content-Type")).contains("image/png");
    assertThat(shown.headers().firstValue("X-Content-Type-Options")).contains("nosniff");
    assertThat(shown.headers().firstValue("Content-Security-Policy").orElse(""))
        .contains("default-src 'none'", "sandbox");
    assertThat(ines.upload("/api/pictures", new byte[20 * 1024 * 1024]).expect(422).problems())
        .contains("picture.large");
    assertThat(
            ines.upload("/api/pictures", "no".getBytes(StandardCharsets.UTF_8))
                .expect(422)
                .problems())
        .contains("picture.kind");
    server.signedIn("nils").upload("/api/pictures", png(16, 16)).expect(403);
    assertThat(server.nobody().get("/api/pictures/..%2f..%2fetc").status()).isIn(400, 404);
    server.nobody().get("/api/pictures/" + "0".repeat(64)).expect(404);
  }

  /** Small files that would keep a browser busy for minutes, or for ever. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        // A mask within a mask within a mask: each is drawn as often as all before it.
        "<defs><mask id=\"a\"><rect width=\"24\" height=\"24\" mask=\"url(#b)\"/></mask>"
            + "<mask id=\"b\"><rect width=\"24\" height=\"24\"/></mask></defs>"
            + "<rect width=\"24\" height=\"24\" mask=\"url(#a)\"/>",
        "<clipPath id=\"a\" clip-path=\"url(#a)\"><path d=\"M0 0h24v24z\"/></clipPath>"
            + "<path d=\"M0 0h24\" clip-path=\"url(#a)\"/>",
        "<mask id=\"a\"><g><path style=\"fill:url(#g)\" d=\"M0 0h24\"/></g></mask>",
        "<path d=\"M0 0h24\" stroke=\"#000\" stroke-dasharray=\"0.00001\"/>",
        "<path d=\"M0 0h1e30\"/>",
        "<rect width=\"99999999999\" height=\"1\"/>"
      })
  void whatCostsMoreToDrawThanItLooksIsRefused(String inside) {
    assertThatThrownBy(() -> svg(inside)).isInstanceOf(Refusal.class);
  }

  @Test
  void referencesAndNumbersAreBounded() {
    String masked = "<path d=\"M0 0h24\" mask=\"url(#m)\"/>";
    String mask = "<mask id=\"m\"><rect width=\"24\" height=\"24\"/></mask>";
    assertThat(svg(mask + masked.repeat(60))).contains("mask=");
    assertThatThrownBy(() -> svg(mask + masked.repeat(70))).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> svg("<path d=\"M0 0" + " 1 1".repeat(12_000) + "\"/>"))
        .isInstanceOf(Refusal.class);
  }
}
