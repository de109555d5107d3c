package eleutheria.core.access.engine;

import eleutheria.core.facts.PersonId;
import java.util.AbstractSet;
import java.util.Iterator;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.IntIterator;
import org.roaringbitmap.RoaringBitmap;

/** People of one state by their ids; the set behind it never changes. */
final class PersonSet extends AbstractSet<PersonId> {
  private final Snapshot snapshot;
  private final RoaringBitmap numbers;

  PersonSet(Snapshot snapshot, RoaringBitmap numbers) {
    this.snapshot = snapshot;
    this.numbers = numbers;
  }

  @Override
  public boolean contains(@Nullable Object other) {
    if (!(other instanceof PersonId id)) {
      return false;
    }
    int number = snapshot.number(id);
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
        return snapshot.person(all.next());
      }
    };
  }
}
