package eleutheria.server.web;

import java.util.List;
import java.util.stream.Stream;

/** A long list is given page by page, and no page is longer than this. */
public final class Pages {
  public static final int LONGEST = 500;

  private Pages() {}

  /** How many are given where so many are asked for. */
  public static int size(int limit) {
    return Math.clamp(limit, 1, LONGEST);
  }

  /** From where on they are given. */
  public static int from(int offset) {
    return Math.max(0, offset);
  }

  public static <T> List<T> of(List<T> all, int offset, int limit) {
    return of(all.stream(), offset, limit).toList();
  }

  public static <T> Stream<T> of(Stream<T> all, int offset, int limit) {
    return all.skip(from(offset)).limit(size(limit));
  }
}
