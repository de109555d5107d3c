package eleutheria.core.portal;

import eleutheria.core.facts.CollectionId;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a person is shown: collections in order, each with its tiles in order.
 *
 * @param page the front page that they meet
 */
public record FrontPage(Page page, List<Section> sections) {
  /**
   * @param collection null for what is held and lies in no collection that is shown
   */
  public record Section(
      @Nullable CollectionId collection, String name, String line, List<Shown> tiles) {}

  /**
   * @param offered it is not held and may be asked for; opening it is asking
   */
  public record Shown(Tile tile, boolean offered) {}

  /** Whether a tile can be opened. */
  public boolean opens(Tile tile) {
    return sections.stream()
        .flatMap(s -> s.tiles().stream())
        .anyMatch(shown -> !shown.offered() && shown.tile().id().equals(tile.id()));
  }
}
