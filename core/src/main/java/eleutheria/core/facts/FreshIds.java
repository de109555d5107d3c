package eleutheria.core.facts;

import java.time.Instant;
import java.util.UUID;
import java.util.random.RandomGenerator;

/**
 * Gives ids as UUID version 7 (RFC 9562, section 5.7): 48 bits of milliseconds, then a counter of
 * 12 bits (section 6.2, method 1), then random bits. Ids of one instance grow strictly.
 */
public final class FreshIds {
  private final RandomGenerator random;
  private long lastMillis = Long.MIN_VALUE;
  private int counter;

  public FreshIds(RandomGenerator random) {
    this.random = random;
  }

  public synchronized UUID next(Instant at) {
    long millis = Math.max(at.toEpochMilli(), lastMillis);
    if (millis == lastMillis && counter == 0xfff) {
      millis++;
    }
    counter = millis == lastMillis ? counter + 1 : random.nextInt(0x400);
    lastMillis = millis;
    long high = (millis << 16) | 0x7000L | counter;
    long low = (random.nextLong() & 0x3fff_ffff_ffff_ffffL) | 0x8000_0000_0000_0000L;
    return new UUID(high, low);
  }
}
