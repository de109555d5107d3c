package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.OPENING_DAY;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;
import static eleutheria.server.tables.Tables.SIGN_IN_DAY;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.access.Reading;
import eleutheria.server.apps.AppRef;
import eleutheria.server.directory.PersonLine;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Refusal;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/**
 * Sign-ins and openings by week: of all, of each app, and of one person for whoever may see that.
 */
@RestController
class UseOverTimeController {
  private static final int WEEKS = 104;
  private static final int MOST_FAILURES = 20;

  private final DSLContext db;
  private final World world;
  private final UseFigures figures;
  private final Organisation organisation;
  private final ServerSettings settings;

  UseOverTimeController(
      DSLContext db,
      World world,
      UseFigures figures,
      Organisation organisation,
      ServerSettings settings) {
    this.db = db;
    this.world = world;
    this.figures = figures;
    this.organisation = organisation;
    this.settings = settings;
  }

  /**
   * @param openings by week, as many as there are weeks
   * @param holders how many people hold anything of it now
   */
  record AppUse(AppRef app, int holders, int[] openings) {}

  /**
   * @param weeks the Mondays on which they begin, in the organisation's zone; the last is this week
   * @param signIns that succeeded, by week; empty where only one's own apps are told
   * @param failures that did not
   * @param keptDays for how many days events are kept that name somebody
   */
  record UseOverTime(
      List<LocalDate> weeks, int[] signIns, int[] failures, List<AppUse> apps, long keptDays) {}

  @GetMapping("/api/use")
  @Needs(value = Power.USE_READ, orOwnerOf = ObjectKind.APPLICATION)
  UseOverTime use(Viewer viewer) {
    List<LocalDate> weeks = weeks(WEEKS);
    LocalDate first = weeks.getFirst();
    PortalView whole = world.whole();
    boolean all = viewer.authority().units(Power.USE_READ) == null;
    Map<UUID, int[]> byTile = byTile(first);
    Map<ApplicationId, int[]> byApp = new HashMap<>();
    for (Tile tile : whole.tiles()) {
      int[] own = byTile.get(tile.id().value());
      ApplicationId app = tile.face().application();
      if (own != null && app != null) {
        int[] sum = byApp.computeIfAbsent(app, a -> new int[WEEKS]);
        for (int i = 0; i < WEEKS; i++) {
          sum[i] += own[i];
        }
      }
    }
    List<AppUse> apps =
        whole.access().apps().applications().stream()
            .filter(
                app ->
                    viewer.authority().owns(app.id())
                        || viewer.authority().reaches(Power.USE_READ, app.id()))
            .map(
                app ->
                    new AppUse(
                        AppRef.of(app),
                        app.entitlements().stream()
                            .mapToInt(e -> whole.access().holders(e.id()).size())
                            .max()
                            .orElse(0),
                        byApp.getOrDefault(app.id(), new int[WEEKS])))
            .sorted(
                Comparator.comparing((AppUse a) -> -java.util.Arrays.stream(a.openings()).sum()))
            .toList();
    int[] signIns = new int[all ? WEEKS : 0];
    int[] failures = new int[all ? WEEKS : 0];
    if (all) {
      signIns(first, signIns, failures);
    }
    return new UseOverTime(weeks, signIns, failures, apps, settings.useKept().toDays());
  }

  private List<LocalDate> weeks(int count) {
    LocalDate monday = figures.thisMonday();
    List<LocalDate> weeks = new ArrayList<>();
    for (int i = count - 1; i >= 0; i--) {
      weeks.add(monday.minusWeeks(i));
    }
    return weeks;
  }

  private static int week(LocalDate first, LocalDate day) {
    return (int) (ChronoUnit.DAYS.between(first, day) / 7);
  }

  private Instant start(LocalDate day) {
    return day.atStartOfDay(organisation.zone()).toInstant();
  }

  /** The first day that is not counted yet. */
  private LocalDate uncounted(LocalDate first) {
    LocalDate last =
        db.select(DSL.max(SIGN_IN_DAY.ON_DAY)).from(SIGN_IN_DAY).fetchOne(0, LocalDate.class);
    return last == null || last.isBefore(first) ? first : last.plusDays(1);
  }

  /** By tile and week: days that are counted, and the events of those that are not. */
  private Map<UUID, int[]> byTile(LocalDate first) {
    Map<UUID, int[]> found = new HashMap<>();
    LocalDate uncounted = uncounted(first);
    db.select(OPENING_DAY.TILE_ID, OPENING_DAY.ON_DAY, OPENING_DAY.OPENINGS)
        .from(OPENING_DAY)
        .where(OPENING_DAY.ON_DAY.ge(first), OPENING_DAY.ON_DAY.lt(uncounted))
        .forEach(
            r ->
                found.computeIfAbsent(r.value1(), t -> new int[WEEKS])[week(first, r.value2())] +=
                    r.value3());
    db.select(OPENING.TILE_ID, OPENING.HAPPENED_AT)
        .from(OPENING)
        .where(OPENING.HAPPENED_AT.ge(start(uncounted)))
        .forEach(
            r ->
                found
                    .computeIfAbsent(r.value1(), t -> new int[WEEKS])[
                    Math.min(WEEKS - 1, week(first, day(r.value2())))]++);
    return found;
  }

  private LocalDate day(Instant at) {
    return at.atZone(organisation.zone()).toLocalDate();
  }

  private void signIns(LocalDate first, int[] signIns, int[] failures) {
    LocalDate uncounted = uncounted(first);
    db.selectFrom(SIGN_IN_DAY)
        .where(SIGN_IN_DAY.ON_DAY.ge(first), SIGN_IN_DAY.ON_DAY.lt(uncounted))
        .forEach(
            r -> {
              signIns[week(first, r.getOnDay())] += r.getSignIns();
              failures[week(first, r.getOnDay())] += r.getFailures();
            });
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS)
        .from(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.HAPPENED_AT.ge(start(uncounted)))
        .forEach(
            r ->
                (r.value2() ? signIns : failures)
                    [Math.min(WEEKS - 1, week(first, day(r.value1())))]++);
  }

  // ---- of one person

  /**
   * @param openings by week of the last 26
   */
  record TileOpenings(String tile, String name, int[] openings, Instant last) {}

  record FailedSignIn(Instant at, String address) {}

  /**
   * @param signIns by week of the last 26
   * @param failed the newest first
   */
  record PersonUse(
      PersonLine person,
      List<LocalDate> weeks,
      int[] signIns,
      int[] failures,
      @Nullable Instant lastSignIn,
      List<FailedSignIn> failed,
      List<TileOpenings> tiles) {}

  /** When a person used what: only for whoever may see that, and for the person. */
  @GetMapping("/api/people/{id}/use")
  @Needs(signedIn = true)
  PersonUse person(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    Person person =
        whole
            .directory()
            .person(new PersonId(id))
            .filter(
                p ->
                    p.id().equals(viewer.person())
                        || viewer.authority().reaches(Power.USE_READ, p.value(Attributes.UNIT)))
            .orElseThrow(() -> Refusal.of(Problem.absent("person")));
    List<LocalDate> weeks = weeks(UseFigures.WEEKS);
    LocalDate first = weeks.getFirst();
    int[] signIns = new int[UseFigures.WEEKS];
    int[] failures = new int[UseFigures.WEEKS];
    Instant[] last = {null};
    List<FailedSignIn> failed = new ArrayList<>();
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS, SIGNIN_EVENT.ADDRESS)
        .from(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.PERSON_ID.eq(id), SIGNIN_EVENT.HAPPENED_AT.ge(start(first)))
        .orderBy(SIGNIN_EVENT.HAPPENED_AT.desc())
        .forEach(
            r -> {
              int week = Math.min(UseFigures.WEEKS - 1, week(first, day(r.value1())));
              if (r.value2()) {
                signIns[week]++;
                last[0] = last[0] == null ? r.value1() : last[0];
              } else {
                failures[week]++;
                if (failed.size() < MOST_FAILURES) {
                  failed.add(new FailedSignIn(r.value1(), r.value3()));
                }
              }
            });
    Map<UUID, int[]> openings = new HashMap<>();
    Map<UUID, Instant> opened = new HashMap<>();
    db.select(OPENING.TILE_ID, OPENING.HAPPENED_AT)
        .from(OPENING)
        .where(OPENING.PERSON_ID.eq(id), OPENING.HAPPENED_AT.ge(start(first)))
        .forEach(
            r -> {
              openings
                  .computeIfAbsent(r.value1(), t -> new int[UseFigures.WEEKS])[
                  Math.min(UseFigures.WEEKS - 1, week(first, day(r.value2())))]++;
              opened.merge(r.value1(), r.value2(), (a, b) -> a.isAfter(b) ? a : b);
            });
    return new PersonUse(
        new Reading(viewer.authority(), world.now()).line(person),
        weeks,
        signIns,
        failures,
        last[0],
        failed,
        whole.tiles().stream()
            .filter(t -> openings.containsKey(t.id().value()))
            .map(
                t ->
                    new TileOpenings(
                        t.id().value().toString(),
                        t.name(),
                        openings.get(t.id().value()),
                        opened.get(t.id().value())))
            .sorted(Comparator.comparing(TileOpenings::last).reversed())
            .toList());
  }
}
