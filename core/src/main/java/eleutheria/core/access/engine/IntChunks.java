package eleutheria.core.access.engine;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** The same as {@link Chunks} for numbers; 0 where nothing was put. */
final class IntChunks {
  private final int[] @Nullable [] top;

  private IntChunks(int[] @Nullable [] top) {
    this.top = top;
  }

  static IntChunks empty() {
    return new IntChunks(new int[0][]);
  }

  int get(int index) {
    int at = index >>> Chunks.BITS;
    if (at >= top.length) {
      return 0;
    }
    int[] chunk = top[at];
    return chunk == null ? 0 : chunk[index & Chunks.MASK];
  }

  /** The chunk that starts at {@code index}, a multiple of its size; null where all are 0. */
  int @Nullable [] chunk(int index) {
    int at = index >>> Chunks.BITS;
    return at >= top.length ? null : top[at];
  }

  Editor edit() {
    return new Editor(this);
  }

  static final class Editor {
    private final IntChunks from;
    private int[] @Nullable [] top;
    private boolean[] own = {};
    private boolean changed;

    private Editor(IntChunks from) {
      this.from = from;
      this.top = from.top;
    }

    int get(int index) {
      int at = index >>> Chunks.BITS;
      if (at >= top.length) {
        return 0;
      }
      int[] chunk = top[at];
      return chunk == null ? 0 : chunk[index & Chunks.MASK];
    }

    void set(int index, int value) {
      int at = index >>> Chunks.BITS;
      if (!changed) {
        changed = true;
        top = Arrays.copyOf(top, Math.max(top.length, at + 1));
        own = new boolean[top.length];
      } else if (at >= top.length) {
        top = Arrays.copyOf(top, Math.max(at + 1, top.length + top.length / 8 + 1));
        own = Arrays.copyOf(own, top.length);
      }
      if (!own[at]) {
        int[] chunk = top[at];
        top[at] = chunk == null ? new int[Chunks.SIZE] : chunk.clone();
        own[at] = true;
      }
      top[at][index & Chunks.MASK] = value;
    }

    IntChunks done() {
      return changed ? new IntChunks(top) : from;
    }
  }
}
