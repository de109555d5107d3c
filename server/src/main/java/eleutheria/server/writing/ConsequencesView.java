package eleutheria.server.writing;

import eleutheria.server.problems.ProblemView;
import eleutheria.server.refs.PersonLine;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What exactly a draft would do.
 *
 * @param at as of which moment that is true
 * @param people how many are active, all of whom were looked at
 * @param digest stands for what is shown here
 * @param grown whether somebody gains or loses who did not when the reader looked before
 * @param cut whether there is more outside the reader's reach
 * @param problems what stands in the way of publishing it oneself
 */
public record ConsequencesView(
    Instant at,
    int people,
    String digest,
    boolean grown,
    boolean cut,
    List<MomentView> moments,
    List<ProblemView.Item> problems) {
  /** Numbers of people, which are never added up. */
  public record Counts(
      int gain,
      int lose,
      int keep,
      int ends,
      int back,
      int last,
      int more,
      int less,
      int moved,
      int met,
      int conflicts,
      int settled) {}

  /**
   * @param publishing whether it is the publishing itself
   * @param conflicts breaches of separation rules that begin or end here
   * @param rows the first of them, the largest of each sign in front
   * @param more how many rows more there are
   */
  public record MomentView(
      Instant at,
      boolean publishing,
      Counts counts,
      List<ConflictView> conflicts,
      List<RowView> rows,
      int more) {}

  /**
   * One breach.
   *
   * @param begins false where it ends
   * @param stops whether it must be answered before publishing
   */
  public record ConflictView(
      String rule,
      String ruleName,
      PersonLine person,
      String one,
      String oneTitle,
      String other,
      String otherTitle,
      boolean begins,
      boolean stops,
      List<Integer> because) {}

  /**
   * One thing that changes for some people.
   *
   * @param sign gain, lose, keep, ends, back, last, more, less, moved (another order) or met
   *     (another front page)
   * @param kind of the thing: entitlement, application, tile, collection or front page
   * @param named the first of them by name, where they are few
   * @param units the units they work in, most first
   * @param because numbers of the edits
   * @param rest on what those who keep it stand
   * @param grown how many of them came since the reader looked before
   * @param idle how many of those who lose it have a ground all the same, without effect
   */
  public record RowView(
      String sign,
      String kind,
      String id,
      String title,
      int people,
      List<PersonLine> named,
      List<String> units,
      List<Integer> because,
      @Nullable RestView rest,
      int grown,
      int idle) {}

  /**
   * @param sources by an administrator, on request …: from where the grounds are that remain
   * @param until when the first of those who keep it loses it by itself; null if nobody does
   */
  public record RestView(List<String> sources, @Nullable Instant until) {}
}
