package eleutheria.server.state;

import static java.util.Objects.requireNonNull;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.Reference;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.access.engine.Engine;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.access.engine.EngineDirectory;
import eleutheria.core.access.engine.Losses;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.access.engine.Spans;
import eleutheria.core.access.engine.Store;
import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Lookup;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.Overlay;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.locks.ReentrantReadWriteLock;
import java.util.function.BiFunction;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.InitializingBean;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The state in memory: all facts, read at the start and following the ledger. Readers get a view
 * that never changes; whoever decides works on the facts while holding the ledger head.
 */
@Component
public class World implements InitializingBean {
  private static final Logger log = LoggerFactory.getLogger(World.class);

  private final DSLContext db;
  private final FactStore factStore;
  private final LedgerStore ledger;
  private final Clock clock;
  private final TransactionTemplate reading;
  private final ReentrantReadWriteLock lock = new ReentrantReadWriteLock();
  // The law of as-of makes a past moment the same for ever, so nothing here is ever out of date.
  // When the heap comes to its bound, they go first.
  private final Cache<Instant, PortalView> past =
      Caffeine.newBuilder().maximumSize(Engine.KEPT).softValues().build();

  private volatile Engine engine = Engine.of(new Store(), Instant.EPOCH);
  private Facts facts = new Facts(engine.store());
  private volatile LedgerHead head = LedgerHead.NONE;
  private volatile PortalView live =
      PortalView.of(facts, DirectoryView.of(facts, Instant.EPOCH), Instant.EPOCH);
  private final List<Runnable> listeners = new CopyOnWriteArrayList<>();
  private volatile @Nullable Instant begins;
  // Whether an entry could not be taken up, so that the state in memory is not to be trusted.
  private volatile boolean broken;
  private volatile int rebuilt;

  World(
      DSLContext db,
      FactStore factStore,
      LedgerStore ledger,
      Clock clock,
      org.springframework.transaction.PlatformTransactionManager transactions) {
    this.db = db;
    this.factStore = factStore;
    this.ledger = ledger;
    this.clock = clock;
    this.reading = new TransactionTemplate(transactions);
    reading.setReadOnly(true);
    reading.setIsolationLevel(Isolation.REPEATABLE_READ.value());
  }

  @Override
  public void afterPropertiesSet() {
    reload();
  }

  /** The newest position that this node has taken up. */
  public long position() {
    return head.position();
  }

  /** Tells somebody, in the acting thread and quickly, whenever the state has moved. */
  public void onMove(Runnable listener) {
    listeners.add(listener);
  }

  private void moved() {
    listeners.forEach(Runnable::run);
  }

  /** People and groups now. */
  public DirectoryView now() {
    return whole().directory();
  }

  /** The whole state now: people, applications, access, portal. */
  public PortalView whole() {
    Instant now = clock.instant().truncatedTo(ChronoUnit.MICROS);
    PortalView view = live;
    if (now.isBefore(view.directory().until()) && now.isBefore(view.until())) {
      return view;
    }
    if (looking()) {
      // It stands still while somebody looks; whoever looked would wait for themselves.
      return view;
    }
    lock.writeLock().lock();
    try {
      later(now);
      return live;
    } finally {
      lock.writeLock().unlock();
    }
  }

  /** Takes up what has begun or ended by itself. */
  private void later(Instant at) {
    DirectoryView now = live.directory();
    if (!at.isBefore(now.until()) || !at.isBefore(live.until())) {
      engine.advance(at);
      live = whole(now.later(facts, at, lookup()), engine.now(), at);
    }
  }

  /** Takes up the moves of an act. */
  private void moved(List<Move> moves, Instant at) {
    boolean crossed = !at.isBefore(live.directory().until());
    engine.take(moves, at);
    facts.take(moves);
    DirectoryView next = live.directory().after(facts, moves, at, lookup());
    if (crossed || moves.stream().anyMatch(move -> PortalView.standsOn(move.key()))) {
      live = whole(next, engine.now(), at);
    } else {
      live = live.with(new EngineAccess(engine, engine.now(), next, live.access().apps()), at);
    }
  }

  private Lookup lookup() {
    return new EngineDirectory(engine.now(), engine.next());
  }

  private PortalView whole(DirectoryView directory, Snapshot snapshot, Instant at) {
    AppsView apps = AppsView.of(facts, directory, at);
    return PortalView.of(facts, new EngineAccess(engine, snapshot, directory, apps), at);
  }

  /**
   * The state at a moment, or now if there is none.
   *
   * @throws Refusal if the moment is before the first act or still to come
   */
  public DirectoryView at(@Nullable Instant moment) {
    return whole(moment).directory();
  }

  /**
   * The whole state at a moment, or now if there is none.
   *
   * @throws Refusal if the moment is before the first act or still to come
   */
  public PortalView whole(@Nullable Instant moment) {
    if (moment == null) {
      return whole();
    }
    Instant first = begins;
    if (first == null || moment.isBefore(first)) {
      throw Refusal.invalid(
          "as-of.before-the-first-act",
          "asOf",
          "Nothing is on record before "
              + (first == null ? "the first act" : first.truncatedTo(ChronoUnit.SECONDS))
              + ".");
    }
    if (moment.isAfter(clock.instant())) {
      throw Refusal.invalid("as-of.to-come", "asOf", "That moment is still to come.");
    }
    // What begins or ends by itself until then is taken up first.
    whole();
    // It is built without holding the cache, which would keep out whoever looks already while an
    // act waits for them. The engine makes it once for all who ask at the same time.
    PortalView known = past.getIfPresent(moment);
    if (known == null) {
      known = build(moment);
      past.put(moment, known);
    }
    return known;
  }

  private PortalView build(Instant moment) {
    lock.readLock().lock();
    try {
      Snapshot past = engine.asOf(moment);
      return whole(DirectoryView.of(facts, moment, new EngineDirectory(past, null)), past, moment);
    } finally {
      lock.readLock().unlock();
    }
  }

  /** The instant of the first act, null before it. */
  public @Nullable Instant begins() {
    return begins;
  }

  /**
   * The start of the unbroken time for which somebody has held something; null if they do not hold
   * it at the moment of that state.
   */
  public @Nullable Instant since(PortalView whole, PersonId person, EntitlementId entitlement) {
    Instant first = begins;
    return first != null && whole.access() instanceof EngineAccess access
        ? access.since(person, entitlement, first)
        : null;
  }

  /** All the times for which somebody has held something, up to the moment of a state. */
  public List<Reference.Held> times(PortalView whole, PersonId person, EntitlementId entitlement) {
    Instant first = begins;
    if (first == null || !(whole.access() instanceof EngineAccess access)) {
      return List.of();
    }
    int p = access.snapshot().number(person);
    int e = access.snapshot().number(entitlement);
    Instant end = whole.access().at().plusNanos(1_000);
    return p < 0 || e < 0 || !first.isBefore(end) ? List.of() : Spans.of(engine, p, e, first, end);
  }

  /** When somebody held last what they do not hold any more; null if they hold it or never did. */
  public @Nullable Instant lost(PortalView whole, PersonId person, EntitlementId entitlement) {
    Instant first = begins;
    return first != null && whole.access() instanceof EngineAccess access
        ? access.lost(person, entitlement, first)
        : null;
  }

  /** The engine behind all of it, for queries that need more than one moment. */
  public Engine engine() {
    return engine;
  }

  /** The separation rules and exceptions of a moment. */
  public SeparationRules rules(Instant at) {
    return look((known, now) -> SeparationRules.of(known, at));
  }

  /** What would take an entitlement from a person now. */
  public Losses.Options taking(PersonId person, EntitlementId entitlement) {
    return look(
        (known, now) ->
            now.access() instanceof EngineAccess access
                ? access.taking(person, entitlement)
                : new Losses.Options(List.of(), false));
  }

  /** How many look at the state just now, and keep it from moving. */
  public int lookers() {
    return lock.getReadLockCount();
  }

  /** Whether the thread that asks looks just now, so that acts wait for it. */
  public boolean looking() {
    return lock.getReadHoldCount() > 0;
  }

  /**
   * Looks at facts and state together, while neither moves. Acts wait meanwhile, so whoever looks
   * must not wait for the database.
   */
  public <T> T look(BiFunction<Facts, PortalView, T> query) {
    whole();
    lock.readLock().lock();
    try {
      return query.apply(facts, live);
    } finally {
      lock.readLock().unlock();
    }
  }

  /** Is asked about the state as a draft would make it. */
  public interface Supposed<T> {
    /**
     * @param now the state as it is
     * @param with the state as the draft would make it; good only while this is asked
     */
    T ask(Overlay overlay, PortalView now, PortalView with);
  }

  /**
   * Asks about the state with a draft laid over it, while neither moves. Whoever asks must not wait
   * for the database: acts wait meanwhile.
   */
  public <T> T suppose(List<DraftEdit> draft, Instant at, Supposed<T> query) {
    return look(
        (known, whole) -> {
          Overlay overlay = Overlay.of(known, draft, at);
          if (overlay.edits().isEmpty()) {
            return query.ask(overlay, whole, whole);
          }
          AtomicReference<T> answer = new AtomicReference<>();
          whole
              .access()
              .suppose(
                  new AccessView.Supposition(
                      known, overlay.after(), overlay.edits(), overlay.moves(), at),
                  Set.of(),
                  (instant, without, with, anew) -> {
                    answer.set(
                        query.ask(overlay, whole, PortalView.of(overlay.after(), with, instant)));
                    return false;
                  });
          return answer.get();
        });
  }

  /**
   * Brings the state up to the head that the caller has locked, and gives it for a decision. Only
   * one caller can hold the head, so the facts do not move until {@link #take}.
   */
  public Facts caughtUp(DSLContext tx, LedgerHead locked, Instant at) {
    if (broken) {
      rebuild();
    }
    if (locked.position() != head.position()) {
      follow(tx);
    }
    lock.writeLock().lock();
    try {
      later(at);
      return facts;
    } finally {
      lock.writeLock().unlock();
    }
  }

  public PortalView live() {
    return live;
  }

  /** Takes up the moves of an act that is committed. */
  public void take(LedgerHead next, List<Move> moves) {
    lock.writeLock().lock();
    try {
      if (next.position() != head.position() + 1) {
        return;
      }
      moved(moves, next.instant());
      head = next;
      if (begins == null) {
        begins = next.instant();
      }
    } catch (RuntimeException e) {
      // It is committed all the same; the follower reads everything anew.
      broken = true;
      log.error("Entry {} could not be taken up", next.position(), e);
    } finally {
      lock.writeLock().unlock();
    }
    moved();
  }

  /** Follows what other nodes did, and what a crash after a commit left behind. */
  @Scheduled(fixedDelay = 1000)
  public void follow() {
    if (broken) {
      rebuild();
    }
    reading.executeWithoutResult(
        status -> {
          if (ledger.head(db).position() != head.position()) {
            follow(db);
          }
        });
  }

  private void follow(DSLContext tx) {
    lock.writeLock().lock();
    try {
      Optional<List<LedgerStore.Followed>> entries = ledger.after(tx, head.position());
      if (entries.isEmpty()) {
        log.info("A payload was erased meanwhile; reading all facts anew.");
        reload();
        return;
      }
      for (LedgerStore.Followed entry : entries.get()) {
        switch (facts.apply(entry.edits(), entry.head().instant())) {
          case Applied.Moves moves -> {
            moved(moves.moves(), entry.head().instant());
            head = entry.head();
          }
          case Applied.Clashes clashes ->
              throw new IllegalStateException(
                  "entry %d does not follow from the state: %s"
                      .formatted(entry.head().position(), clashes.clashes().getFirst()));
        }
      }
      if (begins == null) {
        begins = ledger.begins(tx);
      }
    } catch (RuntimeException e) {
      broken = true;
      log.error("An entry after {} could not be taken up", head.position(), e);
      rebuild();
    } finally {
      lock.writeLock().unlock();
    }
    moved();
  }

  /** Whether the state in memory is what the ledger says. */
  public boolean sound() {
    return !broken;
  }

  /** How often everything had to be read anew because an entry could not be taken up. */
  public int rebuilt() {
    return rebuilt;
  }

  private record Read(LedgerHead head, Store store, Facts facts, @Nullable Instant begins) {}

  private void rebuild() {
    log.warn("The state in memory is not to be trusted; reading all facts anew.");
    reload();
    broken = false;
    rebuilt++;
  }

  /** Reads everything from the database, as at the start; if that fails, nothing is changed. */
  public void reload() {
    lock.writeLock().lock();
    try {
      long started = System.nanoTime();
      Read read =
          requireNonNull(
              reading.execute(
                  status -> {
                    LedgerHead at = ledger.head(db);
                    Store store = EngineFacts.load(db);
                    Facts beside = factStore.loadBeside(db, store);
                    return new Read(at, store, beside, ledger.begins(db));
                  }));
      Instant now = clock.instant().truncatedTo(ChronoUnit.MICROS);
      Instant at = now.isBefore(read.head().instant()) ? read.head().instant() : now;
      engine = Engine.of(read.store(), at);
      facts = read.facts();
      head = read.head();
      begins = read.begins();
      live = whole(DirectoryView.of(facts, at, lookup()), engine.now(), at);
      past.invalidateAll();
      log.info(
          "Read {} facts up to position {} in {} ms",
          facts.size(),
          head.position(),
          (System.nanoTime() - started) / 1_000_000);
    } finally {
      lock.writeLock().unlock();
    }
  }
}
