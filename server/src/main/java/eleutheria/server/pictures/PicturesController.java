package eleutheria.server.pictures;

import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Duration;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** Uploads a picture, and shows it in an {@code <img>}. */
@RestController
class PicturesController {
  private final PictureStore store;

  PicturesController(PictureStore store) {
    this.store = store;
  }

  /**
   * @param picture the word by which a tile or the brand has it
   * @param width in pixels, or in its own units for an SVG
   */
  record UploadedView(String picture, int width, int height) {}

  /** The file is the body as it is, at most 1 MiB; no act: only what uses it is one. */
  @PostMapping("/api/pictures")
  @Needs({Power.PORTAL_ARRANGE, Power.PORTAL_BRAND})
  UploadedView upload(Viewer viewer, HttpServletRequest request) throws IOException {
    // Never more than this is read, whatever is sent.
    byte[] file = request.getInputStream().readNBytes(CleanPicture.LARGEST_FILE + 1);
    if (file.length > CleanPicture.LARGEST_FILE) {
      throw CleanPicture.refused("picture.large", "A picture has at most 1 MiB.");
    }
    CleanPicture picture = CleanPicture.of(file);
    return new UploadedView(
        store.keep(picture, viewer.person()), picture.width(), picture.height());
  }

  @GetMapping("/api/pictures/{hash}")
  @Needs(nothing = true)
  ResponseEntity<byte[]> picture(@PathVariable String hash) {
    return store
        .find(hash)
        .map(
            kept ->
                ResponseEntity.ok()
                    .contentType(
                        kept.svg() ? MediaType.valueOf("image/svg+xml") : MediaType.IMAGE_PNG)
                    .cacheControl(
                        CacheControl.maxAge(Duration.ofDays(365)).cachePublic().immutable())
                    // Whoever opens it by itself gets a picture and nothing else.
                    .header("Content-Security-Policy", "default-src 'none'; sandbox")
                    .header("X-Content-Type-Options", "nosniff")
                    .body(kept.bytes()))
        .orElseThrow(() -> Refusal.of(Problem.absent("picture")));
  }
}
