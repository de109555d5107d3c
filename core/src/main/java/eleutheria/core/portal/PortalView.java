package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.Folding;
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
import java.util.Comparator;
import java.util.HashMap;
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

  /** Whether tiles, collections or applications may differ after a fact has moved. */
  public static boolean standsOn(FactKey key) {
    return switch (key) {
      case FactKey.Tile k -> true;
      case FactKey.Collection k -> true;
      case FactKey.Audience k -> true;
      case FactKey.Placed k -> true;
      case FactKey.Fronted k -> true;
      case FactKey.Application k -> true;
      case FactKey.AppState k -> true;
      case FactKey.WayIn k -> true;
      case FactKey.Entitlement k -> true;
      case FactKey.Ownership k -> true;
      default -> false;
    };
  }

  public static PortalView of(Facts facts, AccessView access, Instant at) {
    DirectoryView directory = access.directory();
    PortalView view =
        new PortalView(
            access,
            new LinkedHashMap<>(),
            new LinkedHashMap<>(),
            new ArrayList<>(),
            new HashMap<>());
    List<Tile> tiles = new ArrayList<>();
    for (FactKey.Tile key : facts.keys(FactKey.Tile.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.TileFace face) {
        tiles.add(new Tile(key.subject(), face));
      }
    }
    tiles.sort(Comparator.comparing((Tile t) -> Folding.bare(t.name())).thenComparing(Tile::id));
    tiles.forEach(tile -> view.tiles.put(tile.id(), tile));
    Map<CollectionId, List<Collection.Placed>> places = new HashMap<>();
    for (FactKey.Placed key : facts.keys(FactKey.Placed.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Place place
          && view.tiles.containsKey(key.tile())) {
        places
            .computeIfAbsent(key.subject(), c -> new ArrayList<>())
            .add(new Collection.Placed(key.tile(), place));
      }
    }
    for (FactKey.Fronted key : facts.keys(FactKey.Fronted.class)) {
      if (key.subject().equals(FrontPageId.EVERYONE)
          && facts.valueAt(key, at) instanceof FactValue.Text rank) {
        view.ranks.put(key.collection(), rank.text());
      }
    }
    List<Collection> collections = new ArrayList<>();
    for (FactKey.Collection key : facts.keys(FactKey.Collection.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.CollectionFace face) {
        List<Collection.Placed> own = places.getOrDefault(key.subject(), new ArrayList<>());
        own.sort(
            Comparator.comparing((Collection.Placed p) -> p.place().rank())
                .thenComparing(Collection.Placed::tile));
        collections.add(
            new Collection(
                key.subject(),
                face,
                facts.valueAt(new FactKey.Audience(key.subject()), at)
                        instanceof FactValue.Audience audience
                    ? audience
                    : new FactValue.Audience(false, List.of()),
                directory.owners(key.subject()),
                List.copyOf(own)));
      }
    }
    // Collections that the front page leaves out follow by name.
    collections.sort(
        Comparator.comparing((Collection c) -> view.ranks.getOrDefault(c.id(), "~"))
            .thenComparing(c -> Folding.bare(c.name()))
            .thenComparing(Collection::id));
    collections.forEach(
        c -> {
          view.collections.put(c.id(), c);
          view.order.add(c.id());
        });
    return view;
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
