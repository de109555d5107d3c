package eleutheria.server.writing;

import static eleutheria.server.tables.Tables.OUTBOX;
import static eleutheria.server.tables.Tables.WATERMARK;

import eleutheria.core.directory.ClockDecisions;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Boundaries;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.SealedEntry;
import eleutheria.core.mandates.Authority;
import eleutheria.core.portal.PortalView;
import eleutheria.server.state.FactStore;
import eleutheria.server.state.LedgerStore;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import java.util.function.Function;
import java.util.random.RandomGenerator;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;

/**
 * Makes a past: runs the same decisions as {@link Acts}, on a clock of its own, and writes many
 * acts in one transaction. Only for a database that nobody else writes to.
 */
public final class Loader {
  private static final int ACTS_AT_ONCE = 200;

  private final DSLContext db;
  private final ZoneId zone;
  private final FreshIds ids;
  private final LedgerChain chain;
  private final FactStore factStore = new FactStore();
  private final LedgerStore ledger = new LedgerStore();
  private final Facts facts;
  private final List<Written> waiting = new ArrayList<>();
  private LedgerHead head;
  private DirectoryView directory;
  private @Nullable PortalView portal;

  private final PriorityQueue<Waiting> due =
      new PriorityQueue<>(Comparator.comparing((Waiting w) -> w.due().at()));
  private Instant reached = Instant.EPOCH;

  private record Written(SealedEntry entry, List<Move> moves, List<Errand> errands) {}

  private record Waiting(Later.Due due, long position) {}

  public Loader(DSLContext db, ZoneId zone, RandomGenerator random) {
    this.db = db;
    this.zone = zone;
    this.ids = new FreshIds(random);
    this.chain = new LedgerChain(random);
    this.facts = factStore.load(db);
    this.head = ledger.head(db);
    this.directory = DirectoryView.of(facts, head.instant());
  }

  /** The whole state after the last act. */
  public PortalView portal() {
    if (portal == null || portal.directory() != directory) {
      portal = PortalView.of(facts, directory, directory.at());
    }
    return portal;
  }

  /** The position of the last act. */
  public long position() {
    return head.position();
  }

  /** The state after the last act. */
  public DirectoryView directory() {
    return directory;
  }

  /**
   * Performs an act at a moment of the simulated clock.
   *
   * @throws IllegalStateException if it is refused: a past is made of acts that were possible
   */
  public <T> T act(Instant clock, Actor actor, Function<Moment, Outcome<T>> decision) {
    boundaries(clock);
    return perform(clock, actor, decision);
  }

  /** Lets the simulated time pass, so that the state is the one of this moment. */
  public void pass(Instant clock) {
    boundaries(clock);
    directory = directory.later(facts, Moments.next(clock, head.instant()));
  }

  /** What begins and ends by itself up to a moment, each in its turn and by the clock. */
  private void boundaries(Instant until) {
    while (!due.isEmpty() && !due.peek().due().at().isAfter(until)) {
      Waiting first = due.poll();
      List<FactKey> keys = new ArrayList<>();
      keep(keys, first);
      while (!due.isEmpty()
          && due.peek().due().at().equals(first.due().at())
          && due.peek().position() == first.position()) {
        keep(keys, due.poll());
      }
      reached = first.due().at();
      if (!keys.isEmpty()) {
        perform(
            reached,
            new Actor.Clock(),
            moment -> ClockDecisions.boundary(moment, first.due().at(), first.position(), keys));
      }
    }
  }

  private void keep(List<FactKey> keys, Waiting waiting) {
    if (waiting.due().kind().equals(Later.BOUNDARY)) {
      FactKey key = Later.key(waiting.due().subject());
      if (Boundaries.stands(facts, new Boundaries.Boundary(waiting.due().at(), key))) {
        keys.add(key);
      }
    }
  }

  private <T> T perform(Instant clock, Actor actor, Function<Moment, Outcome<T>> decision) {
    Instant at = Moments.next(clock, head.instant());
    directory = directory.later(facts, at);
    Authority authority =
        actor instanceof Actor.OfPerson person
            ? directory.authority(person.person())
            : Authority.SETUP;
    Moment moment = new Moment(facts, directory, at, zone, () -> ids.next(at), authority);
    return switch (decision.apply(moment)) {
      case Outcome.Refused<T> refused ->
          throw new IllegalStateException(at + " " + refused.problems());
      case Outcome.Done<T> done -> take(moment, actor, done);
    };
  }

  private <T> T take(Moment moment, Actor actor, Outcome.Done<T> done) {
    List<Move> moves =
        switch (facts.apply(done.edits(), moment.at())) {
          case Applied.Moves applied -> applied.moves();
          case Applied.Clashes clashes ->
              throw new IllegalStateException(clashes.clashes().getFirst().toString());
        };
    SealedEntry entry =
        chain.seal(
            head,
            moment.at(),
            actor,
            done.act(),
            done.edits(),
            Acts.personal(moment, done.edits()));
    facts.take(moves);
    directory = directory.after(facts, moves, moment.at());
    head = new LedgerHead(entry.position(), entry.hash(), entry.instant());
    Later.of(moves, moment.at()).forEach(d -> due.add(new Waiting(d, entry.position())));
    waiting.add(new Written(entry, moves, done.errands()));
    if (waiting.size() >= ACTS_AT_ONCE) {
      flush();
    }
    return done.result();
  }

  /** Writes what was performed and is not written yet. */
  public void flush() {
    db.transaction(
        configuration -> {
          DSLContext tx = DSL.using(configuration);
          ledger.lockHead(tx);
          for (Written written : waiting) {
            ledger.append(tx, written.entry());
            factStore.write(tx, written.entry().position(), written.moves());
            Later.errands(
                tx, written.entry().position(), written.entry().instant(), written.errands());
          }
        });
    waiting.clear();
  }

  /** Does what is due until a moment, writes everything, and leaves the rest to the clock. */
  public void finish(Instant until) {
    boundaries(until);
    flush();
    while (!due.isEmpty()) {
      Waiting next = due.poll();
      Later.due(db, next.position(), List.of(next.due()));
    }
    // Mails of long ago were sent then.
    db.update(OUTBOX)
        .set(OUTBOX.DONE_AT, OUTBOX.NEXT_AT)
        .where(OUTBOX.NEXT_AT.lt(until.minus(Duration.ofDays(1))), OUTBOX.KIND.ne("invite"))
        .execute();
    db.update(WATERMARK).set(WATERMARK.REACHED, until).execute();
  }
}
