package eleutheria.core.access;

import eleutheria.core.facts.PersonId;
import java.util.AbstractSet;
import java.util.Collection;
import java.util.HashSet;
import java.util.Set;
import org.jspecify.annotations.NullMarked;

/**
 * A set of people that never changes, with the algebra of sets. The engine's are bitmaps, so that
 * both sides being the engine's costs microseconds for a hundred thousand people.
 */
@NullMarked
public abstract class People extends AbstractSet<PersonId> {
  public static final Set<PersonId> NOBODY = Set.of();

  /** This set and another, if both are of one kind; null where that has to be done one by one. */
  protected abstract @org.jspecify.annotations.Nullable Set<PersonId> fast(
      Operation operation, Set<PersonId> other);

  /** What is done with two sets. */
  protected enum Operation {
    AND,
    OR,
    MINUS
  }

  /** Those in both. */
  public static Set<PersonId> and(Set<PersonId> one, Set<PersonId> other) {
    if (one.isEmpty() || other.isEmpty()) {
      return NOBODY;
    }
    return of(Operation.AND, one, other);
  }

  /** Those in either. */
  public static Set<PersonId> or(Set<PersonId> one, Set<PersonId> other) {
    if (one.isEmpty()) {
      return other;
    }
    return other.isEmpty() ? one : of(Operation.OR, one, other);
  }

  /** Those in any of them. */
  public static Set<PersonId> any(Collection<? extends Set<PersonId>> all) {
    Set<PersonId> found = NOBODY;
    for (Set<PersonId> each : all) {
      found = or(found, each);
    }
    return found;
  }

  /** Those in the one who are not in the other. */
  public static Set<PersonId> minus(Set<PersonId> one, Set<PersonId> other) {
    if (one.isEmpty() || other.isEmpty()) {
      return one;
    }
    return of(Operation.MINUS, one, other);
  }

  private static Set<PersonId> of(Operation operation, Set<PersonId> one, Set<PersonId> other) {
    Set<PersonId> fast = one instanceof People people ? people.fast(operation, other) : null;
    if (fast != null) {
      return fast;
    }
    Set<PersonId> found = new HashSet<>(one);
    switch (operation) {
      case AND -> found.removeIf(person -> !other.contains(person));
      case OR -> found.addAll(other);
      case MINUS -> other.forEach(found::remove);
    }
    return found;
  }
}
