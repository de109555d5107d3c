package eleutheria.core.access.engine;

import org.jspecify.annotations.Nullable;

/** Things by number: a version of {@link Chunks}, or one in the making. */
interface Listed<T> {
  @Nullable T get(int index);
}
