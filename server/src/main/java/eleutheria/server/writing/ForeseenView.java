package eleutheria.server.writing;

import eleutheria.server.problems.ProblemView;
import java.util.List;

/**
 * What one act would do, before it is done; the short form of a draft's sheet.
 *
 * @param digest of what it would move; sent with the act in the header {@code Foreseen}, it keeps
 *     the act from doing something else
 * @param to how many people it gives something, departed ones aside
 * @param already how many of them hold that already
 * @param inDraft whether only the open draft makes it possible, so that its sheet tells what it
 *     does
 * @param cut whether it moves people outside the reader's reach
 * @param problems what stands in the way of the act
 */
public record ForeseenView(
    String digest,
    int to,
    int already,
    boolean inDraft,
    boolean cut,
    List<ConsequencesView.MomentView> moments,
    List<ProblemView.Item> problems) {}
