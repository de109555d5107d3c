package eleutheria.core.access.engine;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Supplier;
import org.roaringbitmap.RoaringBitmap;

/**
 * Who fits the filters that no group and no grant has, such as those of audiences: the answer of
 * the last state that was asked, as long as nobody's attributes have moved since. States share what
 * they do not change, so whether it has moved is told by looking whether it is the same object.
 */
final class TriedFilters {
  private static final int MOST = 512;

  private final Map<String, Tried> known =
      new LinkedHashMap<>(64, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Tried> eldest) {
          return size() > MOST;
        }
      };

  private record Tried(
      RoaringBitmap people, IntChunks types, IntChunks[] columns, RoaringBitmap fitting) {
    boolean of(Snapshot.State state) {
      if (people != state.people() || types != state.types()) {
        return false;
      }
      IntChunks[] now = state.columns();
      if (now.length != columns.length) {
        return false;
      }
      for (int i = 0; i < now.length; i++) {
        if (now[i] != columns[i]) {
          return false;
        }
      }
      return true;
    }
  }

  RoaringBitmap fitting(String filter, Snapshot.State state, Supplier<RoaringBitmap> asked) {
    synchronized (this) {
      Tried tried = known.get(filter);
      if (tried != null && tried.of(state)) {
        return tried.fitting();
      }
    }
    RoaringBitmap found = asked.get();
    IntChunks[] columns = Arrays.copyOf(state.columns(), state.columns().length);
    synchronized (this) {
      known.put(filter, new Tried(state.people(), state.types(), columns, found));
    }
    return found;
  }
}
