package eleutheria.server.portal;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.OwnPortal;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/**
 * One's own portal: what is kept pinned, hidden, how tiles are drawn. All of it may be repeated.
 */
@RestController
class OwnPortalController {
  private final OwnPortals portals;
  private final OwnLinks links;

  OwnPortalController(OwnPortals portals, OwnLinks links) {
    this.portals = portals;
    this.links = links;
  }

  /**
   * @param behind the tile behind which it is to stand; null for the first place
   */
  record CloseForm(@Nullable UUID behind) {}

  record DrawForm(@NotNull OwnPortal.Device device, @NotNull @Size(max = 20) String form) {}

  record HushForm(@NotNull @Size(max = 100) String word) {}

  @PutMapping("/api/my/portal/pinned/{tile}")
  @Needs(signedIn = true)
  PageViews.OwnView keep(Viewer viewer, @PathVariable UUID tile, @RequestBody CloseForm form) {
    return wish(
        viewer,
        new OwnPortal.Wish.Pin(
            new TileId(tile), form.behind() == null ? null : new TileId(form.behind())));
  }

  @DeleteMapping("/api/my/portal/pinned/{tile}")
  @Needs(signedIn = true)
  PageViews.OwnView letGo(Viewer viewer, @PathVariable UUID tile) {
    return wish(viewer, new OwnPortal.Wish.Unpin(new TileId(tile)));
  }

  @PutMapping("/api/my/portal/hidden/{collection}")
  @Needs(signedIn = true)
  PageViews.OwnView hide(Viewer viewer, @PathVariable UUID collection) {
    return wish(viewer, new OwnPortal.Wish.Hide(new CollectionId(collection)));
  }

  @DeleteMapping("/api/my/portal/hidden/{collection}")
  @Needs(signedIn = true)
  PageViews.OwnView show(Viewer viewer, @PathVariable UUID collection) {
    return wish(viewer, new OwnPortal.Wish.Show(new CollectionId(collection)));
  }

  @PostMapping("/api/my/portal/form")
  @Needs(signedIn = true)
  PageViews.OwnView draw(Viewer viewer, @Valid @RequestBody DrawForm form) {
    return wish(viewer, new OwnPortal.Wish.Draw(form.device(), form.form()));
  }

  @PostMapping("/api/my/portal/hushed")
  @Needs(signedIn = true)
  PageViews.OwnView hush(Viewer viewer, @Valid @RequestBody HushForm form) {
    return wish(viewer, new OwnPortal.Wish.Hush(form.word()));
  }

  @PutMapping("/api/my/portal/tips/{tip}")
  @Needs(signedIn = true)
  PageViews.OwnView seen(Viewer viewer, @PathVariable OwnPortal.Tip tip) {
    return wish(viewer, new OwnPortal.Wish.Seen(tip));
  }

  private PageViews.OwnView wish(Viewer viewer, OwnPortal.Wish wish) {
    return PageViews.own(portals.wish(viewer.person(), wish), links.views(viewer.person()));
  }
}
