package eleutheria.server.use;

import static eleutheria.server.tables.Tables.OPENING;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.engine.Engine;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.access.engine.Seen;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.access.engine.Throughout;
import eleutheria.core.access.engine.Unused;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.IntFunction;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.stereotype.Component;

/**
 * Who is known not to have used what: an opening of a tile tells use of every entitlement that the
 * tile needs. An entitlement that no tile needs, or whose tiles have not been watched for long
 * enough, tells nothing.
 */
@Component
public class UseBook {
  /**
   * For so many days something is left alone to be called unused, unless a query says otherwise.
   */
  public static final int DAYS = 90;

  private final DSLContext db;
  private final World world;
  private final Organisation organisation;
  private final Clock clock;
  private final Cache<Integer, Watched> watched =
      Caffeine.newBuilder().maximumSize(3).softValues().build();

  UseBook(DSLContext db, World world, Organisation organisation, Clock clock) {
    this.db = db;
    this.world = world;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * @param engine whose numbers are used; another one numbers people anew
   * @param from the beginning of the days that are watched
   * @param read until when openings have been read
   * @param openers by tile who opened it
   */
  private record Watched(
      Engine engine,
      Instant from,
      Instant read,
      Map<UUID, RoaringBitmap> openers,
      Throughout throughout) {}

  /** The beginning of the day so many days ago, in the organisation's zone. */
  public Instant daysAgo(int days) {
    LocalDate today = clock.instant().atZone(organisation.zone()).toLocalDate();
    return today.minusDays(days).atStartOfDay(organisation.zone()).toInstant();
  }

  /**
   * By number of an entitlement who has held it for so many days and not used it; null where that
   * is not known. Of the present alone.
   *
   * @param seen whose use the reader may see
   */
  public IntFunction<@Nullable RoaringBitmap> unused(
      PortalView whole, Snapshot snapshot, Seen seen, int days) {
    Instant from = daysAgo(days);
    Instant begins = world.begins();
    if (begins == null || begins.isAfter(from) || !watchedSince(from)) {
      return e -> null;
    }
    Watched known = watched(days, from, snapshot);
    // What a tile told the use of then and what one tells it of now: between, nothing was left
    // unseen.
    List<Tile> then = world.whole(from).tiles();
    Set<EntitlementId> watched = new HashSet<>();
    then.forEach(tile -> watched.addAll(tile.face().needs()));
    Map<Integer, RoaringBitmap> used = new HashMap<>();
    for (Tile tile : whole.tiles()) {
      for (EntitlementId each : tile.face().needs()) {
        if (watched.contains(each)) {
          used.put(snapshot.number(each), new RoaringBitmap());
        }
      }
    }
    for (List<Tile> tiles : List.of(then, whole.tiles())) {
      for (Tile tile : tiles) {
        RoaringBitmap openers = known.openers().get(tile.id().value());
        for (EntitlementId each : tile.face().needs()) {
          if (openers != null) {
            used.computeIfPresent(
                snapshot.number(each), (e, people) -> RoaringBitmap.or(people, openers));
          }
        }
      }
    }
    return Unused.of(known.throughout(), seen, used::get);
  }

  /**
   * Whether a person is known not to have used each thing that they hold; what nothing tells the
   * use of is absent. Of the present alone.
   */
  public Map<EntitlementId, Boolean> unused(PortalView whole, PersonId person) {
    Snapshot snapshot = ((EngineAccess) whole.access()).snapshot();
    int number = snapshot.number(person);
    IntFunction<@Nullable RoaringBitmap> unused =
        unused(whole, snapshot, Seen.everything(snapshot), DAYS);
    Map<EntitlementId, Boolean> found = new HashMap<>();
    for (Entitlement each : whole.access().holdings(person)) {
      RoaringBitmap people = unused.apply(snapshot.number(each.id()));
      if (people != null) {
        found.put(each.id(), people.contains(number));
      }
    }
    return found;
  }

  /**
   * Whether events of use are on record for all the time since a moment. Those that were counted
   * and let go name nobody, so who used something before is not known any more.
   */
  private boolean watchedSince(Instant from) {
    Instant first =
        db.select(OPENING.HAPPENED_AT)
            .from(OPENING)
            .orderBy(OPENING.HAPPENED_AT)
            .limit(1)
            .fetchOne(OPENING.HAPPENED_AT);
    return first != null && first.isBefore(from);
  }

  private synchronized Watched watched(int days, Instant from, Snapshot snapshot) {
    Watched known = watched.getIfPresent(days);
    Instant now = clock.instant();
    Engine engine = world.engine();
    Snapshot newest = engine.now();
    Throughout throughout;
    Map<UUID, RoaringBitmap> openers = new HashMap<>();
    Instant since;
    if (known == null
        || known.engine() != engine
        || !known.from().equals(from)
        || known.throughout().last().at().isAfter(newest.at())) {
      throughout = Throughout.of(engine, from, newest);
      since = from;
    } else {
      throughout =
          known.throughout().last() == newest
              ? known.throughout()
              : known.throughout().until(engine, newest);
      openers.putAll(known.openers());
      // What others write meanwhile may become visible a moment later.
      since = known.read().minusSeconds(30);
    }
    Map<UUID, RoaringBitmap> fresh = new HashMap<>();
    db.selectDistinct(OPENING.TILE_ID, OPENING.PERSON_ID)
        .from(OPENING)
        .where(OPENING.HAPPENED_AT.ge(since))
        .forEach(
            r -> {
              int person = snapshot.number(new PersonId(r.value2()));
              if (person >= 0) {
                fresh.computeIfAbsent(r.value1(), t -> new RoaringBitmap()).add(person);
              }
            });
    fresh.forEach((tile, people) -> openers.merge(tile, people, (a, b) -> RoaringBitmap.or(a, b)));
    Watched next = new Watched(engine, from, now, openers, throughout);
    watched.put(days, next);
    return next;
  }
}
