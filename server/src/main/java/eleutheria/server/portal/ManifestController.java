package eleutheria.server.portal;

import eleutheria.core.facts.FactValue;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import java.util.List;
import org.springframework.http.CacheControl;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** How the portal installs itself on a device (W3C Web Application Manifest). */
@RestController
class ManifestController {
  private final World world;
  private final Organisation organisation;

  ManifestController(World world, Organisation organisation) {
    this.world = world;
    this.organisation = organisation;
  }

  /** The members that browsers need; named as the standard names them. */
  record WebManifest(
      String id,
      String name,
      @com.fasterxml.jackson.annotation.JsonProperty("short_name") String shortName,
      @com.fasterxml.jackson.annotation.JsonProperty("start_url") String startUrl,
      String scope,
      String display,
      @com.fasterxml.jackson.annotation.JsonProperty("theme_color") String themeColor,
      @com.fasterxml.jackson.annotation.JsonProperty("background_color") String backgroundColor,
      List<WebIcon> icons) {}

  record WebIcon(String src, String sizes, String type, String purpose) {}

  /** What it says is on the sign-in page too, so everybody may read it. */
  @GetMapping(path = "/manifest.webmanifest", produces = "application/manifest+json")
  @Needs(nothing = true)
  ResponseEntity<WebManifest> manifest() {
    FactValue.Brand brand = world.whole().brand();
    String name = brand.name().isEmpty() ? organisation.name() : brand.name();
    return ResponseEntity.ok()
        .cacheControl(CacheControl.noCache())
        .body(
            new WebManifest(
                "/",
                name,
                name,
                "/",
                "/",
                "standalone",
                brand.band(),
                "#eaf0ee",
                List.of(
                    new WebIcon("/mark-192.png", "192x192", "image/png", "any"),
                    new WebIcon("/mark-512.png", "512x512", "image/png", "any"),
                    new WebIcon("/mark-512.png", "512x512", "image/png", "maskable"))));
  }
}
