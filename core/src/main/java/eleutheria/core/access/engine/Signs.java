package eleutheria.core.access.engine;

import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.PersonId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.roaringbitmap.RoaringBitmap;

/**
 * The signs of a holding: for each of its grounds by what it covers the person and whence the grant
 * comes, as a set of bits.
 */
public final class Signs {
  private Signs() {}

  /** One sign. */
  public record Sign(Holders.By by, GrantSource source) {}

  /** The signs behind a set of bits, those of the person's own first. */
  public static List<Sign> read(int bits) {
    List<Sign> found = new ArrayList<>();
    for (Holders.By by : Holders.By.values()) {
      for (GrantSource source : GrantSource.values()) {
        if ((bits & bit(by, source)) != 0) {
          found.add(new Sign(by, source));
        }
      }
    }
    return found;
  }

  static int bit(Holders.By by, GrantSource source) {
    return 1 << (by.ordinal() * GrantSource.values().length + source.ordinal());
  }

  /** The signs of one holding, as a set of bits; 0 where it is not held. */
  public static int of(Snapshot snapshot, PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? 0 : of(snapshot, p, e);
  }

  static int of(Snapshot snapshot, int person, int entitlement) {
    Snapshot.State state = snapshot.state;
    int bits = 0;
    int[] own = Snapshot.or(state.own().get(person));
    for (int i = 0; i < own.length; i += 2) {
      if (own[i] == entitlement) {
        bits |= bit(Holders.By.PERSON, snapshot.store.source(own[i + 1]));
      }
    }
    for (int grant : Snapshot.or(state.groupGrants().get(entitlement))) {
      int bit = bit(Holders.By.GROUP, snapshot.store.source(grant));
      if ((bits & bit) == 0
          && snapshot.reaches(person, Store.subjectOf(snapshot.store.subject(grant)))) {
        bits |= bit;
      }
    }
    for (int grant : Snapshot.or(state.byFilter().get(entitlement))) {
      int bit = bit(Holders.By.FILTER, snapshot.store.source(grant));
      if ((bits & bit) == 0
          && Snapshot.or(state.fitting().get(Store.subjectOf(snapshot.store.subject(grant))))
              .contains(person)) {
        bits |= bit;
      }
    }
    return bits;
  }

  /** How many of some people hold an entitlement on each set of signs. */
  static Map<Integer, Integer> count(Snapshot snapshot, RoaringBitmap people, int entitlement) {
    Map<Integer, RoaringBitmap> bySign = new HashMap<>();
    Snapshot.State state = snapshot.state;
    RoaringBitmap owning = RoaringBitmap.and(people, Snapshot.or(state.owning().get(entitlement)));
    for (int person : owning) {
      int[] own = Snapshot.or(state.own().get(person));
      for (int i = 0; i < own.length; i += 2) {
        if (own[i] == entitlement) {
          bySign
              .computeIfAbsent(
                  bit(Holders.By.PERSON, snapshot.store.source(own[i + 1])),
                  b -> new RoaringBitmap())
              .add(person);
        }
      }
    }
    for (int grant : Snapshot.or(state.groupGrants().get(entitlement))) {
      bySign
          .computeIfAbsent(
              bit(Holders.By.GROUP, snapshot.store.source(grant)), b -> new RoaringBitmap())
          .or(
              RoaringBitmap.and(
                  people,
                  Snapshot.or(
                      state.members().get(Store.subjectOf(snapshot.store.subject(grant))))));
    }
    for (int grant : Snapshot.or(state.byFilter().get(entitlement))) {
      bySign
          .computeIfAbsent(
              bit(Holders.By.FILTER, snapshot.store.source(grant)), b -> new RoaringBitmap())
          .or(
              RoaringBitmap.and(
                  people,
                  Snapshot.or(
                      state.fitting().get(Store.subjectOf(snapshot.store.subject(grant))))));
    }
    // Each sign parts every set so far in two.
    Map<Integer, RoaringBitmap> parts = new HashMap<>();
    parts.put(0, people);
    bySign.forEach(
        (bit, set) -> {
          Map<Integer, RoaringBitmap> finer = new HashMap<>();
          parts.forEach(
              (bits, part) -> {
                put(finer, bits | bit, RoaringBitmap.and(part, set));
                put(finer, bits, RoaringBitmap.andNot(part, set));
              });
          parts.clear();
          parts.putAll(finer);
        });
    Map<Integer, Integer> counts = new HashMap<>();
    parts.forEach(
        (bits, part) -> {
          if (!part.isEmpty()) {
            counts.put(bits, part.getCardinality());
          }
        });
    return counts;
  }

  private static void put(Map<Integer, RoaringBitmap> into, int bits, RoaringBitmap part) {
    if (!part.isEmpty()) {
      into.put(bits, part);
    }
  }
}
