package eleutheria.core.portal;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * A front page at a moment: which collections an audience meets, in which order.
 *
 * @param waves whom it reaches so far, where it comes in waves
 * @param notice what is told at its head; empty for nothing
 * @param rank its place among all; empty for everyone's, which is the last
 * @param ranks the collections that it names, in their order, with their ranks
 * @param order all collections that it shows: those it names, then the others by name unless only
 *     these are shown
 * @param changed when something of it was changed last; the beginning of time for what never was
 */
public record Page(
    FrontPageId id,
    FactValue.FrontFace face,
    FactValue.Audience audience,
    List<FactValue.Audience> waves,
    String notice,
    String rank,
    Map<CollectionId, String> ranks,
    List<CollectionId> order,
    Instant changed) {

  public boolean everyones() {
    return id.equals(FrontPageId.EVERYONE);
  }
}
