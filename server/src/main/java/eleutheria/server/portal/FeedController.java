package eleutheria.server.portal;

import static eleutheria.server.tables.Tables.FEED;

import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.PortalView;
import eleutheria.core.signon.AccountDecisions;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.signon.Door;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import java.net.URI;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
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
class FeedController implements Door {
  private static final int BYTES = 32;
  private static final Duration NOTED = Duration.ofHours(1);
  private static final String BEARER = "Bearer ";

  private final DSLContext db;
  private final World world;
  private final Acts acts;
  private final Clock clock;
  private final URI base;
  private final SecureRandom random = new SecureRandom();

  FeedController(DSLContext db, World world, Acts acts, Clock clock, ServerSettings settings) {
    this.db = db;
    this.world = world;
    this.acts = acts;
    this.clock = clock;
    this.base = settings.baseAddress();
  }

  @Override
  public void shut(DSLContext tx, PersonId person, @Nullable String keep) {
    tx.deleteFrom(FEED).where(FEED.PERSON_ID.eq(person.value())).execute();
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
    return db.select(FEED.MADE_AT, FEED.USED_AT)
        .from(FEED)
        .where(FEED.PERSON_ID.eq(viewer.person().value()))
        .fetchOptional(r -> new MyFeed(r.value1(), r.value2()))
        .orElse(new MyFeed(null, null));
  }

  /** Makes a token; an older one no longer works. */
  @PostMapping("/api/my/feed")
  @Needs(signedIn = true, fresh = true)
  NewFeed make(Viewer viewer) {
    byte[] bytes = new byte[BYTES];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    String hash = LedgerChain.hash(token);
    Instant now = clock.instant();
    acts.perform(
        viewer.actor(),
        null,
        PersonId.class,
        moment -> AccountDecisions.feed(viewer.person(), true),
        (tx, result, entry) ->
            tx.insertInto(FEED)
                .set(FEED.PERSON_ID, viewer.person().value())
                .set(FEED.TOKEN_HASH, hash)
                .set(FEED.MADE_AT, now)
                .onDuplicateKeyUpdate()
                .set(FEED.TOKEN_HASH, hash)
                .set(FEED.MADE_AT, now)
                .setNull(FEED.USED_AT)
                .execute());
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
          (tx, result, entry) -> shut(tx, viewer.person(), null));
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
    String hash = LedgerChain.hash(authorization.substring(BEARER.length()).strip());
    Optional<PersonId> found =
        db.select(FEED.PERSON_ID)
            .from(FEED)
            .where(FEED.TOKEN_HASH.eq(hash))
            .fetchOptional(r -> new PersonId(r.value1()));
    if (found.isEmpty()) {
      throw closed();
    }
    Instant now = clock.instant();
    db.update(FEED)
        .set(FEED.USED_AT, now)
        .where(
            FEED.TOKEN_HASH.eq(hash), FEED.USED_AT.isNull().or(FEED.USED_AT.lt(now.minus(NOTED))))
        .execute();
    return found.get();
  }

  private static Refusal closed() {
    return Refusal.of(Problem.forbidden("feed.token", "This needs a valid token."));
  }
}
