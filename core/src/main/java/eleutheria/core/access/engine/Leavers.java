package eleutheria.core.access.engine;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import org.roaringbitmap.RoaringBitmap;

/**
 * Who left later than their stated last day, because that was learnt late, and what they held until
 * then: just before they departed.
 */
public final class Leavers {
  private final Map<PersonId, LocalDate> stated;
  private final Map<Integer, RoaringBitmap> held;

  private Leavers(Map<PersonId, LocalDate> stated, Map<Integer, RoaringBitmap> held) {
    this.stated = stated;
    this.held = held;
  }

  /**
   * Of those who departed on a day or later. Cost: a past state for each moment at which any did.
   *
   * @param directory people at the moment that is asked about
   */
  public static Leavers since(
      Engine engine, DirectoryView directory, LocalDate first, ZoneId zone) {
    Map<PersonId, LocalDate> stated = new TreeMap<>();
    Map<Integer, RoaringBitmap> held = new HashMap<>();
    Map<Instant, Snapshot> before = new HashMap<>();
    for (Person person : directory.people()) {
      LocalDate last = person.standing().stated();
      LocalDate left = person.since().atZone(zone).toLocalDate();
      if (person.status() != PersonStatus.DEPARTED
          || last == null
          || left.isBefore(first)
          || !left.isAfter(last)) {
        continue;
      }
      stated.put(person.id(), last);
      Snapshot then =
          before.computeIfAbsent(person.since(), at -> engine.asOf(at.minusNanos(1_000)));
      int number = then.number(person.id());
      for (int e : then.holdingsOf(number)) {
        held.computeIfAbsent(e, k -> new RoaringBitmap()).add(number);
      }
    }
    return new Leavers(stated, held);
  }

  /** Their stated last days. */
  public Map<PersonId, LocalDate> stated() {
    return stated;
  }

  /** Those of them who held an entitlement; never to be changed. */
  public RoaringBitmap held(int entitlement) {
    return held.getOrDefault(entitlement, Snapshot.NOBODY);
  }
}
