package eleutheria.server.directory;

import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.NearWords;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.mandates.Power;
import eleutheria.server.reach.Reached;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.PersonView;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Finds people, groups, applications and entitlements by any part of a name, a number or an
 * address.
 */
@RestController
class FindController {
  private static final int MOST = 8;

  /** How much of a name an owner types before anybody is named. */
  private static final int SHORTEST = 3;

  private final World world;

  FindController(World world) {
    this.world = world;
  }

  /**
   * @param people the first eight
   * @param groups the first eight; likewise applications and entitlements
   */
  record Found(
      List<PersonLine> people,
      int peopleTotal,
      List<PersonView.GroupRef> groups,
      int groupsTotal,
      List<AppRef> apps,
      List<EntitlementRef> entitlements) {}

  @GetMapping("/api/find")
  @Needs(
      value = {Power.PEOPLE_READ, Power.APPS_READ},
      orGroupOwner = true,
      orOwnerOf = {ObjectKind.APPLICATION, ObjectKind.COLLECTION})
  Found find(Viewer viewer, @RequestParam String text) {
    Reached reached = Reached.by(viewer, world.now(), world.now());
    String wanted = Folding.bare(text.strip());
    if (wanted.isEmpty()) {
      return new Found(List.of(), 0, List.of(), 0, List.of(), List.of());
    }
    boolean reads = viewer.authority().has(Power.PEOPLE_READ);
    // Owners must be able to name whom they add, and learn no more than name and unit. Whoever only
    // reads apps names nobody.
    boolean names =
        viewer.authority().ownsAny(ObjectKind.GROUP)
            || viewer.authority().ownsAny(ObjectKind.APPLICATION)
            || viewer.authority().ownsAny(ObjectKind.COLLECTION);
    List<Person> people =
        reads
            ? reached.people().stream().filter(p -> p.foundBy(wanted)).toList()
            : !names || wanted.length() < SHORTEST
                ? List.of()
                : reached.directory().people().stream()
                    .filter(p -> p.status() != PersonStatus.DEPARTED)
                    .filter(p -> Folding.bare(p.name().displayed()).contains(wanted))
                    .toList();
    AppsView apps = world.whole().access().apps();
    var groups =
        reached.directory().groups().stream()
            .filter(g -> reads || viewer.authority().owns(g.id()))
            .filter(g -> Folding.bare(g.name()).contains(wanted))
            .toList();
    return new Found(
        people.stream()
            .limit(MOST)
            .map(p -> reads ? PersonLine.of(p) : PersonLine.named(p))
            .toList(),
        reads ? people.size() : Math.min(MOST, people.size()),
        groups.stream().limit(MOST).map(g -> PersonView.ref(reached.directory(), g.id())).toList(),
        groups.size(),
        NearWords.find(
                apps.applications().stream().filter(a -> readsApp(viewer, a.id())).toList(),
                text,
                a ->
                    List.of(
                        a.name(), a.profile().line(), String.join(" ", a.profile().nicknames())))
            .stream()
            .limit(MOST)
            .map(AppRef::of)
            .toList(),
        NearWords.find(
                apps.entitlements().stream()
                    .filter(e -> readsApp(viewer, e.application()))
                    .toList(),
                text,
                e -> List.of(e.title(), e.role().line()))
            .stream()
            .limit(MOST)
            .map(e -> EntitlementRef.of(apps, e))
            .toList());
  }

  private static boolean readsApp(Viewer viewer, ApplicationId app) {
    return viewer.authority().reaches(Power.APPS_READ, app) || viewer.authority().owns(app);
  }
}
