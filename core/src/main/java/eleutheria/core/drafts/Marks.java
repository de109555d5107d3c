package eleutheria.core.drafts;

import eleutheria.core.access.Conflict;
import eleutheria.core.access.Effects;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.Collection;
import java.util.HexFormat;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * The consequences that somebody has seen, small enough to be kept: a number of 64 bits for each
 * gainer and each loser of each entitlement, and for each breach. What has grown since can be told
 * exactly, but for a chance of one in 10¹³ even with a million of them.
 */
public final class Marks {
  private static final long GAIN = 0x9E37_79B9_7F4A_7C15L;
  private static final long BREACH = 0x1656_67B1_9E37_79F9L;
  private static final long LOSS = 0xC2B2_AE3D_27D4_EB4FL;

  // Sorted, each once.
  private final long[] all;
  private volatile @Nullable String digest;

  private Marks(long[] sorted) {
    this.all = sorted;
  }

  public static Marks of(Effects effects, Collection<Conflict> conflicts) {
    long[] found = new long[Math.max(16, conflicts.size())];
    int size = 0;
    for (Conflict conflict : conflicts) {
      found[size++] = of(conflict);
    }
    // Mostly the same people gain several things.
    Set<PersonId> last = Set.of();
    long[] people = {};
    for (boolean gain : new boolean[] {true, false}) {
      Map<EntitlementId, Set<PersonId>> side = gain ? effects.gained() : effects.lost();
      for (Map.Entry<EntitlementId, Set<PersonId>> entry : side.entrySet()) {
        if (!entry.getValue().equals(last)) {
          last = entry.getValue();
          people = new long[last.size()];
          int at = 0;
          for (PersonId person : last) {
            people[at++] = of(person);
          }
        }
        found = size + people.length > found.length ? grown(found, size, people.length) : found;
        long thing = of(gain, entry.getKey());
        for (long person : people) {
          found[size++] = mixed(thing ^ person);
        }
      }
    }
    long[] sorted = Arrays.copyOf(found, size);
    Arrays.parallelSort(sorted);
    return new Marks(sorted);
  }

  private static long[] grown(long[] found, int size, int more) {
    return Arrays.copyOf(found, Math.max(size + more, size * 2));
  }

  private static long of(PersonId person) {
    return mixed(GAIN ^ LOSS, person.value());
  }

  private static long of(boolean gain, EntitlementId entitlement) {
    return mixed(gain ? GAIN : LOSS, entitlement.value());
  }

  /** The mark of one person who gains or loses one thing. */
  public static long of(boolean gain, EntitlementId entitlement, PersonId person) {
    return mixed(of(gain, entitlement) ^ of(person));
  }

  /** The mark of one breach. */
  public static long of(Conflict conflict) {
    long mark = mixed(BREACH, conflict.rule().value());
    mark = mixed(mark, conflict.person().value());
    mark = mixed(mark, conflict.one().value());
    return mixed(mark, conflict.other().value());
  }

  private static long mixed(long seed, UUID id) {
    return mixed(mixed(seed ^ id.getMostSignificantBits()) + id.getLeastSignificantBits());
  }

  /** The finalizer of SplitMix64, a bijection. */
  private static long mixed(long value) {
    long z = value + GAIN;
    z = (z ^ (z >>> 30)) * 0xBF58_476D_1CE4_E5B9L;
    z = (z ^ (z >>> 27)) * 0x94D0_49BB_1331_11EBL;
    return z ^ (z >>> 31);
  }

  public static Marks read(byte[] bytes) {
    long[] all = new long[bytes.length / Long.BYTES];
    ByteBuffer.wrap(bytes).asLongBuffer().get(all);
    return new Marks(all);
  }

  /** A text that stands for all of them: SHA-256 in hexadecimal digits. */
  public String digest() {
    String known = digest;
    if (known == null) {
      known = HexFormat.of().formatHex(sha256().digest(bytes()));
      digest = known;
    }
    return known;
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }

  public byte[] bytes() {
    ByteBuffer buffer = ByteBuffer.allocate(all.length * Long.BYTES);
    buffer.asLongBuffer().put(all);
    return buffer.array();
  }

  public boolean has(long mark) {
    return Arrays.binarySearch(all, mark) >= 0;
  }

  /** Whether all of these are among others. */
  public boolean within(Marks others) {
    int at = 0;
    for (long mark : all) {
      while (at < others.all.length && others.all[at] < mark) {
        at++;
      }
      if (at == others.all.length || others.all[at] != mark) {
        return false;
      }
    }
    return true;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof Marks marks && Arrays.equals(all, marks.all);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(all);
  }
}
