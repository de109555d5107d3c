package eleutheria.core.access.engine;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/** What a change does to holdings: for each entitlement who gains and who loses. */
public final class Flips {
  /**
   * Of one entitlement; gain and loss are disjoint.
   *
   * @param entitlement its number
   * @param gain who holds it now and did not
   * @param entitledGain who is entitled now and was not, which a pause does not hide
   */
  public record Flip(
      int entitlement,
      RoaringBitmap gain,
      RoaringBitmap loss,
      RoaringBitmap entitledGain,
      RoaringBitmap entitledLoss) {}

  static final Flips NONE = new Flips(List.of());

  private final List<Flip> all;

  Flips(List<Flip> all) {
    this.all = all;
  }

  /** In the order of entitlements' numbers. */
  public List<Flip> all() {
    return all;
  }

  public boolean isEmpty() {
    return all.isEmpty();
  }

  /** What flips of one entitlement, or null. */
  public @Nullable Flip of(int entitlement) {
    for (Flip flip : all) {
      if (flip.entitlement == entitlement) {
        return flip;
      }
    }
    return null;
  }

  /** How many holdings are gained. */
  public long gained() {
    return all.stream().mapToLong(f -> f.gain.getCardinality()).sum();
  }

  public long lost() {
    return all.stream().mapToLong(f -> f.loss.getCardinality()).sum();
  }

  /**
   * Gain and loss from one state to another of the same engine. What both share is passed over
   * without a look; else one exclusive or tells gain and loss at once.
   */
  public static Flips between(Snapshot one, Snapshot other) {
    List<Flip> found = new ArrayList<>();
    RoaringBitmap wasActive = one.state.active();
    RoaringBitmap isActive = other.state.active();
    RoaringBitmap moved =
        wasActive == isActive ? Snapshot.NOBODY : RoaringBitmap.xor(wasActive, isActive);
    int size = Math.max(one.entitlements(), other.entitlements());
    for (int e = 0; e < size; e++) {
      RoaringBitmap before = one.entitledSet(e);
      RoaringBitmap after = other.entitledSet(e);
      boolean wasOpen = one.open(e);
      boolean isOpen = other.open(e);
      if (before == after && wasOpen == isOpen) {
        if (!isOpen || moved.isEmpty() || !RoaringBitmap.intersects(moved, after)) {
          continue;
        }
      }
      RoaringBitmap apart = before == after ? Snapshot.NOBODY : RoaringBitmap.xor(before, after);
      if (apart.isEmpty() && wasOpen == isOpen) {
        if (!isOpen || moved.isEmpty() || !RoaringBitmap.intersects(moved, after)) {
          continue;
        }
      }
      RoaringBitmap entitledGain = RoaringBitmap.and(apart, after);
      RoaringBitmap entitledLoss = RoaringBitmap.andNot(apart, entitledGain);
      RoaringBitmap gain;
      RoaringBitmap loss;
      if (wasOpen && isOpen) {
        gain = RoaringBitmap.and(entitledGain, isActive);
        loss = RoaringBitmap.and(entitledLoss, wasActive);
        if (!moved.isEmpty()) {
          RoaringBitmap woken = RoaringBitmap.and(moved, isActive);
          woken.and(after);
          gain.or(woken);
          RoaringBitmap slept = RoaringBitmap.and(moved, wasActive);
          slept.and(before);
          loss.or(slept);
        }
      } else {
        gain = isOpen ? RoaringBitmap.and(after, isActive) : new RoaringBitmap();
        loss = wasOpen ? RoaringBitmap.and(before, wasActive) : new RoaringBitmap();
      }
      if (!gain.isEmpty() || !loss.isEmpty() || !apart.isEmpty()) {
        found.add(new Flip(e, gain, loss, entitledGain, entitledLoss));
      }
    }
    return new Flips(found);
  }
}
