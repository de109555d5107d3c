package eleutheria.core.portal;

import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.TileId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Tiles and collections at one moment, without anybody who looks at them. Building is linear in the
 * portal facts ever made.
 *
 * @param tiles in the order of their names
 * @param sections collections in the order of the front page; those it leaves out follow by name
 * @param ranks of the collections that the front page has
 */
record Arrangement(
    Map<TileId, Tile> tiles, Map<CollectionId, Section> sections, Map<CollectionId, String> ranks) {

  /** A collection with its tiles in their order. */
  record Section(
      CollectionId id,
      FactValue.CollectionFace face,
      FactValue.Audience audience,
      List<Collection.Placed> places) {}

  private static final FactValue.Audience NOBODY = new FactValue.Audience(false, List.of());

  static Arrangement of(Facts facts, Instant at) {
    Map<TileId, Tile> tiles = new LinkedHashMap<>();
    List<Tile> named = new ArrayList<>();
    for (FactKey.Tile key : facts.keys(FactKey.Tile.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.TileFace face) {
        named.add(new Tile(key.subject(), face));
      }
    }
    named.sort(Comparator.comparing((Tile t) -> Folding.bare(t.name())).thenComparing(Tile::id));
    named.forEach(tile -> tiles.put(tile.id(), tile));
    Map<CollectionId, List<Collection.Placed>> places = new HashMap<>();
    for (FactKey.Placed key : facts.keys(FactKey.Placed.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Place place
          && tiles.containsKey(key.tile())) {
        places
            .computeIfAbsent(key.subject(), c -> new ArrayList<>())
            .add(new Collection.Placed(key.tile(), place));
      }
    }
    Map<CollectionId, String> ranks = new HashMap<>();
    for (FactKey.Fronted key : facts.keys(FactKey.Fronted.class)) {
      if (key.subject().equals(FrontPageId.EVERYONE)
          && facts.valueAt(key, at) instanceof FactValue.Text rank) {
        ranks.put(key.collection(), rank.text());
      }
    }
    List<Section> sections = new ArrayList<>();
    for (FactKey.Collection key : facts.keys(FactKey.Collection.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.CollectionFace face) {
        List<Collection.Placed> own = places.getOrDefault(key.subject(), new ArrayList<>());
        own.sort(
            Comparator.comparing((Collection.Placed p) -> p.place().rank())
                .thenComparing(Collection.Placed::tile));
        sections.add(
            new Section(
                key.subject(),
                face,
                facts.valueAt(new FactKey.Audience(key.subject()), at)
                        instanceof FactValue.Audience audience
                    ? audience
                    : NOBODY,
                List.copyOf(own)));
      }
    }
    sections.sort(
        Comparator.comparing((Section s) -> ranks.getOrDefault(s.id(), "~"))
            .thenComparing(s -> Folding.bare(s.face().name()))
            .thenComparing(Section::id));
    Map<CollectionId, Section> inOrder = new LinkedHashMap<>();
    sections.forEach(section -> inOrder.put(section.id(), section));
    return new Arrangement(tiles, inOrder, ranks);
  }
}
