package eleutheria.core.portal;

import static java.util.Objects.requireNonNull;

import eleutheria.core.directory.NameOrder;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Tiles, collections and front pages at one moment, without anybody who looks at them. Building is
 * linear in the portal facts ever made.
 *
 * @param tiles in the order of their names
 * @param sections collections in the order of everyone's front page; those it leaves out follow by
 *     name
 * @param pages front pages in the order in which the first that fits counts; everyone's is the last
 */
record Arrangement(
    Map<TileId, Tile> tiles, Map<CollectionId, Section> sections, Map<FrontPageId, Page> pages) {

  /** A collection with its tiles in their order. */
  record Section(
      CollectionId id,
      FactValue.CollectionFace face,
      FactValue.Audience audience,
      List<Collection.Placed> places) {}

  static final FactValue.FrontFace EVERYONES = new FactValue.FrontFace("", false, false);

  static Arrangement of(Facts facts, Instant at) {
    Map<TileId, Tile> tiles = tiles(facts, at);
    Map<CollectionId, List<Collection.Placed>> places = new HashMap<>();
    for (FactKey.Placed key : facts.keys(FactKey.Placed.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Place place
          && tiles.containsKey(key.tile())) {
        places
            .computeIfAbsent(key.subject(), c -> new ArrayList<>())
            .add(new Collection.Placed(key.tile(), place));
      }
    }
    Map<CollectionId, Section> byName = new LinkedHashMap<>();
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
                audience(facts, new FactKey.Audience(key.subject()), FactValue.Audience.NOBODY, at),
                List.copyOf(own)));
      }
    }
    sections.sort(
        Comparator.comparing((Section s) -> Folding.bare(s.face().name()))
            .thenComparing(Section::id));
    sections.forEach(section -> byName.put(section.id(), section));
    Map<FrontPageId, Page> pages = pages(facts, at, List.copyOf(byName.keySet()));
    Map<CollectionId, Section> inOrder = new LinkedHashMap<>();
    Page everyones = requireNonNull(pages.get(FrontPageId.EVERYONE));
    everyones.ranks().keySet().forEach(id -> inOrder.put(id, requireNonNull(byName.get(id))));
    byName.forEach(inOrder::putIfAbsent);
    return new Arrangement(tiles, inOrder, pages);
  }

  private static Map<TileId, Tile> tiles(Facts facts, Instant at) {
    List<Tile> named = new ArrayList<>();
    for (FactKey.Tile key : facts.keys(FactKey.Tile.class)) {
      Spell now = facts.at(key, at).orElse(null);
      if (now != null && now.value() instanceof FactValue.TileFace face) {
        TileId id = key.subject();
        named.add(
            new Tile(
                id,
                face,
                audience(facts, new FactKey.Audience(id), FactValue.Audience.EVERYONE, at),
                !face.dated() || facts.valueAt(new FactKey.Shown(id), at) != null,
                facts.spells(key).getFirst().from(),
                now.from()));
      }
    }
    named.sort(Comparator.comparing(Tile::name, NameOrder.NATURAL).thenComparing(Tile::id));
    Map<TileId, Tile> tiles = new LinkedHashMap<>();
    named.forEach(tile -> tiles.put(tile.id(), tile));
    return tiles;
  }

  private static Map<FrontPageId, Page> pages(
      Facts facts, Instant at, List<CollectionId> collections) {
    Set<CollectionId> present = new HashSet<>(collections);
    Map<FrontPageId, Map<String, CollectionId>> ranks = new HashMap<>();
    for (FactKey.Fronted key : facts.keys(FactKey.Fronted.class)) {
      if (present.contains(key.collection())
          && facts.valueAt(key, at) instanceof FactValue.Text rank) {
        ranks
            .computeIfAbsent(key.subject(), p -> new TreeMap<>())
            .put(rank.text() + " " + key.collection().value(), key.collection());
      }
    }
    Map<FrontPageId, Map<Integer, FactValue.Audience>> waves = new HashMap<>();
    for (FactKey.FrontWave key : facts.keys(FactKey.FrontWave.class)) {
      if (facts.valueAt(key, at) instanceof FactValue.Audience audience) {
        waves.computeIfAbsent(key.subject(), p -> new TreeMap<>()).put(key.wave(), audience);
      }
    }
    record Ranked(String rank, FrontPageId id, FactValue.FrontFace face) {}
    List<Ranked> ranked = new ArrayList<>();
    for (FactKey.Front key : facts.keys(FactKey.Front.class)) {
      if (!key.subject().equals(FrontPageId.EVERYONE)
          && facts.valueAt(key, at) instanceof FactValue.FrontFace face) {
        ranked.add(
            new Ranked(
                facts.valueAt(new FactKey.FrontRank(key.subject()), at)
                        instanceof FactValue.Text rank
                    ? rank.text()
                    : "~",
                key.subject(),
                face));
      }
    }
    ranked.sort(Comparator.comparing(Ranked::rank).thenComparing(Ranked::id));
    ranked.add(
        new Ranked(
            "",
            FrontPageId.EVERYONE,
            facts.valueAt(new FactKey.Front(FrontPageId.EVERYONE), at)
                    instanceof FactValue.FrontFace face
                ? face
                : EVERYONES));
    Map<FrontPageId, Page> pages = new LinkedHashMap<>();
    for (Ranked each : ranked) {
      FrontPageId id = each.id();
      Map<CollectionId, String> own = new LinkedHashMap<>();
      ranks
          .getOrDefault(id, Map.of())
          .forEach((rank, c) -> own.put(c, rank.substring(0, rank.indexOf(' '))));
      List<CollectionId> order = new ArrayList<>(own.keySet());
      if (!each.face().only()) {
        collections.stream().filter(c -> !own.containsKey(c)).forEach(order::add);
      }
      pages.put(
          id,
          new Page(
              id,
              each.face(),
              id.equals(FrontPageId.EVERYONE)
                  ? FactValue.Audience.EVERYONE
                  : audience(facts, new FactKey.Audience(id), FactValue.Audience.NOBODY, at),
              List.copyOf(waves.getOrDefault(id, Map.of()).values()),
              facts.valueAt(new FactKey.FrontNotice(id), at) instanceof FactValue.Text text
                  ? text.text()
                  : "",
              each.rank(),
              own,
              List.copyOf(order),
              changed(facts, id, at)));
    }
    return pages;
  }

  /** When the last of a page's facts began or ended. */
  private static Instant changed(Facts facts, FrontPageId id, Instant at) {
    Instant last = Instant.EPOCH;
    for (FactKey key : facts.about(id)) {
      for (Spell spell : key instanceof FactKey.FrontRank ? List.<Spell>of() : facts.spells(key)) {
        for (Instant moved : List.of(spell.from(), spell.until())) {
          if (!moved.isAfter(at) && moved.isAfter(last)) {
            last = moved;
          }
        }
      }
    }
    return last;
  }

  private static FactValue.Audience audience(
      Facts facts, FactKey key, FactValue.Audience otherwise, Instant at) {
    return facts.valueAt(key, at) instanceof FactValue.Audience audience ? audience : otherwise;
  }
}
