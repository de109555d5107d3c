package eleutheria.core.portal;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import java.util.List;

/**
 * A collection at a moment: it shows and never gives.
 *
 * @param places its tiles in their order
 */
public record Collection(
    CollectionId id,
    FactValue.CollectionFace face,
    FactValue.Audience audience,
    List<PersonId> owners,
    List<Placed> places) {

  /** A tile in its place. */
  public record Placed(TileId tile, FactValue.Place place) {}

  public String name() {
    return face.name();
  }
}
