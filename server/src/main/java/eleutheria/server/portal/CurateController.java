package eleutheria.server.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.Collection;
import eleutheria.core.portal.PortalDecisions;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.server.access.SubjectView;
import eleutheria.server.apps.AppRef;
import eleutheria.server.directory.PersonLine;
import eleutheria.server.ledger.Commands;
import eleutheria.server.ledger.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Receipt;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Tiles and collections: looked at, made, arranged, ended. */
@RestController
class CurateController {
  private static final Duration USE = Duration.ofDays(30);

  private final World world;
  private final Commands commands;
  private final Openings openings;
  private final Clock clock;

  CurateController(World world, Commands commands, Openings openings, Clock clock) {
    this.world = world;
    this.commands = commands;
    this.openings = openings;
    this.clock = clock;
  }

  /**
   * All collections in the order of the front page, and all tiles by name.
   *
   * @param also how many tiles lie in no collection
   */
  record CuratedView(
      List<CollectionView> collections,
      List<CuratedTile> tiles,
      int also,
      boolean mayArrange,
      Instant at,
      long position) {}

  /**
   * @param everyone whether everyone sees it
   * @param audience who else sees it
   * @param people how many active people see it
   * @param none how many of those can open none of its tiles; likewise some, all
   */
  record CollectionView(
      String id,
      String name,
      String line,
      boolean everyone,
      List<SubjectView> audience,
      int people,
      int none,
      int some,
      int all,
      List<PersonLine> owners,
      List<PlaceView> places,
      boolean mayArrange,
      boolean mayCurate) {}

  record PlaceView(String tile, boolean offered) {}

  /**
   * @param needs holding any of these shows it
   * @param holders how many people can open it
   * @param openings how often it was opened in the last 30 days
   * @param collections how many collections it lies in
   */
  record CuratedTile(
      String id,
      String name,
      String line,
      String picture,
      String hue,
      AppRef app,
      List<NeedView> needs,
      int holders,
      int openings,
      int collections) {}

  record NeedView(String id, String name) {}

  record TileForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 1000) String line,
      @NotNull @Size(max = 20) String picture,
      @NotNull @Size(max = 10) String hue,
      @NotNull UUID application,
      @NotNull @Size(max = 200) List<UUID> needs) {
    FactValue.TileFace face() {
      SortedSet<EntitlementId> all = new TreeSet<>();
      needs.forEach(e -> all.add(new EntitlementId(e)));
      return new FactValue.TileFace(
          name.strip(), line.strip(), picture, hue, new ApplicationId(application), all);
    }
  }

  record ChangeTile(@NotNull @Valid TileForm base, @NotNull @Valid TileForm wanted) {}

  record AudienceForm(
      boolean everyone, @NotNull @Size(max = 200) List<SubjectView.@Valid SubjectForm> subjects) {
    FactValue.Audience audience() {
      return new FactValue.Audience(
          everyone, subjects.stream().map(SubjectView.SubjectForm::subject).toList());
    }
  }

  record CollectionForm(
      @NotNull @Size(max = 500) String name, @NotNull @Size(max = 1000) String line) {
    FactValue.CollectionFace face() {
      return new FactValue.CollectionFace(name, line);
    }
  }

  record MakeCollection(
      @NotNull @Valid CollectionForm face, @NotNull @Valid AudienceForm audience) {}

  record DescribeCollection(
      @NotNull @Valid CollectionForm base, @NotNull @Valid CollectionForm wanted) {}

  record SetAudience(@NotNull @Valid AudienceForm base, @NotNull @Valid AudienceForm wanted) {}

  record SetCollectionOwners(
      @NotNull @Size(max = 50) List<UUID> base, @NotNull @Size(max = 50) List<UUID> owners) {}

  record PlaceForm(@NotNull UUID tile, boolean offered) {}

  record Arrange(
      @NotNull @Size(max = 1000) List<UUID> base,
      @NotNull @Size(max = 1000) List<@Valid PlaceForm> tiles) {}

  record ArrangeFront(
      @NotNull @Size(max = 1000) List<UUID> base, @NotNull @Size(max = 1000) List<UUID> wanted) {}

  // ---- reading

  @GetMapping("/api/portal")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION)
  CuratedView portal(Viewer viewer, @RequestParam(required = false) @Nullable Instant asOf) {
    PortalView whole = world.whole(asOf);
    boolean now = asOf == null;
    Map<UUID, Integer> counts = openings.counts(clock.instant().minus(USE));
    Map<TileId, Long> lying =
        whole.collections().stream()
            .flatMap(c -> c.places().stream())
            .collect(
                java.util.stream.Collectors.groupingBy(
                    Collection.Placed::tile, java.util.stream.Collectors.counting()));
    return new CuratedView(
        whole.collections().stream()
            .filter(
                c ->
                    viewer.authority().reaches(Power.PORTAL_ARRANGE, c.id())
                        || viewer.authority().owns(c.id()))
            .map(c -> collection(viewer, whole, c, now))
            .toList(),
        whole.tiles().stream().map(t -> tile(whole, t, counts, lying)).toList(),
        (int) whole.tiles().stream().filter(t -> !lying.containsKey(t.id())).count(),
        now && viewer.authority().hasEverywhere(Power.PORTAL_ARRANGE),
        whole.at(),
        world.position());
  }

  private static CollectionView collection(
      Viewer viewer, PortalView whole, Collection c, boolean now) {
    AccessView access = whole.access();
    PortalView.Share share = whole.share(c);
    boolean curates = viewer.authority().reaches(Power.PORTAL_ARRANGE, c.id());
    return new CollectionView(
        c.id().value().toString(),
        c.name(),
        c.face().line(),
        c.audience().everyone(),
        c.audience().subjects().stream().map(s -> SubjectView.of(access, s)).toList(),
        share.none() + share.some() + share.all(),
        share.none(),
        share.some(),
        share.all(),
        c.owners().stream()
            .flatMap(o -> whole.directory().person(o).stream())
            .map(PersonLine::named)
            .toList(),
        c.places().stream()
            .map(p -> new PlaceView(p.tile().value().toString(), p.place().offered()))
            .toList(),
        now && (curates || viewer.authority().owns(c.id())),
        now && curates);
  }

  private static CuratedTile tile(
      PortalView whole, Tile t, Map<UUID, Integer> counts, Map<TileId, Long> lying) {
    List<Entitlement> needs = whole.needs(t);
    java.util.Set<PersonId> holders = new java.util.HashSet<>();
    needs.forEach(e -> holders.addAll(whole.access().holders(e.id())));
    int open =
        needs.isEmpty()
            ? (int)
                whole.directory().people().stream()
                    .filter((Person p) -> p.status() == PersonStatus.ACTIVE)
                    .count()
            : holders.size();
    return new CuratedTile(
        t.id().value().toString(),
        t.name(),
        t.face().line(),
        t.face().picture(),
        t.face().hue(),
        whole
            .access()
            .apps()
            .application(t.face().application())
            .map(AppRef::of)
            .orElse(new AppRef("", "", "key", "slate", "retired")),
        needs.stream().map(e -> new NeedView(e.id().value().toString(), e.role().name())).toList(),
        open,
        counts.getOrDefault(t.id().value(), 0),
        lying.getOrDefault(t.id(), 0L).intValue());
  }

  // ---- tiles

  @PostMapping("/api/tiles")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt makeTile(
      Viewer viewer,
      @Valid @RequestBody TileForm form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    return act(
        viewer, repeatKey, TileId.class, moment -> PortalDecisions.makeTile(moment, form.face()));
  }

  @PutMapping("/api/tiles/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt changeTile(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ChangeTile form) {
    return act(
        viewer,
        null,
        TileId.class,
        moment ->
            PortalDecisions.changeTile(
                moment, new TileId(id), form.base().face(), form.wanted().face()));
  }

  @DeleteMapping("/api/tiles/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt endTile(Viewer viewer, @PathVariable UUID id) {
    return act(
        viewer, null, TileId.class, moment -> PortalDecisions.endTile(moment, new TileId(id)));
  }

  // ---- collections

  @PostMapping("/api/collections")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt makeCollection(
      Viewer viewer,
      @Valid @RequestBody MakeCollection form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    return act(
        viewer,
        repeatKey,
        CollectionId.class,
        moment ->
            PortalDecisions.makeCollection(moment, form.face().face(), form.audience().audience()));
  }

  @PutMapping("/api/collections/{id}/face")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION, foresees = true)
  Receipt describe(
      Viewer viewer, @PathVariable UUID id, @Valid @RequestBody DescribeCollection form) {
    return act(
        viewer,
        null,
        CollectionId.class,
        moment ->
            PortalDecisions.describe(
                moment, new CollectionId(id), form.base().face(), form.wanted().face()));
  }

  @PutMapping("/api/collections/{id}/audience")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt setAudience(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetAudience form) {
    return act(
        viewer,
        null,
        CollectionId.class,
        moment ->
            PortalDecisions.setAudience(
                moment, new CollectionId(id), form.base().audience(), form.wanted().audience()));
  }

  @PutMapping("/api/collections/{id}/owners")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt setOwners(
      Viewer viewer, @PathVariable UUID id, @Valid @RequestBody SetCollectionOwners form) {
    return act(
        viewer,
        null,
        CollectionId.class,
        moment ->
            PortalDecisions.setOwners(
                moment,
                new CollectionId(id),
                form.base().stream().map(PersonId::new).toList(),
                form.owners().stream().map(PersonId::new).toList()));
  }

  @PutMapping("/api/collections/{id}/tiles")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION, foresees = true)
  Receipt arrange(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody Arrange form) {
    return act(
        viewer,
        null,
        CollectionId.class,
        moment ->
            PortalDecisions.arrange(
                moment,
                new CollectionId(id),
                form.base().stream().map(TileId::new).toList(),
                form.tiles().stream()
                    .map(p -> new PortalDecisions.Wanted(new TileId(p.tile()), p.offered()))
                    .toList()));
  }

  @DeleteMapping("/api/collections/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt endCollection(Viewer viewer, @PathVariable UUID id) {
    return act(
        viewer,
        null,
        CollectionId.class,
        moment -> PortalDecisions.endCollection(moment, new CollectionId(id)));
  }

  @PutMapping("/api/front-page")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt arrangeFront(Viewer viewer, @Valid @RequestBody ArrangeFront form) {
    return act(
        viewer,
        null,
        Integer.class,
        moment ->
            PortalDecisions.arrangeFrontPage(
                moment,
                form.base().stream().map(CollectionId::new).toList(),
                form.wanted().stream().map(CollectionId::new).toList()));
  }

  private <T> Receipt act(
      Viewer viewer,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision) {
    return commands.perform(viewer, repeatKey, type, decision);
  }
}
