package eleutheria.core.access.engine;

import java.util.Arrays;
import java.util.BitSet;
import org.roaringbitmap.RoaringBitmap;

/** Walks from a group over its neighbours of one direction, through groups that exist. */
final class Above {
  private static final int FEW = 32;

  private final RoaringBitmap exist;
  private final Build.Neighbours neighbours;

  Above(RoaringBitmap exist, Build.Neighbours neighbours) {
    this.exist = exist;
    this.neighbours = neighbours;
  }

  /** The group itself and everything reached, sorted; nothing where it does not exist. */
  int[] of(int group) {
    if (!exist.contains(group)) {
      return IntList.NONE;
    }
    int[] first = neighbours.of(group);
    if (first.length == 0) {
      return new int[] {group};
    }
    int[] found = new int[8];
    found[0] = group;
    int size = 1;
    BitSet seen = null;
    for (int next = 0; next < size; next++) {
      for (int neighbour : next == 0 ? first : neighbours.of(found[next])) {
        if (!exist.contains(neighbour)
            || (seen == null ? within(found, size, neighbour) : seen.get(neighbour))) {
          continue;
        }
        if (size == found.length) {
          found = Arrays.copyOf(found, size * 2);
        }
        found[size++] = neighbour;
        if (seen != null) {
          seen.set(neighbour);
        } else if (size > FEW) {
          seen = new BitSet();
          for (int i = 0; i < size; i++) {
            seen.set(found[i]);
          }
        }
      }
    }
    int[] sorted = Arrays.copyOf(found, size);
    Arrays.sort(sorted);
    return sorted;
  }

  private static boolean within(int[] items, int size, int item) {
    for (int i = 0; i < size; i++) {
      if (items[i] == item) {
        return true;
      }
    }
    return false;
  }
}
