package eleutheria.server.portal;

import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.PortalView;
import eleutheria.core.signon.AccountDecisions;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import java.net.URI;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/**
 * A person's tiles for the company's own page: read with a token of their own (RFC 6750, section
 * 2.1), which only opens this, and which they take back when they like.
 */
@RestController
class FeedController {
  private static final String BEARER = "Bearer ";

  private final Feeds feeds;
  private final World world;
  private final Acts acts;
  private final Clock clock;
  private final URI base;

  FeedController(Feeds feeds, World world, Acts acts, Clock clock, ServerSettings settings) {
    this.feeds = feeds;
    this.world = world;
    this.acts = acts;
    this.clock = clock;
    this.base = settings.baseAddress();
  }

  /**
   * @param made when the token was made; null if there is none
   * @param used when it was used last, to the hour
   */
  record MyFeed(@Nullable Instant made, @Nullable Instant used) {}

  /** The token is told this once; only its hash is kept. */
  record NewFeed(String token) {}

  /** A tile; whoever opens its address signs in there as everywhere. */
  record FedTile(String id, String name, String line, String collection, String address) {}

  record FeedView(String person, List<FedTile> tiles) {}

  @GetMapping("/api/my/feed")
  @Needs(signedIn = true)
  MyFeed mine(Viewer viewer) {
    return feeds
        .find(viewer.person())
        .map(feed -> new MyFeed(feed.made(), feed.used()))
        .orElse(new MyFeed(null, null));
  }

  /** Makes a token; an older one no longer works. */
  @PostMapping("/api/my/feed")
  @Needs(signedIn = true, fresh = true)
  NewFeed make(Viewer viewer) {
    String token = feeds.newToken();
    acts.perform(
        viewer.actor(),
        null,
        PersonId.class,
        moment -> AccountDecisions.feed(viewer.person(), true),
        (tx, result, entry) -> Feeds.keep(tx, viewer.person(), token, entry.at()));
    return new NewFeed(token);
  }

  @DeleteMapping("/api/my/feed")
  @Needs(signedIn = true)
  MyFeed end(Viewer viewer) {
    if (mine(viewer).made() != null) {
      acts.perform(
          viewer.actor(),
          null,
          PersonId.class,
          moment -> AccountDecisions.feed(viewer.person(), false),
          (tx, result, entry) -> feeds.shut(tx, viewer.person(), null));
    }
    return new MyFeed(null, null);
  }

  /**
   * The tiles of whose token it is, in the order in which they meet them: what they can open, with
   * neither what is only offered nor links of their own.
   */
  @GetMapping("/api/feed")
  @Needs(nothing = true)
  ResponseEntity<FeedView> feed(
      @RequestHeader(name = "Authorization", required = false) @Nullable String authorization) {
    PersonId person = reader(authorization);
    PortalView whole = world.whole();
    if (whole.directory().person(person).filter(p -> p.status() == PersonStatus.ACTIVE).isEmpty()) {
      throw closed();
    }
    List<FedTile> tiles = new ArrayList<>();
    for (FrontPage.Section section : PageViews.shown(whole, person).sections()) {
      for (FrontPage.Shown shown : section.tiles()) {
        if (!shown.offered()) {
          String id = shown.tile().id().value().toString();
          tiles.add(
              new FedTile(
                  id,
                  shown.tile().name(),
                  shown.tile().face().line(),
                  section.name(),
                  base.resolve("/go/" + id).toString()));
        }
      }
    }
    return ResponseEntity.ok()
        .cacheControl(CacheControl.noStore())
        .body(new FeedView(person.value().toString(), tiles));
  }

  /** A token has 256 bits, so nobody finds one by trying. */
  private PersonId reader(@Nullable String authorization) {
    if (authorization == null || !authorization.startsWith(BEARER)) {
      throw closed();
    }
    String token = authorization.substring(BEARER.length()).strip();
    return feeds.reader(token, clock.instant()).orElseThrow(FeedController::closed);
  }

  private static Refusal closed() {
    return Refusal.of(Problem.forbidden("feed.token", "This needs a valid token."));
  }
}
