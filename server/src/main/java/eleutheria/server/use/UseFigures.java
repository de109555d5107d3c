package eleutheria.server.use;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.OPENING_DAY;
import static eleutheria.server.tables.Tables.SIGN_IN_DAY;

import eleutheria.core.access.Reading;
import eleutheria.core.apps.Application;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.settings.Organisation;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.IntStream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How often something is opened, by week. Of one named person only for whoever may see that. */
@Component
public class UseFigures {
  public static final int WEEKS = 26;

  /** Of more people than this no figures are told; an app's own stand under Use. */
  public static final int MOST_ASKED = 2_000;

  private final DSLContext db;
  private final Organisation organisation;
  private final Clock clock;

  UseFigures(DSLContext db, Organisation organisation, Clock clock) {
    this.db = db;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * @param weeks openings by week, the last being this week
   * @param last null where there was none
   */
  public record Marked(int[] weeks, @Nullable Instant last) {}

  public LocalDate thisMonday() {
    return clock
        .instant()
        .atZone(organisation.zone())
        .toLocalDate()
        .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
  }

  /**
   * Openings of what tells the use of an entitlement.
   *
   * @param people by these alone
   * @return null where nothing tells its use, there are too many or none of them, or the reader may
   *     not know
   */
  public @Nullable Marked of(
      Viewer viewer, PortalView whole, EntitlementId entitlement, List<PersonId> people) {
    List<UUID> tiles =
        whole.tiles().stream()
            .filter(t -> t.face().needs().contains(entitlement))
            .map(t -> t.id().value())
            .toList();
    if (tiles.isEmpty()
        || people.isEmpty()
        || people.size() > MOST_ASKED
        || (people.size() < Reading.FEWEST && !seesEach(viewer, whole, entitlement, people))) {
      return null;
    }
    Condition those =
        OPENING
            .TILE_ID
            .in(tiles)
            .and(OPENING.PERSON_ID.in(people.stream().map(PersonId::value).toList()));
    LocalDate first = thisMonday().minusWeeks(WEEKS - 1);
    int[] weeks = new int[WEEKS];
    Instant[] last = {null};
    var day = DSL.cast(OPENING.HAPPENED_AT, LocalDate.class);
    db.select(day, DSL.count(), DSL.max(OPENING.HAPPENED_AT))
        .from(OPENING)
        .where(those, OPENING.HAPPENED_AT.ge(start(first)))
        .groupBy(day)
        .forEach(
            r -> {
              Instant at = r.value3();
              weeks[week(first, at, WEEKS)] += r.value2();
              last[0] = last[0] == null || at.isAfter(last[0]) ? at : last[0];
            });
    return new Marked(weeks, last[0]);
  }

  private static boolean seesEach(
      Viewer viewer, PortalView whole, EntitlementId entitlement, List<PersonId> people) {
    Reading reading = new Reading(viewer.authority(), whole.directory());
    return whole
        .access()
        .apps()
        .entitlement(entitlement)
        .filter(e -> people.stream().allMatch(person -> reading.seesUse(e.application(), person)))
        .isPresent();
  }

  /** The Mondays on which so many weeks begin; the last is this week's. */
  public List<LocalDate> weeks(int count) {
    LocalDate monday = thisMonday();
    return IntStream.rangeClosed(1, count).mapToObj(i -> monday.minusWeeks(count - i)).toList();
  }

  /** The week of a moment among so many, the first of which begins on a Monday. */
  int week(LocalDate first, Instant at, int count) {
    LocalDate day = at.atZone(organisation.zone()).toLocalDate();
    return Math.clamp(ChronoUnit.DAYS.between(first, day) / 7, 0, count - 1);
  }

  /** The beginning of a day, in the organisation's zone. */
  Instant start(LocalDate day) {
    return day.atStartOfDay(organisation.zone()).toInstant();
  }

  /** The first day since another that is not counted yet. */
  LocalDate uncounted(LocalDate first) {
    LocalDate last =
        db.select(DSL.max(SIGN_IN_DAY.ON_DAY)).from(SIGN_IN_DAY).fetchOne(0, LocalDate.class);
    return last == null || last.isBefore(first) ? first : last.plusDays(1);
  }

  /**
   * Openings by week of every application whose use the reader may see: it is theirs, or their
   * power reaches it. Of one with few holders only for whoever may see what each of them uses.
   *
   * @return by application as many figures as weeks; 0 where nothing was opened
   */
  public Map<ApplicationId, int[]> byApp(Viewer viewer, PortalView whole, int weeks) {
    Map<UUID, int[]> byTile = byTile(weeks);
    Map<ApplicationId, int[]> found = new HashMap<>();
    Reading reading = new Reading(viewer.authority(), whole.directory());
    for (Application app : whole.access().apps().applications()) {
      if (reading.seesFigures(app.id(), whole.access().holders(app).size())) {
        found.put(app.id(), new int[weeks]);
      }
    }
    for (Tile tile : whole.tiles()) {
      ApplicationId app = tile.face().application();
      int[] sum = app == null ? null : found.get(app);
      int[] own = byTile.get(tile.id().value());
      if (sum != null && own != null) {
        Arrays.setAll(sum, i -> sum[i] + own[i]);
      }
    }
    return found;
  }

  /** By tile and week: days that are counted, and the events of those that are not. */
  Map<UUID, int[]> byTile(int weeks) {
    LocalDate first = thisMonday().minusWeeks(weeks - 1L);
    LocalDate uncounted = uncounted(first);
    Map<UUID, int[]> found = new HashMap<>();
    db.select(OPENING_DAY.TILE_ID, OPENING_DAY.ON_DAY, OPENING_DAY.OPENINGS)
        .from(OPENING_DAY)
        .where(OPENING_DAY.ON_DAY.ge(first), OPENING_DAY.ON_DAY.lt(uncounted))
        .forEach(
            r ->
                found
                        .computeIfAbsent(r.value1(), t -> new int[weeks])[
                        (int) (ChronoUnit.DAYS.between(first, r.value2()) / 7)] +=
                    r.value3());
    db.select(OPENING.TILE_ID, OPENING.HAPPENED_AT)
        .from(OPENING)
        .where(OPENING.HAPPENED_AT.ge(start(uncounted)))
        .forEach(
            r ->
                found
                    .computeIfAbsent(r.value1(), t -> new int[weeks])[
                    week(first, r.value2(), weeks)]++);
    return found;
  }

  /** What one person opened in these weeks, by tile. */
  Map<TileId, Marked> byTileOf(PersonId person, int weeks) {
    LocalDate first = thisMonday().minusWeeks(weeks - 1L);
    Map<TileId, Marked> found = new HashMap<>();
    db.select(OPENING.TILE_ID, OPENING.HAPPENED_AT)
        .from(OPENING)
        .where(OPENING.PERSON_ID.eq(person.value()), OPENING.HAPPENED_AT.ge(start(first)))
        .orderBy(OPENING.HAPPENED_AT)
        .forEach(
            r -> {
              TileId tile = new TileId(r.value1());
              Marked known = found.get(tile);
              int[] own = known == null ? new int[weeks] : known.weeks();
              own[week(first, r.value2(), weeks)]++;
              found.put(tile, new Marked(own, r.value2()));
            });
    return found;
  }
}
