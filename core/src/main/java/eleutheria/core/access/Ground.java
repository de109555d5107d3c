package eleutheria.core.access;

import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.NullMarked;

/**
 * One grant on which a holding rests, with everything that leads from the person to its subject.
 *
 * @param chain groups of the shortest way, the person's own first, the subject last; empty where
 *     the subject is the person or a filter
 * @param edges every edge that lies on some way from the person to the subject
 * @param more how many further ways there are, counted up to {@value #MOST_WAYS}
 * @param matched attribute values of the person that a filter on the shortest way looks at
 * @param until the first moment at which the grant does not cover the person, by anything that is
 *     on record now; {@link eleutheria.core.facts.Moments#FOREVER} if there is none
 */
@NullMarked
public record Ground(
    Grant grant,
    List<GroupId> chain,
    Set<Edge> edges,
    int more,
    Map<String, List<String>> matched,
    Instant until) {
  public static final int MOST_WAYS = 1_000;

  /**
   * One step up.
   *
   * @param from the person, or a group
   * @param byFilter whether the person is in the group because its filter fits
   */
  public record Edge(ObjectId from, GroupId to, boolean byFilter) {}
}
