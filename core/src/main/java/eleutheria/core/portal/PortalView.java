package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;

/**
 * Tiles and collections at one moment, with the access they stand on; never changes once built.
 * Building is linear in the portal facts ever made; a person's front page costs one question to
 * {@link AccessView} for each tile.
 */
public final class PortalView {
  private final AccessView access;
  private final Map<TileId, Tile> tiles;
  private final Map<CollectionId, Collection> collections;
  private final List<CollectionId> order;
  private final Map<CollectionId, String> ranks;

  private PortalView(
      AccessView access,
      Map<TileId, Tile> tiles,
      Map<CollectionId, Collection> collections,
      List<CollectionId> order,
      Map<CollectionId, String> ranks) {
    this.access = access;
    this.tiles = tiles;
    this.collections = collections;
    this.order = order;
    this.ranks = ranks;
  }

  public static PortalView at(Moment moment) {
    return of(moment.facts(), AccessView.at(moment), moment.at());
  }

  public static PortalView of(Facts facts, DirectoryView directory, Instant at) {
    return of(facts, AccessView.of(facts, directory, at), at);
  }

  /** The same tiles and collections over a later state of access, where none of them has moved. */
  public PortalView with(AccessView access) {
    return new PortalView(access, tiles, collections, order, ranks);
  }

  /** The kinds of facts on which tiles, collections and applications stand. */
  public static final Set<Class<? extends FactKey>> KINDS =
      Set.of(
          FactKey.Tile.class,
          FactKey.Collection.class,
          FactKey.Audience.class,
          FactKey.Placed.class,
          FactKey.Fronted.class,
          FactKey.Application.class,
          FactKey.AppState.class,
          FactKey.WayIn.class,
          FactKey.Entitlement.class,
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
    return new PortalView(
        access,
        arrangement.tiles(),
        collections,
        List.copyOf(collections.keySet()),
        arrangement.ranks());
  }

  public AccessView access() {
    return access;
  }

  public DirectoryView directory() {
    return access.directory();
  }

  public Instant at() {
    return access.at();
  }

  public Optional<Tile> tile(TileId id) {
    return Optional.ofNullable(tiles.get(id));
  }

  /** In order of name. */
  public List<Tile> tiles() {
    return List.copyOf(tiles.values());
  }

  public Optional<Collection> collection(CollectionId id) {
    return Optional.ofNullable(collections.get(id));
  }

  /** In the order of the front page. */
  public List<Collection> collections() {
    return List.copyOf(collections.values());
  }

  /** A collection's rank on the front page, if it has one. */
  public Optional<String> rank(CollectionId id) {
    return Optional.ofNullable(ranks.get(id));
  }

  /** Everyone in an audience. */
  public Set<PersonId> people(FactValue.Audience audience) {
    Set<PersonId> found = new HashSet<>();
    if (audience.everyone()) {
      directory().people().forEach(p -> found.add(p.id()));
    }
    audience.subjects().forEach(subject -> found.addAll(access.members(subject)));
    return found;
  }

  private boolean sees(FactValue.Audience audience, PersonId person) {
    return audience.everyone()
        || audience.subjects().stream().anyMatch(s -> access.members(s).contains(person));
  }

  /** Whether a person can open a tile because of what they hold. */
  public boolean held(Tile tile, PersonId person) {
    return open(tile) && tile.face().needs().stream().anyMatch(e -> access.holds(person, e));
  }

  private boolean open(Tile tile) {
    return access
        .apps()
        .application(tile.face().application())
        .filter(Application::open)
        .isPresent();
  }

  /**
   * {@code visible}: a tile needs any of a set of entitlements, or nothing, and then its audience
   * counts. It is shown in each collection whose audience has the person; what they hold and no
   * shown collection has stands last.
   *
   * @param resolves whether someone could decide if this person asked for this entitlement
   */
  public FrontPage visible(PersonId person, BiPredicate<PersonId, EntitlementId> resolves) {
    List<FrontPage.Section> sections = new ArrayList<>();
    Set<TileId> shown = new LinkedHashSet<>();
    for (CollectionId id : order) {
      Collection collection = collections.get(id);
      if (!sees(collection.audience(), person)) {
        continue;
      }
      List<FrontPage.Shown> own = new ArrayList<>();
      for (Collection.Placed placed : collection.places()) {
        Tile tile = tiles.get(placed.tile());
        boolean visible = tile.face().needs().isEmpty() ? open(tile) : held(tile, person);
        if (visible) {
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
    return new FrontPage(sections);
  }

  private boolean offered(
      Tile tile, PersonId person, BiPredicate<PersonId, EntitlementId> resolves) {
    return open(tile)
        && tile.face().needs().stream()
            .flatMap(e -> access.apps().entitlement(e).stream())
            .anyMatch(e -> e.role().requestable() && resolves.test(person, e.id()));
  }

  /** Of an audience, how many can open none, some and all of a collection's tiles. */
  public record Share(int none, int some, int all) {}

  public Share share(Collection collection) {
    int none = 0;
    int some = 0;
    int all = 0;
    for (PersonId person : people(collection.audience())) {
      if (directory()
          .person(person)
          .filter(p -> p.status() == eleutheria.core.facts.PersonStatus.ACTIVE)
          .isEmpty()) {
        continue;
      }
      long opens =
          collection.places().stream()
              .map(p -> tiles.get(p.tile()))
              .filter(t -> t.face().needs().isEmpty() ? open(t) : held(t, person))
              .count();
      if (opens == 0) {
        none++;
      } else if (opens == collection.places().size()) {
        all++;
      } else {
        some++;
      }
    }
    return new Share(none, some, all);
  }

  /** The entitlements that show a tile, in order of name. */
  public List<Entitlement> needs(Tile tile) {
    return access.apps().entitlements().stream()
        .filter(e -> tile.face().needs().contains(e.id()))
        .toList();
  }
}
