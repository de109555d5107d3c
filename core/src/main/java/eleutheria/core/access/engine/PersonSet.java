package eleutheria.core.access.engine;

import eleutheria.core.access.People;
import eleutheria.core.facts.PersonId;
import java.util.Iterator;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.IntIterator;
import org.roaringbitmap.RoaringBitmap;

/** People by their ids; the set behind it never changes. */
final class PersonSet extends People {
  private final Store store;
  private final RoaringBitmap numbers;

  PersonSet(Store store, RoaringBitmap numbers) {
    this.store = store;
    this.numbers = numbers;
  }

  @Override
  protected @Nullable Set<PersonId> fast(Operation operation, Set<PersonId> other) {
    if (!(other instanceof PersonSet set) || set.store != store) {
      return null;
    }
    return new PersonSet(
        store,
        switch (operation) {
          case AND -> RoaringBitmap.and(numbers, set.numbers);
          case OR -> RoaringBitmap.or(numbers, set.numbers);
          case MINUS -> RoaringBitmap.andNot(numbers, set.numbers);
        });
  }

  @Override
  public boolean contains(@Nullable Object other) {
    if (!(other instanceof PersonId id)) {
      return false;
    }
    int number = store.people.find(id.value());
    return number >= 0 && numbers.contains(number);
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof PersonSet set && set.store == store
        ? numbers == set.numbers || numbers.equals(set.numbers)
        : super.equals(other);
  }

  @Override
  public int hashCode() {
    return super.hashCode();
  }

  @Override
  public int size() {
    return numbers.getCardinality();
  }

  @Override
  public boolean isEmpty() {
    return numbers.isEmpty();
  }

  @Override
  public Iterator<PersonId> iterator() {
    IntIterator all = numbers.getIntIterator();
    return new Iterator<>() {
      @Override
      public boolean hasNext() {
        return all.hasNext();
      }

      @Override
      public PersonId next() {
        return store.person(all.next());
      }
    };
  }
}
