package eleutheria.server.use;

import static eleutheria.server.tables.Tables.OPENING;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;

/** Openings of tiles: events, no acts. */
@Component
public class Openings {
  private final DSLContext db;

  Openings(DSLContext db) {
    this.db = db;
  }

  public void opened(PersonId person, TileId tile, Instant at) {
    db.insertInto(OPENING)
        .set(OPENING.HAPPENED_AT, at)
        .set(OPENING.PERSON_ID, person.value())
        .set(OPENING.TILE_ID, tile.value())
        .execute();
  }

  /** When each of these people last opened a tile that needs this entitlement. */
  public Map<PersonId, Instant> last(
      PortalView whole, EntitlementId entitlement, List<PersonId> people) {
    List<UUID> tiles =
        whole.tiles().stream()
            .filter(t -> t.face().needs().contains(entitlement))
            .map(t -> t.id().value())
            .toList();
    Map<PersonId, Instant> found = new HashMap<>();
    if (tiles.isEmpty() || people.isEmpty()) {
      return found;
    }
    db.select(OPENING.PERSON_ID, DSL.max(OPENING.HAPPENED_AT))
        .from(OPENING)
        .where(
            OPENING.TILE_ID.in(tiles),
            OPENING.PERSON_ID.in(people.stream().map(PersonId::value).toList()))
        .groupBy(OPENING.PERSON_ID)
        .forEach(r -> found.put(new PersonId(r.value1()), r.value2()));
    return found;
  }

  /** When a person last opened each tile that they ever opened. */
  public Map<TileId, Instant> lastOf(PersonId person) {
    return db.select(OPENING.TILE_ID, DSL.max(OPENING.HAPPENED_AT))
        .from(OPENING)
        .where(OPENING.PERSON_ID.eq(person.value()))
        .groupBy(OPENING.TILE_ID)
        .fetchMap(r -> new TileId(r.value1()), r -> r.value2());
  }

  /** When a person last opened something that needs each entitlement. */
  public Map<EntitlementId, Instant> lastOf(PortalView whole, PersonId person) {
    Map<TileId, Instant> byTile = lastOf(person);
    Map<EntitlementId, Instant> found = new HashMap<>();
    for (Tile tile : whole.tiles()) {
      Instant at = byTile.get(tile.id());
      if (at != null) {
        tile.face().needs().forEach(e -> found.merge(e, at, (a, b) -> a.isAfter(b) ? a : b));
      }
    }
    return found;
  }

  /** How often each tile was opened since a moment. */
  public Map<UUID, Integer> counts(Instant since) {
    return db.select(OPENING.TILE_ID, DSL.count())
        .from(OPENING)
        .where(OPENING.HAPPENED_AT.ge(since))
        .groupBy(OPENING.TILE_ID)
        .fetchMap(OPENING.TILE_ID, DSL.count());
  }
}
