package eleutheria.core.access;

import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * One grant on which a holding rests, with everything that leads from the person to its subject.
 *
 * @param chain groups of the shortest way, the person's own first, the subject last; empty where
 *     the subject is the person or a filter
 * @param edges every edge that lies on some way from the person to the subject
 * @param more how many further ways there are, counted up to {@value #MOST_WAYS}
 * @param matched attribute values of the person that a filter on the shortest way looks at
 * @param until when it ends by itself: the grant, or a membership where that is sooner and the only
 *     way
 */
public record Ground(
    Grant grant,
    List<GroupId> chain,
    Set<Edge> edges,
    int more,
    Map<String, List<String>> matched,
    Instant until) {
  public static final int MOST_WAYS = 1_000;

  /** When the last of some grounds ends by itself; null if none does, or there are none. */
  public static @Nullable Instant last(List<Ground> grounds) {
    Instant last = Instant.EPOCH;
    for (Ground ground : grounds) {
      last = ground.until().isAfter(last) ? ground.until() : last;
    }
    return last.equals(Instant.EPOCH) || last.equals(Moments.FOREVER) ? null : last;
  }

  /**
   * One step up.
   *
   * @param from the person, or a group
   * @param byFilter whether the person is in the group because its filter fits
   */
  public record Edge(ObjectId from, GroupId to, boolean byFilter) {}
}
