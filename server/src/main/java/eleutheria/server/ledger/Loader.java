package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.OUTBOX;

import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Applied;
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
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.random.RandomGenerator;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

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

  private record Written(SealedEntry entry, List<Move> moves, List<Errand> errands) {}

  public Loader(DSLContext db, ZoneId zone, RandomGenerator random) {
    this.db = db;
    this.zone = zone;
    this.ids = new FreshIds(random);
    this.chain = new LedgerChain(random);
    this.facts = factStore.load(db);
    this.head = ledger.head(db);
    this.directory = DirectoryView.of(facts, head.instant());
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
            for (Errand errand : written.errands()) {
              if (errand instanceof Errand.Invite invite) {
                tx.insertInto(OUTBOX)
                    .set(OUTBOX.POSITION, written.entry().position())
                    .set(OUTBOX.KIND, "invite")
                    .set(OUTBOX.PERSON_ID, invite.person().value())
                    .set(OUTBOX.NEXT_AT, written.entry().instant())
                    .execute();
              }
            }
          }
        });
    waiting.clear();
  }
}
