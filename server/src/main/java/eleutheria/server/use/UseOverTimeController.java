package eleutheria.server.use;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.Reading;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
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

  private final World world;
  private final UseFigures figures;
  private final SignIns signIns;
  private final ServerSettings settings;

  UseOverTimeController(World world, UseFigures figures, SignIns signIns, ServerSettings settings) {
    this.world = world;
    this.figures = figures;
    this.signIns = signIns;
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
    PortalView whole = world.whole();
    boolean all = viewer.authority().hasEverywhere(Power.USE_READ);
    Map<ApplicationId, int[]> byApp = figures.byApp(viewer, whole, WEEKS);
    List<AppUse> apps =
        whole.access().apps().applications().stream()
            .filter(app -> byApp.containsKey(app.id()))
            .map(
                app ->
                    new AppUse(
                        AppRef.of(app),
                        whole.access().holders(app).size(),
                        requireNonNull(byApp.get(app.id()))))
            .sorted(Comparator.comparing((AppUse a) -> -Arrays.stream(a.openings()).sum()))
            .toList();
    SignIns.Weeks signed = all ? signIns.all(WEEKS) : new SignIns.Weeks(0);
    return new UseOverTime(
        figures.weeks(WEEKS),
        signed.succeeded(),
        signed.failed(),
        apps,
        settings.useKept().toDays());
  }

  // ---- of one person

  /**
   * @param openings by week of the last 26
   */
  record TileOpenings(String tile, String name, int[] openings, Instant last) {}

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
      List<SignIns.Failed> failed,
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
    SignIns.OfPerson signed = signIns.of(person.id(), UseFigures.WEEKS);
    Map<TileId, UseFigures.Marked> opened = figures.byTileOf(person.id(), UseFigures.WEEKS);
    return new PersonUse(
        PersonLine.by(reading, person),
        figures.weeks(UseFigures.WEEKS),
        signed.weeks().succeeded(),
        signed.weeks().failed(),
        signed.last(),
        signed.failures(),
        whole.tiles().stream()
            .filter(tile -> opened.containsKey(tile.id()))
            .map(tile -> openings(tile, requireNonNull(opened.get(tile.id()))))
            .sorted(Comparator.comparing(TileOpenings::last).reversed())
            .toList());
  }

  private static TileOpenings openings(Tile tile, UseFigures.Marked marked) {
    return new TileOpenings(
        tile.id().value().toString(), tile.name(), marked.weeks(), requireNonNull(marked.last()));
  }
}
