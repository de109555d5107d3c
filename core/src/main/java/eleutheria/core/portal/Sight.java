package eleutheria.core.portal;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.People;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
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
import java.util.function.Function;

/**
 * Who sees what on the portal at one moment, for everyone at once, by algebra of sets: a tile that
 * needs something is seen by its holders, one that needs nothing by the audiences of the
 * collections that show it, and a collection by those of its audience who can open a tile in it. It
 * says the same as {@link PortalView#visible} of each active person, but for what is only offered.
 *
 * @param tiles who can open a tile
 * @param collections to whom a collection is shown
 */
public record Sight(
    Map<TileId, Set<PersonId>> tiles,
    Map<CollectionId, Set<PersonId>> collections,
    Map<CollectionId, List<TileId>> order) {

  public static final Sight NOTHING = new Sight(Map.of(), Map.of(), Map.of());

  /** Who sees a tile or collection. */
  public Set<PersonId> of(ObjectId thing) {
    return switch (thing) {
      case TileId tile -> tiles.getOrDefault(tile, People.NOBODY);
      case CollectionId collection -> collections.getOrDefault(collection, People.NOBODY);
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
                      facts.valueAt(new FactKey.AppState(tile.face().application()), at)
                              instanceof FactValue.AppState state
                          && state.state() == ApplicationState.OPEN));
      return plan;
    }

    /** Whether anybody stands in an audience in the one state and not in the other. */
    public boolean audiencesDiffer(AccessView one, AccessView other) {
      return arrangement.sections().values().stream()
          .flatMap(s -> s.audience().subjects().stream())
          .anyMatch(subject -> !one.members(subject).equals(other.members(subject)));
    }
  }

  public static Sight of(Plan plan, AccessView access) {
    Set<PersonId> active = access.active();
    Map<TileId, Set<PersonId>> opening = new HashMap<>();
    for (Tile tile : plan.arrangement.tiles().values()) {
      opening.put(
          tile.id(),
          !plan.open.getOrDefault(tile.id(), false)
              ? People.NOBODY
              : tile.face().needs().isEmpty()
                  ? active
                  : People.any(tile.face().needs().stream().map(access::holders).toList()));
    }
    Map<TileId, Set<PersonId>> tiles = new LinkedHashMap<>();
    Map<CollectionId, Set<PersonId>> collections = new LinkedHashMap<>();
    Map<CollectionId, List<TileId>> order = new LinkedHashMap<>();
    for (Arrangement.Section section : plan.arrangement.sections().values()) {
      Set<PersonId> audience =
          section.audience().everyone()
              ? active
              : People.and(
                  active,
                  People.any(section.audience().subjects().stream().map(access::members).toList()));
      List<Set<PersonId>> shown = new ArrayList<>();
      for (Collection.Placed placed : section.places()) {
        Tile tile = plan.arrangement.tiles().get(placed.tile());
        Set<PersonId> here = People.and(audience, opening.get(tile.id()));
        shown.add(here);
        if (tile.face().needs().isEmpty()) {
          tiles.merge(tile.id(), here, People::or);
        }
      }
      collections.put(section.id(), People.any(shown));
      order.put(section.id(), section.places().stream().map(Collection.Placed::tile).toList());
    }
    for (Tile tile : plan.arrangement.tiles().values()) {
      if (!tile.face().needs().isEmpty()) {
        tiles.put(tile.id(), opening.get(tile.id()));
      }
    }
    return new Sight(tiles, collections, order);
  }

  /**
   * What two sights differ by. Nobody stands in both {@code more} and {@code less} of one thing.
   *
   * @param moved by collection, who sees it in both and meets its tiles, or it among the others, in
   *     another order
   */
  public record Difference(
      Map<ObjectId, Set<PersonId>> more,
      Map<ObjectId, Set<PersonId>> less,
      Map<CollectionId, Set<PersonId>> moved) {
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
    Map<CollectionId, Set<PersonId>> moved = new LinkedHashMap<>();
    List<CollectionId> was = common(List.copyOf(order.keySet()), with.order.keySet());
    List<CollectionId> is = common(List.copyOf(with.order.keySet()), order.keySet());
    Function<CollectionId, Set<PersonId>> both =
        id -> People.and(collections.get(id), with.collections.get(id));
    for (CollectionId id : is) {
      List<TileId> before = common(order.get(id), Set.copyOf(with.order.get(id)));
      List<TileId> after = common(with.order.get(id), Set.copyOf(order.get(id)));
      Set<PersonId> people = before.equals(after) ? People.NOBODY : both.apply(id);
      if (!was.equals(is)) {
        for (CollectionId other : is) {
          if (was.indexOf(id) < was.indexOf(other) != is.indexOf(id) < is.indexOf(other)
              && is.indexOf(id) < is.indexOf(other)) {
            people = People.or(people, People.and(both.apply(id), both.apply(other)));
          }
        }
      }
      if (!people.isEmpty()) {
        moved.put(id, people);
      }
    }
    return more.isEmpty() && less.isEmpty() && moved.isEmpty()
        ? Difference.NONE
        : new Difference(more, less, moved);
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
