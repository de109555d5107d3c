package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.OPENING_DAY;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.engine.Seen;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.access.engine.Throughout;
import eleutheria.core.access.engine.Unused;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.Organisation;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import java.util.UUID;
import java.util.function.IntFunction;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
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
   * @param from the beginning of the days that are watched
   * @param read until when openings have been read
   * @param openers by tile who opened it
   */
  private record Watched(
      Instant from, Instant read, Map<UUID, RoaringBitmap> openers, Throughout throughout) {}

  /** The beginning of the day so many days ago, in the organisation's zone. */
  Instant daysAgo(int days) {
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
    Instant first = watchedSince();
    Instant begins = world.begins();
    if (first == null || first.isAfter(from) || begins == null || begins.isAfter(from)) {
      return e -> null;
    }
    Watched known = watched(days, from, snapshot);
    Map<Integer, RoaringBitmap> used = new HashMap<>();
    for (Tile tile : whole.tiles()) {
      if (tile.begun().isAfter(from)) {
        continue;
      }
      RoaringBitmap openers = known.openers().getOrDefault(tile.id().value(), new RoaringBitmap());
      for (EntitlementId each : tile.face().needs()) {
        used.merge(snapshot.number(each), openers, (a, b) -> RoaringBitmap.or(a, b));
      }
    }
    return Unused.of(known.throughout(), seen, used::get);
  }

  /** From when on openings are on record, as events or as counts; null if there are none. */
  private @Nullable Instant watchedSince() {
    Instant event =
        db.select(OPENING.HAPPENED_AT)
            .from(OPENING)
            .orderBy(OPENING.HAPPENED_AT)
            .limit(1)
            .fetchOne(OPENING.HAPPENED_AT);
    LocalDate day =
        db.select(DSL.min(OPENING_DAY.ON_DAY)).from(OPENING_DAY).fetchOne(0, LocalDate.class);
    Instant counted = day == null ? null : day.atStartOfDay(organisation.zone()).toInstant();
    return event == null || (counted != null && counted.isBefore(event)) ? counted : event;
  }

  private synchronized Watched watched(int days, Instant from, Snapshot snapshot) {
    Watched known = watched.getIfPresent(days);
    Instant now = clock.instant();
    Snapshot newest = world.engine().now();
    boolean stale =
        known == null
            || !known.from().equals(from)
            || known.throughout().last().at().isAfter(newest.at());
    Throughout throughout =
        stale
            ? Throughout.of(world.engine(), from, newest)
            : known.throughout().last() == newest
                ? known.throughout()
                : known.throughout().until(world.engine(), newest);
    Map<UUID, RoaringBitmap> openers = stale ? new HashMap<>() : new HashMap<>(known.openers());
    Instant since = stale ? from : known.read();
    // What others write meanwhile may become visible a moment later.
    Map<UUID, RoaringBitmap> fresh = new HashMap<>();
    db.selectDistinct(OPENING.TILE_ID, OPENING.PERSON_ID)
        .from(OPENING)
        .where(OPENING.HAPPENED_AT.ge(since.minus(Duration.ofSeconds(stale ? 0 : 30))))
        .forEach(
            r -> {
              int person = snapshot.number(new PersonId(r.value2()));
              if (person >= 0) {
                fresh.computeIfAbsent(r.value1(), t -> new RoaringBitmap()).add(person);
              }
            });
    fresh.forEach((tile, people) -> openers.merge(tile, people, (a, b) -> RoaringBitmap.or(a, b)));
    Watched next = new Watched(from, now, openers, throughout);
    watched.put(days, next);
    return next;
  }
}
