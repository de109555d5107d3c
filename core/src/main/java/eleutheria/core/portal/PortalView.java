package eleutheria.core.portal;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.People;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Tiles and collections at one moment, with the access they stand on; never changes once built.
 * Building is linear in the portal facts ever made; a person's front page costs one query to {@link
 * AccessView} for each tile.
 */
public final class PortalView {
  private final AccessView access;
  private final Instant at;
  private final Audiences audiences;
  private final Arrangement arrangement;
  private final Map<TileId, Tile> tiles;
  private final Map<CollectionId, Collection> collections;
  private final Map<FrontPageId, Page> pages;
  private final FactValue.Brand brand;
  private volatile @Nullable Instant until;

  private PortalView(
      AccessView access,
      Instant at,
      Arrangement arrangement,
      Map<CollectionId, Collection> collections,
      FactValue.Brand brand) {
    this.access = access;
    this.at = at;
    this.audiences = new Audiences(access, at);
    this.arrangement = arrangement;
    this.tiles = arrangement.tiles();
    this.collections = collections;
    this.pages = arrangement.pages();
    this.brand = brand;
  }

  public static PortalView at(Moment moment) {
    return of(moment.facts(), AccessView.at(moment), moment.at());
  }

  public static PortalView of(Facts facts, DirectoryView directory, Instant at) {
    return of(facts, AccessView.of(facts, directory, at), at);
  }

  /** The same tiles and collections over a later state of access, where none of them has moved. */
  public PortalView with(AccessView access, Instant at) {
    return new PortalView(access, at, arrangement, collections, brand);
  }

  /** The kinds of facts on which tiles, collections and applications stand. */
  public static final Set<Class<? extends FactKey>> KINDS =
      Set.of(
          FactKey.Tile.class,
          FactKey.Collection.class,
          FactKey.Audience.class,
          FactKey.Shown.class,
          FactKey.Placed.class,
          FactKey.Front.class,
          FactKey.FrontRank.class,
          FactKey.FrontNotice.class,
          FactKey.FrontWave.class,
          FactKey.Brand.class,
          FactKey.Fronted.class,
          FactKey.Application.class,
          FactKey.AppState.class,
          FactKey.WayIn.class,
          FactKey.Seats.class,
          FactKey.Entitlement.class,
          FactKey.Route.class,
          FactKey.RequestForm.class,
          FactKey.Ownership.class);

  /** Whether tiles, collections or applications may differ after a fact has moved. */
  public static boolean standsOn(FactKey key) {
    return KINDS.contains(key.getClass());
  }

  public static PortalView of(Facts facts, AccessView access, Instant at) {
    Arrangement arrangement = Arrangement.of(facts, at);
    DirectoryView directory = access.directory();
    Map<CollectionId, Collection> collections = new LinkedHashMap<>();
    arrangement
        .sections()
        .forEach(
            (id, section) ->
                collections.put(
                    id,
                    new Collection(
                        id,
                        section.face(),
                        section.audience(),
                        directory.owners(id),
                        section.places())));
    return new PortalView(access, at, arrangement, collections, BrandDecisions.at(facts, at));
  }

  public AccessView access() {
    return access;
  }

  public DirectoryView directory() {
    return access.directory();
  }

  public Instant at() {
    return at;
  }

  public Optional<Tile> tile(TileId id) {
    return Optional.ofNullable(tiles.get(id));
  }

  /** What of it does not depend on who holds what, for whoever compares who sees what. */
  public Sight.Plan plan() {
    return Sight.Plan.of(arrangement, this::open);
  }

  /** How the organisation shows itself. */
  public FactValue.Brand brand() {
    return brand;
  }

  /** In order of name. */
  public List<Tile> tiles() {
    return List.copyOf(tiles.values());
  }

  public Optional<Collection> collection(CollectionId id) {
    return Optional.ofNullable(collections.get(id));
  }

  /** In the order of everyone's front page. */
  public List<Collection> collections() {
    return List.copyOf(collections.values());
  }

  public Optional<Page> page(FrontPageId id) {
    return Optional.ofNullable(pages.get(id));
  }

  /** In the order in which the first that fits counts; everyone's is the last. */
  public List<Page> pages() {
    return List.copyOf(pages.values());
  }

  /** The first front page that fits a person. */
  public Page pageOf(PersonId person) {
    for (Page page : pages.values()) {
      if (fits(page, person)) {
        return page;
      }
    }
    throw new IllegalStateException("no front page for everyone");
  }

  /** Whether a person is among those for whom a page is, and its waves have come to them. */
  public boolean fits(Page page, PersonId person) {
    return audiences.has(page.audience(), person)
        && (!page.face().waves()
            || page.waves().stream().anyMatch(wave -> audiences.has(wave, person)));
  }

  /** Who meets each page: active, and no page before it fits them. */
  public Map<FrontPageId, Set<PersonId>> meets() {
    return meets(pages.values(), audiences, access.active());
  }

  static Map<FrontPageId, Set<PersonId>> meets(
      Iterable<Page> pages, Audiences audiences, Set<PersonId> active) {
    Map<FrontPageId, Set<PersonId>> found = new LinkedHashMap<>();
    Set<PersonId> rest = active;
    for (Page page : pages) {
      Set<PersonId> here = People.and(rest, audiences.active(page.audience()));
      if (page.face().waves()) {
        here = People.and(here, People.any(page.waves().stream().map(audiences::active).toList()));
      }
      found.put(page.id(), here);
      rest = People.minus(rest, here);
    }
    return found;
  }

  /** Whether somebody is in an audience. */
  public boolean has(FactValue.Audience audience, PersonId person) {
    return audiences.has(audience, person);
  }

  /** Everyone active in an audience. */
  public Set<PersonId> active(FactValue.Audience audience) {
    return audiences.active(audience);
  }

  /**
   * When somebody's first days end, so that this state says something else though no fact has
   * moved; {@link eleutheria.core.facts.Moments#FOREVER} if nobody's do.
   */
  public Instant until() {
    Instant known = until;
    if (known == null) {
      known =
          audiences.until(
              Stream.of(
                      collections.values().stream().map(Collection::audience),
                      tiles.values().stream().map(Tile::audience),
                      pages.values().stream()
                          .flatMap(
                              page ->
                                  Stream.concat(Stream.of(page.audience()), page.waves().stream())))
                  .flatMap(all -> all));
      until = known;
    }
    return known;
  }

  /** Whether a person can open a tile because of what they hold. */
  public boolean held(Tile tile, PersonId person) {
    return open(tile) && tile.face().needs().stream().anyMatch(e -> access.holds(person, e));
  }

  /** Whether a person sees a tile where it is shown to them. */
  private boolean opens(Tile tile, PersonId person) {
    return tile.face().needs().isEmpty()
        ? open(tile) && audiences.has(tile.audience(), person)
        : held(tile, person);
  }

  /** Whether anybody can open a tile: its application is open, and its dates let it be shown. */
  public boolean open(Tile tile) {
    return tile.due()
        && access
            .apps()
            .application(tile.face().application())
            .filter(Application::open)
            .isPresent();
  }

  /**
   * {@code visible}: a tile needs any of a set of entitlements, or nothing, and then its audience
   * counts. It is shown in each collection whose audience has the person, in the order of the first
   * front page that fits them; what they hold and no shown collection has stands last.
   *
   * @param resolves whether someone could decide if this person asked for this entitlement
   */
  public FrontPage visible(PersonId person, BiPredicate<PersonId, EntitlementId> resolves) {
    Page page = pageOf(person);
    List<FrontPage.Section> sections = new ArrayList<>();
    Set<TileId> shown = new LinkedHashSet<>();
    for (CollectionId id : page.order()) {
      Collection collection = requireNonNull(collections.get(id));
      if (!audiences.has(collection.audience(), person)) {
        continue;
      }
      List<FrontPage.Shown> own = new ArrayList<>();
      for (Collection.Placed placed : collection.places()) {
        Tile tile = requireNonNull(tiles.get(placed.tile()));
        if (opens(tile, person)) {
          own.add(new FrontPage.Shown(tile, false));
          shown.add(tile.id());
        } else if (placed.place().offered() && offered(tile, person, resolves)) {
          own.add(new FrontPage.Shown(tile, true));
        }
      }
      if (!own.isEmpty()) {
        sections.add(new FrontPage.Section(id, collection.name(), collection.face().line(), own));
      }
    }
    List<FrontPage.Shown> also = new ArrayList<>();
    for (Tile tile : tiles.values()) {
      if (!shown.contains(tile.id()) && held(tile, person)) {
        also.add(new FrontPage.Shown(tile, false));
      }
    }
    if (!also.isEmpty()) {
      sections.add(new FrontPage.Section(null, "", "", also));
    }
    return new FrontPage(page, sections);
  }

  private boolean offered(
      Tile tile, PersonId person, BiPredicate<PersonId, EntitlementId> resolves) {
    return open(tile)
        && tile.face().needs().stream()
            .flatMap(e -> access.apps().entitlement(e).stream())
            .anyMatch(e -> e.role().requestable() && resolves.test(person, e.id()));
  }

  /** Everyone active who can open a tile, wherever it is shown to them. */
  public Set<PersonId> openers(Tile tile) {
    if (!open(tile)) {
      return People.NOBODY;
    }
    return tile.face().needs().isEmpty()
        ? audiences.active(tile.audience())
        : People.any(tile.face().needs().stream().map(access::holders).toList());
  }

  /** Of an audience, who can open none, some and all of a collection's tiles. */
  public record Share(Set<PersonId> none, Set<PersonId> some, Set<PersonId> all) {}

  public Share share(Collection collection) {
    Set<PersonId> audience = audiences.active(collection.audience());
    Set<PersonId> any = People.NOBODY;
    Set<PersonId> all = collection.places().isEmpty() ? People.NOBODY : audience;
    for (Collection.Placed placed : collection.places()) {
      Set<PersonId> openers = openers(requireNonNull(tiles.get(placed.tile())));
      any = People.or(any, openers);
      all = People.and(all, openers);
    }
    any = People.and(audience, any);
    return new Share(People.minus(audience, any), People.minus(any, all), all);
  }

  /** The entitlements that show a tile, in order of name. */
  public List<Entitlement> needs(Tile tile) {
    return access.apps().entitlements().stream()
        .filter(e -> tile.face().needs().contains(e.id()))
        .toList();
  }
}
