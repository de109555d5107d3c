package eleutheria.core.portal;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.People;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Who sees what on the portal at one moment, for everyone at once, by algebra of sets: a tile that
 * needs something is seen by its holders, one that needs nothing by the audiences of the
 * collections that show it, and a collection by those of its audience who can open a tile in it. It
 * says the same as {@link PortalView#visible} of each active person, but for what is only offered.
 *
 * @param tiles who can open a tile
 * @param collections to whom a collection is shown
 * @param pages who meets a front page
 * @param places the tiles of each collection, in their order
 * @param order the collections of each front page, in their order
 */
public record Sight(
    Map<TileId, Set<PersonId>> tiles,
    Map<CollectionId, Set<PersonId>> collections,
    Map<FrontPageId, Set<PersonId>> pages,
    Map<CollectionId, List<TileId>> places,
    Map<FrontPageId, List<CollectionId>> order) {

  public static final Sight NOTHING = new Sight(Map.of(), Map.of(), Map.of(), Map.of(), Map.of());

  /** Who sees a tile or collection, or meets a front page. */
  public Set<PersonId> of(ObjectId thing) {
    return switch (thing) {
      case TileId tile -> tiles.getOrDefault(tile, People.NOBODY);
      case CollectionId collection -> collections.getOrDefault(collection, People.NOBODY);
      case FrontPageId page -> pages.getOrDefault(page, People.NOBODY);
      default -> People.NOBODY;
    };
  }

  /**
   * The part of it that does not depend on who holds what; kept as long as no portal fact moves.
   */
  public static final class Plan {
    private final Arrangement arrangement;
    private final Map<TileId, Boolean> open = new HashMap<>();

    private Plan(Arrangement arrangement) {
      this.arrangement = arrangement;
    }

    public static Plan of(Facts facts, Instant at) {
      Plan plan = new Plan(Arrangement.of(facts, at));
      plan.arrangement
          .tiles()
          .values()
          .forEach(
              tile ->
                  plan.open.put(
                      tile.id(),
                      tile.due()
                          && facts.valueAt(new FactKey.AppState(tile.face().application()), at)
                              instanceof FactValue.AppState state
                          && state.state() == ApplicationState.OPEN));
      return plan;
    }

    /** The same from a state that is there already. */
    static Plan of(Arrangement arrangement, Predicate<Tile> open) {
      Plan plan = new Plan(arrangement);
      arrangement.tiles().values().forEach(tile -> plan.open.put(tile.id(), open.test(tile)));
      return plan;
    }

    /** Whether anybody stands in an audience in the one state and not in the other. */
    public boolean audiencesDiffer(AccessView one, AccessView other, Instant at) {
      Audiences here = new Audiences(one, at);
      Audiences there = new Audiences(other, at);
      return all()
          .anyMatch(
              audience ->
                  audience.subjects().stream()
                          .anyMatch(subject -> !one.members(subject).equals(other.members(subject)))
                      || !here.beginners(audience.firstDays())
                          .equals(there.beginners(audience.firstDays())));
    }

    private Stream<FactValue.Audience> all() {
      return Stream.of(
              arrangement.sections().values().stream().map(Arrangement.Section::audience),
              arrangement.tiles().values().stream().map(Tile::audience),
              arrangement.pages().values().stream()
                  .flatMap(
                      page -> Stream.concat(Stream.of(page.audience()), page.waves().stream())))
          .flatMap(some -> some);
    }
  }

  public static Sight of(Plan plan, AccessView access, Instant at) {
    Set<PersonId> active = access.active();
    Audiences audiences = new Audiences(access, at);
    Map<TileId, Set<PersonId>> opening = new HashMap<>();
    for (Tile tile : plan.arrangement.tiles().values()) {
      opening.put(
          tile.id(),
          !plan.open.getOrDefault(tile.id(), false)
              ? People.NOBODY
              : tile.face().needs().isEmpty()
                  ? audiences.active(tile.audience())
                  : People.any(tile.face().needs().stream().map(access::holders).toList()));
    }
    java.util.Collection<Page> all = plan.arrangement.pages().values();
    Map<FrontPageId, Set<PersonId>> pages = PortalView.meets(all, audiences, active);
    Map<FrontPageId, List<CollectionId>> order = new LinkedHashMap<>();
    all.forEach(page -> order.put(page.id(), page.order()));
    Map<TileId, Set<PersonId>> tiles = new LinkedHashMap<>();
    Map<CollectionId, Set<PersonId>> collections = new LinkedHashMap<>();
    Map<CollectionId, List<TileId>> places = new LinkedHashMap<>();
    for (Arrangement.Section section : plan.arrangement.sections().values()) {
      Set<PersonId> audience = audiences.active(section.audience());
      for (Page page : all) {
        if (page.face().only() && !page.ranks().containsKey(section.id())) {
          audience = People.minus(audience, requireNonNull(pages.get(page.id())));
        }
      }
      List<Set<PersonId>> shown = new ArrayList<>();
      for (Collection.Placed placed : section.places()) {
        Tile tile = requireNonNull(plan.arrangement.tiles().get(placed.tile()));
        Set<PersonId> here = People.and(audience, requireNonNull(opening.get(tile.id())));
        shown.add(here);
        if (tile.face().needs().isEmpty()) {
          tiles.merge(tile.id(), here, People::or);
        }
      }
      collections.put(section.id(), People.any(shown));
      places.put(section.id(), section.places().stream().map(Collection.Placed::tile).toList());
    }
    for (Tile tile : plan.arrangement.tiles().values()) {
      if (!tile.face().needs().isEmpty()) {
        tiles.put(tile.id(), opening.get(tile.id()));
      }
    }
    return new Sight(tiles, collections, pages, places, order);
  }

  /**
   * What two sights differ by. Nobody stands in both {@code more} and {@code less} of one thing.
   *
   * @param moved by collection, who sees it in both and meets its tiles, or it among the others, in
   *     another order; by front page, who meets it and met another one
   */
  public record Difference(
      Map<ObjectId, Set<PersonId>> more,
      Map<ObjectId, Set<PersonId>> less,
      Map<ObjectId, Set<PersonId>> moved) {
    public static final Difference NONE = new Difference(Map.of(), Map.of(), Map.of());

    public boolean isEmpty() {
      return more.isEmpty() && less.isEmpty() && moved.isEmpty();
    }
  }

  public Difference differ(Sight with) {
    Map<ObjectId, Set<PersonId>> more = new LinkedHashMap<>();
    Map<ObjectId, Set<PersonId>> less = new LinkedHashMap<>();
    compare(collections, with.collections, more, less);
    compare(tiles, with.tiles, more, less);
    Map<ObjectId, Set<PersonId>> moved = new LinkedHashMap<>();
    with.pages.forEach(
        (id, people) ->
            put(moved, id, People.minus(people, pages.getOrDefault(id, People.NOBODY))));
    for (CollectionId id : with.places.keySet()) {
      if (places.containsKey(id)) {
        List<TileId> before = common(places.get(id), Set.copyOf(with.places.get(id)));
        List<TileId> after = common(with.places.get(id), Set.copyOf(places.get(id)));
        if (!before.equals(after)) {
          put(moved, id, both(with, id));
        }
      }
    }
    order.forEach(
        (from, was) ->
            with.order.forEach(
                (to, is) -> {
                  Set<PersonId> people =
                      People.and(
                          requireNonNull(pages.get(from)), requireNonNull(with.pages.get(to)));
                  if (!people.isEmpty() && !was.equals(is)) {
                    turned(with, people, was, is, moved);
                  }
                }));
    return more.isEmpty() && less.isEmpty() && moved.isEmpty()
        ? Difference.NONE
        : new Difference(more, less, moved);
  }

  private Set<PersonId> both(Sight with, CollectionId id) {
    return People.and(
        collections.getOrDefault(id, People.NOBODY),
        with.collections.getOrDefault(id, People.NOBODY));
  }

  /** Of some people, who meets two collections the other way round. */
  private void turned(
      Sight with,
      Set<PersonId> people,
      List<CollectionId> one,
      List<CollectionId> other,
      Map<ObjectId, Set<PersonId>> moved) {
    List<CollectionId> was = common(one, Set.copyOf(other));
    List<CollectionId> is = common(other, Set.copyOf(one));
    if (was.equals(is)) {
      return;
    }
    Map<CollectionId, Integer> at = new HashMap<>();
    was.forEach(id -> at.put(id, at.size()));
    for (int i = 0; i < is.size(); i++) {
      for (int j = i + 1; j < is.size(); j++) {
        if (requireNonNull(at.get(is.get(i))) > requireNonNull(at.get(is.get(j)))) {
          Set<PersonId> met =
              People.and(people, People.and(both(with, is.get(i)), both(with, is.get(j))));
          if (!met.isEmpty()) {
            moved.merge(is.get(i), met, People::or);
          }
        }
      }
    }
  }

  private static <T> List<T> common(List<T> list, Set<T> others) {
    return list.stream().filter(others::contains).toList();
  }

  private static <K extends ObjectId> void compare(
      Map<K, Set<PersonId>> was,
      Map<K, Set<PersonId>> is,
      Map<ObjectId, Set<PersonId>> more,
      Map<ObjectId, Set<PersonId>> less) {
    Set<K> all = new LinkedHashSet<>(is.keySet());
    all.addAll(was.keySet());
    for (K id : all) {
      Set<PersonId> before = was.getOrDefault(id, People.NOBODY);
      Set<PersonId> after = is.getOrDefault(id, People.NOBODY);
      if (!before.equals(after)) {
        put(more, id, People.minus(after, before));
        put(less, id, People.minus(before, after));
      }
    }
  }

  private static void put(Map<ObjectId, Set<PersonId>> into, ObjectId id, Set<PersonId> people) {
    if (!people.isEmpty()) {
      into.put(id, people);
    }
  }
}
