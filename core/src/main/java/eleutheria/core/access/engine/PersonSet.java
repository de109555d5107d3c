package eleutheria.core.access.engine;

import eleutheria.core.facts.PersonId;
import java.util.AbstractSet;
import java.util.Iterator;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.IntIterator;
import org.roaringbitmap.RoaringBitmap;

/** People by their ids; the set behind it never changes. */
final class PersonSet extends AbstractSet<PersonId> {
  private final Store store;
  private final RoaringBitmap numbers;

  PersonSet(Store store, RoaringBitmap numbers) {
    this.store = store;
    this.numbers = numbers;
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
  public int size() {
    return numbers.getCardinality();
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
