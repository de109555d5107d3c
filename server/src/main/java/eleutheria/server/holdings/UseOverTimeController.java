package eleutheria.server.holdings;

import static eleutheria.server.tables.Tables.OPENING;
import static eleutheria.server.tables.Tables.SIGNIN_EVENT;
import static eleutheria.server.tables.Tables.SIGN_IN_DAY;

import eleutheria.core.access.Reading;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import eleutheria.server.use.UseFigures;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
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
  private final ServerSettings settings;

  UseOverTimeController(DSLContext db, World world, UseFigures figures, ServerSettings settings) {
    this.db = db;
    this.world = world;
    this.figures = figures;
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
    List<LocalDate> weeks = figures.weeks(WEEKS);
    LocalDate first = weeks.getFirst();
    PortalView whole = world.whole();
    boolean all = viewer.authority().hasEverywhere(Power.USE_READ);
    Map<ApplicationId, int[]> byApp = figures.byApp(viewer, whole, WEEKS);
    List<AppUse> apps =
        whole.access().apps().applications().stream()
            .filter(app -> byApp.containsKey(app.id()))
            .map(
                app ->
                    new AppUse(
                        AppRef.of(app), whole.access().holders(app).size(), byApp.get(app.id())))
            .sorted(Comparator.comparing((AppUse a) -> -Arrays.stream(a.openings()).sum()))
            .toList();
    int[] signIns = new int[all ? WEEKS : 0];
    int[] failures = new int[all ? WEEKS : 0];
    if (all) {
      signIns(first, signIns, failures);
    }
    return new UseOverTime(weeks, signIns, failures, apps, settings.useKept().toDays());
  }

  private static int weekOf(LocalDate first, LocalDate day) {
    return (int) (ChronoUnit.DAYS.between(first, day) / 7);
  }

  private void signIns(LocalDate first, int[] signIns, int[] failures) {
    LocalDate uncounted = figures.uncounted(first);
    db.selectFrom(SIGN_IN_DAY)
        .where(SIGN_IN_DAY.ON_DAY.ge(first), SIGN_IN_DAY.ON_DAY.lt(uncounted))
        .forEach(
            r -> {
              signIns[weekOf(first, r.getOnDay())] += r.getSignIns();
              failures[weekOf(first, r.getOnDay())] += r.getFailures();
            });
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS)
        .from(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.HAPPENED_AT.ge(figures.start(uncounted)))
        .forEach(
            r ->
                (r.value2() ? signIns : failures)
                    [Math.min(WEEKS - 1, figures.week(first, r.value1()))]++);
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
    Reading reading = new Reading(viewer.authority(), world.now());
    Person person =
        whole
            .directory()
            .person(new PersonId(id))
            .filter(p -> reading.seesAllUse(p.id()))
            .orElseThrow(() -> Refusal.of(Problem.absent("person")));
    List<LocalDate> weeks = figures.weeks(UseFigures.WEEKS);
    LocalDate first = weeks.getFirst();
    int[] signIns = new int[UseFigures.WEEKS];
    int[] failures = new int[UseFigures.WEEKS];
    Instant[] last = {null};
    List<FailedSignIn> failed = new ArrayList<>();
    db.select(SIGNIN_EVENT.HAPPENED_AT, SIGNIN_EVENT.SUCCESS, SIGNIN_EVENT.ADDRESS)
        .from(SIGNIN_EVENT)
        .where(SIGNIN_EVENT.PERSON_ID.eq(id), SIGNIN_EVENT.HAPPENED_AT.ge(figures.start(first)))
        .orderBy(SIGNIN_EVENT.HAPPENED_AT.desc())
        .forEach(
            r -> {
              int week = Math.min(UseFigures.WEEKS - 1, figures.week(first, r.value1()));
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
        .where(OPENING.PERSON_ID.eq(id), OPENING.HAPPENED_AT.ge(figures.start(first)))
        .forEach(
            r -> {
              openings
                  .computeIfAbsent(r.value1(), t -> new int[UseFigures.WEEKS])[
                  Math.min(UseFigures.WEEKS - 1, figures.week(first, r.value2()))]++;
              opened.merge(r.value1(), r.value2(), (a, b) -> a.isAfter(b) ? a : b);
            });
    return new PersonUse(
        PersonLine.by(reading, person),
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
