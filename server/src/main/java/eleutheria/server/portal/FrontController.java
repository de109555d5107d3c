package eleutheria.server.portal;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.Endings;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.OwnPortal;
import eleutheria.core.portal.Page;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tidings;
import eleutheria.core.portal.Tile;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Wish;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.signon.FreshSignIn;
import eleutheria.server.signon.SessionViews;
import eleutheria.server.signon.Viewers;
import eleutheria.server.state.World;
import eleutheria.server.use.Openings;
import eleutheria.server.web.Gzip;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.servlet.http.HttpServletRequest;
import java.lang.ref.WeakReference;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.function.BiPredicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** A person's front page in one answer, and the way through a tile. */
@RestController
class FrontController {
  /** What was opened longer ago is not recent. */
  private static final Duration LATELY = Duration.ofDays(30);

  /** More than a page shows of them, since some may not be open to the person any more. */
  private static final int MOST_RECENT = 20;

  /** What a page says of the days to come changes without anybody's doing. */
  private static final Duration KEPT_FOR = Duration.ofMinutes(1);

  private final World world;
  private final Viewers viewers;
  private final SessionViews sessions;
  private final RequestStore requests;
  private final Openings openings;
  private final Clock clock;
  private final JsonMapper json;
  private final FreshSignIn freshSignIn;
  private final FrontSeen seen;
  private final OwnPortals portals;
  private final OwnLinks links;
  // It is asked for far more often than anything in it changes.
  private final Cache<PersonId, Kept> kept =
      Caffeine.newBuilder().maximumSize(5_000).expireAfterWrite(KEPT_FOR).build();

  FrontController(
      World world,
      Viewers viewers,
      SessionViews sessions,
      RequestStore requests,
      Openings openings,
      Clock clock,
      JsonMapper json,
      FreshSignIn freshSignIn,
      FrontSeen seen,
      OwnPortals portals,
      OwnLinks links) {
    this.world = world;
    this.viewers = viewers;
    this.sessions = sessions;
    this.requests = requests;
    this.openings = openings;
    this.clock = clock;
    this.json = json;
    this.freshSignIn = freshSignIn;
    this.seen = seen;
    this.portals = portals;
    this.links = links;
  }

  /**
   * An answer as it was made last.
   *
   * @param of the state it was made of: whatever is done or begins or ends makes another one; not
   *     held, so that no old state stays in memory for it
   * @param freshUntil what else it says, of the session it was made for
   * @param own of which version of the person's own portal
   */
  private record Kept(
      WeakReference<PortalView> of,
      @Nullable Instant freshUntil,
      long own,
      Page page,
      byte[] body,
      byte[] small) {}

  /**
   * Everything that the front page needs.
   *
   * @param page null while nobody is signed in
   */
  record FrontView(SessionViews.SessionView session, PageViews.@Nullable PageView page) {}

  @GetMapping("/api/front")
  @Needs(nothing = true)
  @ApiResponse(
      responseCode = "200",
      description = "OK",
      content =
          @Content(
              mediaType = MediaType.APPLICATION_JSON_VALUE,
              schema = @Schema(implementation = FrontView.class)))
  ResponseEntity<byte[]> front(HttpServletRequest request) {
    Optional<Viewer> viewer = viewers.of(request);
    if (viewer.isEmpty()) {
      return json(json.writeValueAsBytes(new FrontView(sessions.of(request), null)));
    }
    Kept answer = kept(request, viewer.get().person());
    seen.meets(viewer.get().person(), answer.page());
    return Gzip.accepted(request)
        ? ResponseEntity.ok()
            .contentType(MediaType.APPLICATION_JSON)
            .header("Content-Encoding", "gzip")
            .header("Vary", "Accept-Encoding")
            .body(answer.small())
        : json(answer.body());
  }

  private static ResponseEntity<byte[]> json(byte[] body) {
    return ResponseEntity.ok().contentType(MediaType.APPLICATION_JSON).body(body);
  }

  private Kept kept(HttpServletRequest request, PersonId person) {
    PortalView whole = world.whole();
    Instant freshUntil = freshSignIn.until(request.getSession(false));
    // Before what it is of: what changes meanwhile makes the next answer another one.
    long own = portals.version(person);
    Kept known = kept.getIfPresent(person);
    if (known == null
        || !known.of().refersTo(whole)
        || known.own() != own
        || !Objects.equals(known.freshUntil(), freshUntil)) {
      FrontPage front = PageViews.shown(whole, person);
      byte[] body =
          json.writeValueAsBytes(
              new FrontView(sessions.of(request), page(whole, person, front, portals.of(person))));
      known =
          new Kept(
              new WeakReference<>(whole),
              freshUntil,
              own,
              front.page(),
              body,
              Gzip.compressed(body));
      kept.put(person, known);
    }
    return known;
  }

  private PageViews.PageView page(
      PortalView whole, PersonId person, FrontPage front, OwnPortal own) {
    Instant now = clock.instant();
    Map<TileId, Instant> opened = openings.lastOf(person);
    return PageViews.of(
        whole,
        person,
        front,
        new PageViews.Own(
            Endings.of(whole, person, now, resolves(whole)).stream()
                .map(ending -> PageViews.EndNotice.of(whole, ending))
                .toList(),
            (int) requests.forPerson(person, 200).stream().filter(r -> r.stage().open()).count(),
            opened.entrySet().stream()
                .filter(each -> each.getValue().isAfter(now.minus(LATELY)))
                .sorted(Map.Entry.<TileId, Instant>comparingByValue().reversed())
                .limit(MOST_RECENT)
                .map(each -> each.getKey().value().toString())
                .toList(),
            PageViews.own(own, links.views(person)),
            tile ->
                Tidings.of(
                    whole.access(),
                    person,
                    tile,
                    need -> world.since(whole, person, need),
                    opened.get(tile.id()),
                    now)));
  }

  private static BiPredicate<PersonId, EntitlementId> resolves(PortalView whole) {
    return (asker, entitlement) -> Deciders.resolves(whole.access(), Wish.own(asker, entitlement));
  }

  /**
   * Opens a tile: an address for ever. Whoever is not signed in signs in first and comes back here;
   * whoever cannot open it is told so on the front page. A browser that only fetches ahead opens
   * nothing.
   */
  @GetMapping("/go/{tile}")
  @Needs(nothing = true)
  ResponseEntity<Void> go(@PathVariable String tile, HttpServletRequest request) {
    Optional<Viewer> viewer = viewers.of(request);
    if (viewer.isEmpty()) {
      return to("/sign-in?to=" + URLEncoder.encode("/go/" + tile, StandardCharsets.UTF_8));
    }
    PortalView whole = world.whole();
    Optional<Tile> found = known(tile).flatMap(whole::tile);
    PersonId person = viewer.get().person();
    Optional<String> address =
        found
            .filter(t -> PageViews.shown(whole, person).opens(t))
            .flatMap(t -> PageViews.address(whole, t));
    if (address.isEmpty()) {
      return to("/closed/" + known(tile).map(t -> t.value().toString()).orElse("none"));
    }
    if (request.getHeader("Sec-Purpose") == null && request.getHeader("Purpose") == null) {
      openings.opened(person, found.orElseThrow().id(), clock.instant());
      portals.touch(person);
    }
    return to(address.get());
  }

  private static Optional<TileId> known(String text) {
    try {
      return Optional.of(new TileId(UUID.fromString(text)));
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  private static ResponseEntity<Void> to(String address) {
    return ResponseEntity.status(302)
        .location(URI.create(address))
        .cacheControl(CacheControl.noStore())
        .header("Referrer-Policy", "no-referrer")
        .build();
  }

  /**
   * Why a tile does not open.
   *
   * @param name null where there is no such tile
   * @param ask what could be asked for; null where nothing can
   * @param owners whom to ask otherwise
   * @param contact whom to call
   * @param heldUntil until when the asker could open it; null if they never could
   */
  record ClosedTile(
      @Nullable String name,
      @Nullable String state,
      @Nullable String ask,
      List<String> owners,
      String contact,
      @Nullable Instant heldUntil) {}

  @GetMapping("/api/closed/{tile}")
  @Needs(signedIn = true)
  ClosedTile closed(Viewer viewer, @PathVariable String tile) {
    PortalView whole = world.whole();
    Optional<Tile> found = known(tile).flatMap(whole::tile);
    if (found.isEmpty()) {
      return new ClosedTile(null, null, null, List.of(), "", null);
    }
    Application app =
        whole.access().apps().application(found.get().face().application()).orElseThrow();
    Optional<Entitlement> ask =
        whole.needs(found.get()).stream()
            .filter(e -> e.role().requestable() && app.open())
            .filter(e -> Deciders.resolves(whole.access(), Wish.own(viewer.person(), e.id())))
            .findFirst();
    return new ClosedTile(
        found.get().name(),
        app.state().word(),
        ask.map(e -> e.id().value().toString()).orElse(null),
        PageViews.whom(whole, app),
        found.get().face().contact().isEmpty()
            ? app.profile().contact()
            : found.get().face().contact(),
        found.get().face().needs().stream()
            .flatMap(need -> Stream.ofNullable(world.lost(whole, viewer.person(), need)))
            .max(Comparator.naturalOrder())
            .orElse(null));
  }
}
