package eleutheria.core.access.engine;

import eleutheria.core.access.Effects;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import java.lang.ref.SoftReference;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/**
 * Keeps the state of access now, and makes those of the past.
 *
 * <p>One thread writes: it takes up the moves of acts and what begins or ends by itself, and
 * publishes a new {@link Snapshot} with one volatile write. Readers take the newest and never wait.
 * Boundaries to come stand in a map by instant, so that many at one instant cost no search.
 *
 * <p>A past state is made from the nearest one that is there, the newest or one of the {@value
 * #KEPT} kept, if at most {@value #NEAR} facts lie between; else it is built. Numbers are shared,
 * and what two states have in common is there once. Kept ones are the first to go when the heap
 * comes to its bound.
 */
public final class Engine {
  /** How many past states are kept. */
  public static final int KEPT = 3;

  private static final int NEAR = 200_000;

  private final Store store;
  private final TreeMap<Long, IntList> boundaries = new TreeMap<>();
  private volatile Snapshot now;
  // In the order of last use; guarded by itself.
  private final Map<Long, SoftReference<Snapshot>> past =
      new LinkedHashMap<>(8, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, SoftReference<Snapshot>> eldest) {
          return size() > KEPT;
        }
      };
  private final Map<Long, Object> making = new ConcurrentHashMap<>();

  private Engine(Store store, Snapshot now) {
    this.store = store;
    this.now = now;
    store.boundaries(now.at, this::boundary);
  }

  public static Engine of(Facts facts, Instant at) {
    return of(Store.of(facts), at);
  }

  /** An engine over facts that are filled in already. */
  public static Engine of(Store store, Instant at) {
    return new Engine(store, Build.of(store, Store.micros(at)));
  }

  /** The newest state. */
  public Snapshot now() {
    return now;
  }

  /** The next moment at which something begins or ends by itself; null if nothing does. */
  public synchronized @Nullable Instant next() {
    return boundaries.isEmpty() ? null : Store.instant(boundaries.firstKey());
  }

  private void boundary(long instant, Table table, int row) {
    boundaries.computeIfAbsent(instant, i -> new IntList(2)).add(table.ordinal() << 28 | row);
  }

  // ---- writing

  /**
   * Takes up the moves of an act, or of several in order, and whatever has begun or ended by itself
   * until then.
   *
   * @param at the instant of the act, of the last one where they are several
   *     <p>Where the state stands a little later already, because a clock that is ahead moved it
   *     over a boundary, it stays there: states never go back.
   * @return what flips
   */
  public synchronized Flips take(Collection<Move> moves, Instant at) {
    synchronized (store) {
      return taken(moves, Math.max(Store.micros(at), now.at));
    }
  }

  private Flips taken(Collection<Move> moves, long next) {
    Map<Long, Boolean> touched = new LinkedHashMap<>();
    for (Move move : moves) {
      store.take(
          move,
          (table, row, fresh) ->
              touched.putIfAbsent(
                  (long) table.ordinal() << 32 | row, !fresh && store.rows(table).on(row, now.at)));
    }
    touched
        .keySet()
        .forEach(
            key -> {
              Table table = Table.values()[(int) (key >>> 32)];
              int row = key.intValue();
              Rows rows = store.rows(table);
              if (rows.from(row) > next && rows.from(row) < Rows.FOREVER) {
                boundary(rows.from(row), table, row);
              }
              if (rows.until(row) > next && rows.until(row) < Rows.FOREVER) {
                boundary(rows.until(row), table, row);
              }
            });
    return to(next, touched);
  }

  /** Lets whatever begins or ends by itself until a moment begin or end. */
  public synchronized Flips advance(Instant at) {
    long next = Store.micros(at);
    return next <= now.at ? Flips.NONE : to(next, new LinkedHashMap<>());
  }

  private Flips to(long next, Map<Long, Boolean> touched) {
    Iterator<Map.Entry<Long, IntList>> due = boundaries.entrySet().iterator();
    while (due.hasNext()) {
      Map.Entry<Long, IntList> entry = due.next();
      if (entry.getKey() > next) {
        break;
      }
      for (int i = 0; i < entry.getValue().size(); i++) {
        int packed = entry.getValue().get(i);
        Table table = Table.values()[packed >>> 28];
        int row = packed & 0x0FFF_FFFF;
        touched.putIfAbsent((long) table.ordinal() << 32 | row, store.rows(table).on(row, now.at));
      }
      due.remove();
    }
    Delta delta = new Delta();
    touched.forEach(
        (key, before) -> {
          Table table = Table.values()[(int) (key >>> 32)];
          int row = key.intValue();
          delta.add(table, row, before, store.rows(table).on(row, next));
        });
    Change.Result result = Change.of(now, delta, next);
    now = result.snapshot();
    return result.flips();
  }

  // ---- what would be

  /** Is shown the states without and with some moves, one moment after the other. */
  public interface Watcher {
    /**
     * @param anew whether what the two differ by in access may have changed since the last moment
     * @return whether to go on to the next moment
     */
    boolean at(Instant instant, Snapshot without, Snapshot with, boolean anew);
  }

  /**
   * What moves would do: at the act, and at each later moment at which the states with and without
   * them begin to differ anew. Changes nothing.
   */
  public List<Effects.At> trial(List<Move> moves, Instant at) {
    List<Effects.At> found = new ArrayList<>();
    Effects.At[] last = {Effects.At.nothing(at)};
    suppose(
        moves,
        at,
        Set.of(),
        (instant, without, with, anew) -> {
          if (anew) {
            Effects.At next = differ(without, with);
            if (!next.isEmpty() && !next.same(last[0])) {
              found.add(next);
            }
            last[0] = next;
          }
          return true;
        });
    return found;
  }

  /**
   * Lays moves over the newest state, and shows both states at the act and at every later boundary,
   * of the moves or standing. Changes nothing. The states are good only while they are shown: rows
   * that the moves would bring are taken away afterwards. Whoever watches must not wait for
   * anything, since acts wait meanwhile.
   *
   * <p>Both states walk the boundaries to come side by side. Where a boundary flips the same in
   * both, what they differ by stays as it is.
   *
   * @param more further moments to be shown
   */
  public synchronized void suppose(
      List<Move> moves, Instant at, Set<Instant> more, Watcher watcher) {
    synchronized (store) {
      long first = Math.max(Store.micros(at), now.at);
      int[] sizes = store.tableSizes();
      try {
        Map<Long, Times.Span> spans = new LinkedHashMap<>();
        for (Move move : moves) {
          store.tryOut(
              move,
              (table, row, from, until) ->
                  spans.put(
                      (long) table.ordinal() << 32 | row,
                      from == Long.MAX_VALUE ? Times.Span.NEVER : new Times.Span(from, until)));
        }
        walk(spans, sizes, first, more, watcher);
      } finally {
        store.truncate(sizes);
      }
    }
  }

  private void walk(
      Map<Long, Times.Span> spans, int[] sizes, long first, Set<Instant> more, Watcher watcher) {
    Delta until = new Delta();
    boundaries
        .headMap(first, true)
        .values()
        .forEach(rows -> real(until, rows, now.at, first, Map.of()));
    Snapshot without = Change.of(now, until, first).snapshot();
    Delta moved = new Delta();
    spans.forEach(
        (key, span) -> {
          Table table = Table.values()[(int) (key >>> 32)];
          int row = key.intValue();
          boolean fresh = row >= sizes[table.ordinal()];
          moved.add(table, row, !fresh && store.rows(table).on(row, first), span.on(first));
        });
    // What the moves would bring is there for one of the two alone.
    Map<Long, Times.Span> unmoved = new HashMap<>();
    spans
        .keySet()
        .forEach(
            key -> {
              if (key.intValue() >= sizes[(int) (key >>> 32)]) {
                unmoved.put(key, Times.Span.NEVER);
              }
            });
    without = without.tried(unmoved);
    Snapshot with = Change.of(without, moved, first).snapshot().tried(spans);
    if (!watcher.at(Store.instant(first), without, with, true)) {
      return;
    }
    TreeSet<Long> instants = new TreeSet<>(boundaries.tailMap(first, false).keySet());
    for (Times.Span span : spans.values()) {
      for (long instant : new long[] {span.from(), span.until()}) {
        if (instant > first && instant < Rows.FOREVER) {
          instants.add(instant);
        }
      }
    }
    more.forEach(instant -> instants.add(Store.micros(instant)));
    long before = first;
    for (long instant : instants.tailSet(first, false)) {
      Delta plain = new Delta();
      Delta varied = new Delta();
      IntList rows = boundaries.get(instant);
      if (rows != null) {
        real(plain, rows, before, instant, Map.of());
        real(varied, rows, before, instant, spans);
      }
      for (Map.Entry<Long, Times.Span> each : spans.entrySet()) {
        Table table = Table.values()[(int) (each.getKey() >>> 32)];
        varied.add(
            table,
            each.getKey().intValue(),
            each.getValue().on(before),
            each.getValue().on(instant));
      }
      Change.Result one = Change.of(without, plain, instant);
      Change.Result other = Change.of(with, varied, instant);
      without = one.snapshot().tried(unmoved);
      with = other.snapshot().tried(spans);
      before = instant;
      boolean anew = !one.flips().all().equals(other.flips().all());
      if (!watcher.at(Store.instant(instant), without, with, anew)) {
        return;
      }
    }
  }

  /** Adds the rows of a boundary that turn between two moments, but for those that are varied. */
  private void real(Delta delta, IntList rows, long before, long at, Map<Long, Times.Span> varied) {
    for (int i = 0; i < rows.size(); i++) {
      Table table = Table.values()[rows.get(i) >>> 28];
      int row = rows.get(i) & 0x0FFF_FFFF;
      if (!varied.containsKey((long) table.ordinal() << 32 | row)) {
        delta.add(table, row, store.rows(table).on(row, before), store.rows(table).on(row, at));
      }
    }
  }

  /** What two states differ by. */
  static Effects.At differ(Snapshot without, Snapshot with) {
    Store store = with.store;
    Map<EntitlementId, Set<PersonId>> gain = new LinkedHashMap<>();
    Map<EntitlementId, Set<PersonId>> loss = new LinkedHashMap<>();
    Map<EntitlementId, Set<PersonId>> entitledGain = new LinkedHashMap<>();
    Map<EntitlementId, Set<PersonId>> entitledLoss = new LinkedHashMap<>();
    for (Flips.Flip flip : Flips.between(without, with).all()) {
      EntitlementId id = store.entitlement(flip.entitlement());
      put(store, gain, id, flip.gain());
      put(store, loss, id, flip.loss());
      put(store, entitledGain, id, flip.entitledGain());
      put(store, entitledLoss, id, flip.entitledLoss());
    }
    return new Effects.At(with.at(), gain, loss, entitledGain, entitledLoss);
  }

  static void put(
      Store store, Map<EntitlementId, Set<PersonId>> into, EntitlementId id, RoaringBitmap people) {
    if (!people.isEmpty()) {
      into.put(id, new PersonSet(store, people));
    }
  }

  // ---- the past

  /**
   * The state at a moment that is past. It is the same at every later position, so it is kept.
   *
   * @throws IllegalArgumentException if something begins or ends by itself between the newest state
   *     and that moment, which {@link #advance} has not been told of
   */
  public Snapshot asOf(Instant moment) {
    long at = Store.micros(moment);
    Snapshot newest = now;
    if (at >= newest.at) {
      Instant next = next();
      if (next != null && !next.isAfter(moment)) {
        throw new IllegalArgumentException(moment + " is after the newest state, " + newest.at());
      }
      return newest;
    }
    // One makes it for all who ask for it meanwhile; other moments do not wait for it.
    Object lock = making.computeIfAbsent(at, a -> new Object());
    synchronized (lock) {
      try {
        Snapshot nearest = nearest(at, newest);
        if (nearest.at == at) {
          return nearest;
        }
        Delta delta = store.between(nearest.at, at);
        Snapshot made =
            delta.size() <= NEAR ? Change.of(nearest, delta, at).snapshot() : Build.of(store, at);
        synchronized (past) {
          past.put(at, new SoftReference<>(made));
        }
        return made;
      } finally {
        making.remove(at, lock);
      }
    }
  }

  private Snapshot nearest(long at, Snapshot newest) {
    synchronized (past) {
      SoftReference<Snapshot> kept = past.get(at);
      Snapshot known = kept == null ? null : kept.get();
      if (known != null) {
        return known;
      }
      Snapshot nearest = newest;
      for (SoftReference<Snapshot> reference : past.values()) {
        Snapshot each = reference.get();
        if (each != null && Math.abs(each.at - at) < Math.abs(nearest.at - at)) {
          nearest = each;
        }
      }
      return nearest;
    }
  }

  /** Builds a state anew, whatever is there. */
  public Snapshot build(Instant moment) {
    return Build.of(store, Store.micros(moment));
  }

  /** What a state would be without some rows, and what would flip. */
  static Change.Result without(Snapshot snapshot, Delta delta) {
    return Change.of(snapshot, delta, snapshot.at);
  }

  /** A filter tried on the newest state: while it is typed, or to see whom it would fit. */
  public final class Trial {
    private final @Nullable FilterProgram program;
    private final Snapshot state;

    private Trial(String text) {
      state = now;
      FilterParser.Parsed parsed =
          FilterParser.parse(text, Build.schema(store, state.state.types()));
      program =
          parsed instanceof FilterParser.Parsed.Good good
              ? FilterProgram.of(good.filter(), store)
              : null;
    }

    /** Everyone who fits; nobody where the filter cannot be read. */
    public RoaringBitmap everyone() {
      return program == null
          ? new RoaringBitmap()
          : program.everyone(state.state.columns(), state.state.people(), store.people.size());
    }

    public boolean fits(int person) {
      return program != null && state.exists(person) && program.fits(state.state.columns(), person);
    }
  }

  /** Makes a filter ready (RFC 7644, section 3.4.2.2), without anything being changed. */
  public Trial trial(String filter) {
    return new Trial(filter);
  }

  /** All facts, past and to come. */
  public Store store() {
    return store;
  }

  /** What a table holds, for the log. */
  public List<String> sizes() {
    List<String> found = new ArrayList<>();
    store.sizes((name, size) -> found.add(name + " " + size));
    return found;
  }
}
