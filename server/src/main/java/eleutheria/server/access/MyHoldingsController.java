package eleutheria.server.access;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.HandBackDecisions;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Wish;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonView;
import eleutheria.server.state.World;
import eleutheria.server.use.Openings;
import eleutheria.server.use.UseBook;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Looking;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What one holds oneself, why, and giving it back. */
@NullMarked
@RestController
class MyHoldingsController {
  private final World world;
  private final Looking looking;
  private final Acts acts;
  private final Grounds grounds;
  private final Openings openings;
  private final UseBook use;

  MyHoldingsController(
      World world, Looking looking, Acts acts, Grounds grounds, Openings openings, UseBook use) {
    this.world = world;
    this.looking = looking;
    this.acts = acts;
    this.grounds = grounds;
    this.openings = openings;
    this.use = use;
  }

  record MyHoldings(List<MyHolding> holdings) {}

  /**
   * @param since the start of the unbroken time of holding
   * @param until when it ends by itself; null if it does not
   * @param lastOpened when a tile that needs it was opened last; null if never, or if none needs it
   * @param opens whether any tile needs it
   * @param unused whether it is known to have been held and not used for 90 days
   * @param askable whether one could ask to keep it longer
   * @param whom the owners of its application, by name
   * @param contact whom to call about it
   */
  record MyHolding(
      EntitlementRef entitlement,
      @Nullable Instant since,
      @Nullable Instant until,
      @Nullable Instant lastOpened,
      boolean opens,
      boolean unused,
      boolean askable,
      List<String> whom,
      String contact,
      List<GroundView> grounds) {}

  @GetMapping("/api/my/holdings")
  @Needs(signedIn = true)
  MyHoldings holdings(Viewer viewer) {
    PortalView whole = world.whole();
    Map<EntitlementId, Instant> last = openings.lastOf(whole, viewer.person());
    Map<EntitlementId, Boolean> unused = use.unused(whole, viewer.person());
    return new MyHoldings(
        whole.access().holdings(viewer.person()).stream()
            .map(each -> holding(viewer, whole, each, last, unused))
            .toList());
  }

  /** What a tile is held by: everything that opens it, with every ground. */
  @GetMapping("/api/my/tiles/{tile}/holdings")
  @Needs(signedIn = true)
  MyHoldings ofTile(Viewer viewer, @PathVariable UUID tile) {
    PortalView whole = world.whole();
    Map<EntitlementId, Instant> last = openings.lastOf(whole, viewer.person());
    Map<EntitlementId, Boolean> unused = use.unused(whole, viewer.person());
    return new MyHoldings(
        whole.tile(new TileId(tile)).stream()
            .flatMap(found -> whole.needs(found).stream())
            .filter(need -> whole.access().holds(viewer.person(), need.id()))
            .map(each -> holding(viewer, whole, each, last, unused))
            .toList());
  }

  private MyHolding holding(
      Viewer viewer,
      PortalView whole,
      Entitlement e,
      Map<EntitlementId, Instant> last,
      Map<EntitlementId, Boolean> unused) {
    AccessView access = whole.access();
    Application app = access.apps().applicationOf(e);
    return new MyHolding(
        EntitlementRef.of(access.apps(), e),
        world.since(whole, viewer.person(), e.id()),
        access.ends(viewer.person(), e.id()),
        last.get(e.id()),
        whole.tiles().stream().anyMatch(tile -> tile.face().needs().contains(e.id())),
        unused.getOrDefault(e.id(), false),
        access.entitledUntil(viewer.person(), e.id()) != null
            && e.role().requestable()
            && Deciders.resolves(access, Wish.own(viewer.person(), e.id())),
        owners(access, app),
        app.profile().contact(),
        grounds.of(viewer, access, viewer.person(), e, false));
  }

  /**
   * What handing something back would do.
   *
   * @param grants that would end
   * @param groups that one would leave
   * @param gone whether it is gone then; otherwise it stays on the grounds that remain
   * @param remains grounds that others keep, each in a word: group, filter
   * @param loses what else one would no longer hold
   * @param tiles names of the tiles that would no longer open
   */
  record HandBack(
      EntitlementRef entitlement,
      List<String> grants,
      List<PersonView.GroupRef> groups,
      boolean gone,
      List<GroundView> remains,
      List<EntitlementRef> loses,
      List<String> tiles,
      List<String> whom) {}

  @GetMapping("/api/my/holdings/{id}/hand-back")
  @Needs(signedIn = true)
  HandBack handBack(Viewer viewer, @PathVariable UUID id) {
    EntitlementId wanted = new EntitlementId(id);
    PersonId person = viewer.person();
    AccessView now = world.whole().access();
    if (!now.entitled(person, wanted)) {
      throw Refusal.of(Problem.absent("holding"));
    }
    Entitlement entitlement = now.apps().entitlement(wanted).orElseThrow();
    List<GroundView> all = grounds.of(viewer, now, person, entitlement, false);
    return looking.as(
        viewer,
        (moment, whole) -> {
          AccessView access = whole.access();
          HandBackDecisions.Plan plan = HandBackDecisions.plan(moment, person, wanted);
          Set<String> remains =
              plan.remains().stream()
                  .map(ground -> ground.grant().id().value().toString())
                  .collect(Collectors.toSet());
          Set<EntitlementId> lost = HandBackDecisions.loses(moment, person, wanted, plan);
          return new HandBack(
              EntitlementRef.of(access.apps(), entitlement),
              plan.grants().stream().map(grant -> grant.value().toString()).toList(),
              plan.groups().stream()
                  .map(group -> PersonView.ref(access.directory(), group))
                  .toList(),
              lost.contains(wanted),
              all.stream().filter(ground -> remains.contains(ground.grant())).toList(),
              access.holdings(person).stream()
                  .filter(held -> lost.contains(held.id()) && !held.id().equals(wanted))
                  .map(held -> EntitlementRef.of(access.apps(), held))
                  .toList(),
              whole.tiles().stream()
                  .filter(tile -> whole.held(tile, person))
                  .filter(
                      tile ->
                          tile.face().needs().stream()
                              .noneMatch(
                                  need -> access.holds(person, need) && !lost.contains(need)))
                  .map(tile -> tile.name())
                  .toList(),
              owners(access, access.apps().applicationOf(entitlement)));
        });
  }

  private static List<String> owners(AccessView access, Application app) {
    return app.owners().stream()
        .flatMap(owner -> access.directory().person(owner).stream())
        .map(owner -> owner.name().displayed())
        .toList();
  }

  /** What was shown of it: if it differs by then, nothing is done. */
  record HandBackForm(
      @NotNull @Size(max = 500) List<UUID> grants, @NotNull @Size(max = 500) List<UUID> groups) {}

  @PostMapping("/api/my/holdings/{id}/hand-back")
  @Needs(signedIn = true)
  Receipt handBack(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody HandBackForm form,
      IdempotencyKey repeatKey) {
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            EntitlementId.class,
            moment ->
                HandBackDecisions.handBack(
                    moment,
                    viewer.person(),
                    new EntitlementId(id),
                    form.grants().stream().map(GrantId::new).collect(Collectors.toSet()),
                    form.groups().stream().map(GroupId::new).collect(Collectors.toSet()))));
  }
}
