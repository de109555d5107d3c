package eleutheria.server.writing;

import static eleutheria.server.tables.Tables.REPEATED_ACT;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.AuthorityJudge;
import eleutheria.core.access.ConflictJudge;
import eleutheria.core.access.EffectJudge;
import eleutheria.core.access.Effects;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Identity;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Clash;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.ledger.SealedEntry;
import eleutheria.core.mandates.Authority;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.FactStore;
import eleutheria.server.state.LedgerStore;
import eleutheria.server.state.World;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;
import org.jooq.DSLContext;
import org.jooq.Record3;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Lazy;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * The one way of a change: lock the ledger head, catch up, let the core decide, write facts, entry
 * and outbox in one transaction, then take the moves up.
 */
@Service
public class Acts {
  private static final int LARGE = 5_000;

  /**
   * What comes from a source is let through and lies on the docket; a draft's breaches have been
   * judged with its consequences.
   */
  private static final Set<ActName> UNSTOPPED =
      Set.of(ActName.DIRECTORY_IMPORT, ActName.DRAFT_PUBLISH);

  private final DSLContext db;
  private final World world;
  private final FactStore facts;
  private final LedgerStore ledger;
  private final Organisation organisation;
  private final Clock clock;
  private final JsonMapper json;
  private final Freshness freshness;
  private final Leaving leaving;
  private final Asking asking;
  private final Trusting trusting;
  private final TransactionTemplate transaction;
  private final AtomicReference<@Nullable Holding> holding = new AtomicReference<>();
  private final SecureRandom random = new SecureRandom();
  private final FreshIds ids = new FreshIds(random);
  private final LedgerChain chain = new LedgerChain(random);

  Acts(
      DSLContext db,
      World world,
      FactStore facts,
      LedgerStore ledger,
      Organisation organisation,
      Clock clock,
      JsonMapper json,
      Freshness freshness,
      Leaving leaving,
      Asking asking,
      @Lazy Trusting trusting,
      PlatformTransactionManager transactions) {
    this.db = db;
    this.world = world;
    this.facts = facts;
    this.ledger = ledger;
    this.organisation = organisation;
    this.clock = clock;
    this.json = json;
    this.freshness = freshness;
    this.leaving = leaving;
    this.asking = asking;
    this.trusting = trusting;
    this.transaction = new TransactionTemplate(transactions);
    transaction.setIsolationLevel(Isolation.READ_COMMITTED.value());
  }

  /** Knows whether whoever asks has given their password lately. */
  public interface Freshness {
    /** Ends what is asked for, if they have not. */
    void require();
  }

  /** Shuts whatever lets somebody in who has left. */
  public interface Leaving {
    void left(DSLContext tx, PersonId person);
  }

  /** Knows whether the ledger is to be gone on with. */
  public interface Trusting {
    /** Ends what is asked for, if it is not. */
    void require();
  }

  /** Knows what exactly was asked for, so that a key stands for one thing. */
  public interface Asking {
    /** A hash of method, address and body; null where nobody asks over HTTP. */
    @Nullable String fingerprint();
  }

  /**
   * What came of an act.
   *
   * @param position the entry's position; with {@code repeated}, that of the first time
   */
  public record Receipt<T>(long position, T result, boolean repeated) {}

  /** What an act writes beside facts, in the same transaction. */
  public interface Beside<T> {
    void write(DSLContext tx, T result, Written entry);
  }

  /** When an act took place, and where it stands. */
  public record Written(Instant at, long position) {}

  private record Committed<T>(
      @Nullable Receipt<T> receipt, @Nullable LedgerHead head, List<Move> moves) {}

  /**
   * Performs an act.
   *
   * @param repeatKey what the client sends again when it does not know whether it was heard; null
   *     if it sent none
   * @param type of the result, which is kept for a repeat
   * @throws Refusal with all that stands in the way; nothing is changed then
   */
  public <T> Receipt<T> perform(
      Actor actor,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision,
      Beside<T> beside) {
    Committed<T> committed =
        transaction.execute(
            status -> inside(actor, repeatKey, type, m -> Optional.of(decision.apply(m)), beside));
    return took(committed).orElseThrow();
  }

  /**
   * The same, for an act whose effects the actor has seen.
   *
   * @param digest of what was seen ({@link Effects#digest}); null where nothing was
   * @throws Refusal also if the act would move something else by now
   */
  public <T> Receipt<T> perform(
      Actor actor,
      @Nullable String repeatKey,
      Class<T> type,
      @Nullable String digest,
      Function<Moment, Outcome<T>> decision) {
    return perform(actor, repeatKey, type, asSeen(digest, decision));
  }

  /**
   * A decision that is refused if it would move something else by now than was seen.
   *
   * @param digest of what was seen; null where nothing was
   */
  public static <T> Function<Moment, Outcome<T>> asSeen(
      @Nullable String digest, Function<Moment, Outcome<T>> decision) {
    if (digest == null) {
      return decision;
    }
    return moment -> {
      Outcome<T> outcome = decision.apply(moment);
      if (!(outcome instanceof Outcome.Done<T> done)
          || !(moment.facts().apply(done.edits(), moment.at()) instanceof Applied.Moves moves)) {
        return outcome;
      }
      Effects effects =
          Effects.of(
              moment.facts(),
              moment.directory(),
              AccessView.at(moment),
              done.edits(),
              moves.moves(),
              moment.at());
      return effects.digest().equals(digest)
          ? outcome
          : Outcome.refused(
              Problem.stale("", "What this would change is different by now; look at it again."));
    };
  }

  private <T> Optional<Receipt<T>> took(@Nullable Committed<T> committed) {
    if (committed == null) {
      throw new IllegalStateException("a transaction gave nothing");
    }
    if (committed.head() != null) {
      world.take(committed.head(), committed.moves());
    }
    return Optional.ofNullable(committed.receipt());
  }

  /**
   * Performs what the clock has to do, if there is anything left to do; what the decision itself
   * writes is committed either way.
   */
  public <T> Optional<Receipt<T>> byTheClock(
      Class<T> type, Function<Moment, Optional<Outcome<T>>> decision, Beside<T> beside) {
    return took(
        transaction.execute(status -> inside(new Actor.Clock(), null, type, decision, beside)));
  }

  public <T> Receipt<T> perform(
      Actor actor,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Outcome<T>> decision) {
    return perform(actor, repeatKey, type, decision, (tx, result, entry) -> {});
  }

  private <T> Committed<T> inside(
      Actor actor,
      @Nullable String repeatKey,
      Class<T> type,
      Function<Moment, Optional<Outcome<T>>> decision,
      Beside<T> beside) {
    LedgerHead head = ledger.lockHead(db);
    holds(new Holding(actor, clock.instant(), Thread.currentThread()));
    if (actor instanceof Actor.OfPerson) {
      trusting.require();
    }
    if (repeatKey != null) {
      Record3<Long, String, String> before =
          db.select(REPEATED_ACT.POSITION, REPEATED_ACT.RESULT, REPEATED_ACT.ASKED)
              .from(REPEATED_ACT)
              .where(REPEATED_ACT.ACTOR.eq(actor.text()), REPEATED_ACT.REPEAT_KEY.eq(repeatKey))
              .fetchOne();
      if (before != null) {
        sameAsked(before.value3(), asking.fingerprint());
        T result = json.readValue(before.value2(), type);
        return new Committed<>(new Receipt<>(before.value1(), result, true), null, List.of());
      }
    }
    Instant at = Moments.next(databaseClock(), head.instant());
    Facts state = world.caughtUp(db, head, at);
    DirectoryView directory = world.live().directory();
    Moment moment =
        new Moment(
                state,
                directory,
                at,
                organisation.zone(),
                () -> ids.next(at),
                authority(actor, directory))
            .with(AccessView.class, world.live().access());
    Optional<Outcome<T>> outcome = decision.apply(moment);
    if (outcome.isEmpty()) {
      return new Committed<>(null, null, List.of());
    }
    return switch (outcome.get()) {
      case Outcome.Refused<T> refused -> throw new Refusal(refused.problems());
      case Outcome.Done<T> done -> write(actor, repeatKey, head, moment, done, beside);
    };
  }

  /**
   * Whether a key that was seen comes with what it came with.
   *
   * @throws Refusal if it comes with something else
   */
  public static void sameAsked(@Nullable String before, @Nullable String now) {
    if (before != null && !before.equals(now)) {
      throw Refusal.invalid(
          "idempotency.reused",
          "",
          "This Idempotency-Key was used for a different request before; nothing was done.");
    }
  }

  /**
   * Who writes just now, so that all others wait.
   *
   * @param since when it began
   * @param in which thread, to see where it stands
   */
  public record Holding(Actor actor, Instant since, Thread in) {}

  /** Who holds the ledger on this node at this moment; null if nobody does. */
  public @Nullable Holding holding() {
    return holding.get();
  }

  private void holds(Holding mine) {
    holding.set(mine);
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCompletion(int status) {
            holding.compareAndSet(mine, null);
          }
        });
  }

  private static Authority authority(Actor actor, DirectoryView directory) {
    return switch (actor) {
      case Actor.OfPerson one -> directory.authority(one.person());
      case Actor.Clock clock -> Authority.NONE;
      case Actor.Setup setup -> Authority.SETUP;
    };
  }

  private <T> Committed<T> write(
      Actor actor,
      @Nullable String repeatKey,
      LedgerHead head,
      Moment moment,
      Outcome.Done<T> done,
      Beside<T> beside) {
    List<Move> moves =
        switch (moment.facts().apply(done.edits(), moment.at())) {
          case Applied.Moves applied -> applied.moves();
          case Applied.Clashes clashes -> throw new Refusal(stale(clashes.clashes()));
        };
    if (actor instanceof Actor.OfPerson) {
      List<Problem> problems = AuthorityJudge.judge(moment, done.edits(), moves, done.right());
      if (!problems.isEmpty()) {
        throw new Refusal(problems);
      }
      if (Identity.weighty(moment, done.edits())) {
        freshness.require();
      }
    }
    boolean alone = done.act().isAlone();
    if (actor instanceof Actor.OfPerson && done.right() != Outcome.Right.BY_RULE) {
      AccessView before = AccessView.at(moment);
      Effects effects =
          Effects.of(moment.facts(), moment.directory(), before, done.edits(), moves, moment.at());
      List<Problem> problems =
          EffectJudge.judge(moment, before, effects, done.edits(), done.right());
      if (!problems.isEmpty()) {
        throw new Refusal(problems);
      }
      alone = EffectJudge.alone(moment, before, effects, done.edits(), done.right());
    }
    if (alone && actor instanceof Actor.OfPerson) {
      freshness.require();
    }
    Act act = alone ? done.act().alone() : done.act();
    if (actor instanceof Actor.OfPerson && stops(done.act())) {
      List<Problem> problems = conflicts(moment, AccessView.at(moment), done.edits(), moves);
      if (!problems.isEmpty()) {
        throw new Refusal(problems);
      }
    }
    Supplier<SealedEntry> seal =
        () ->
            chain.seal(head, moment.at(), actor, act, done.edits(), personal(moment, done.edits()));
    SealedEntry entry;
    if (done.edits().size() < LARGE) {
      entry = seal.get();
      facts.write(db, entry.position(), moves);
    } else {
      // The entry of a large import takes as long to hash as its facts take to write.
      CompletableFuture<SealedEntry> sealing = CompletableFuture.supplyAsync(seal);
      facts.write(db, head.position() + 1, moves);
      entry = sealing.join();
    }
    ledger.append(db, entry);
    beside.write(db, done.result(), new Written(moment.at(), entry.position()));
    departed(done.edits(), moment.at()).forEach(person -> leaving.left(db, person));
    Later.errands(db, entry.position(), moment.at(), done.errands());
    Later.errands(db, entry.position(), moment.at(), toOldAddresses(moment, done.edits()));
    Later.due(db, entry.position(), Later.of(moves, moment.at()));
    if (repeatKey != null) {
      db.insertInto(REPEATED_ACT)
          .set(REPEATED_ACT.ACTOR, actor.text())
          .set(REPEATED_ACT.REPEAT_KEY, repeatKey)
          .set(REPEATED_ACT.POSITION, entry.position())
          .set(REPEATED_ACT.RESULT, json.writeValueAsString(done.result()))
          .set(REPEATED_ACT.ASKED, asking.fingerprint())
          .execute();
    }
    LedgerHead next = new LedgerHead(entry.position(), entry.hash(), entry.instant());
    return new Committed<>(new Receipt<>(entry.position(), done.result(), false), next, moves);
  }

  /** Everyone who departs by an act, at once. */
  private static Set<PersonId> departed(List<Edit> edits, Instant at) {
    Set<PersonId> found = new LinkedHashSet<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Status(PersonId person)
          && edit.wanted() != null
          && edit.wanted().at(at)
          && edit.wanted().value() instanceof FactValue.Standing standing
          && standing.status() == PersonStatus.DEPARTED) {
        found.add(person);
      }
    }
    return found;
  }

  /** Whose address changes is told where they were reached until now. */
  private static List<Errand> toOldAddresses(Moment moment, List<Edit> edits) {
    List<Errand> found = new ArrayList<>();
    for (Identity.OldAddress old : Identity.replaced(edits)) {
      moment
          .directory()
          .person(old.person())
          .filter(p -> p.status() != PersonStatus.DEPARTED)
          .ifPresent(p -> found.add(new Errand.TellOldAddress(p.id(), old.address())));
    }
    return found;
  }

  /** Whether a breach of a separation rule stops what a person does by this act. */
  public static boolean stops(Act act) {
    return !UNSTOPPED.contains(act.name());
  }

  /** The breaches of separation rules that would come of it. */
  private static List<Problem> conflicts(
      Moment moment, AccessView before, List<Edit> edits, List<Move> moves) {
    AccessView.Supposition supposed =
        AccessView.Supposition.of(moment.facts(), edits, moves, moment.at());
    if (!ConflictJudge.matters(supposed.before(), supposed.after(), edits)) {
      return List.of();
    }
    return ConflictJudge.problems(
        ConflictJudge.caused(before, supposed),
        SeparationRules.of(supposed.after(), moment.at()),
        before,
        moment.directory());
  }

  private Instant databaseClock() {
    LocalDateTime now = db.select(DSL.currentLocalDateTime(DSL.inline(6))).fetchSingle().value1();
    return now.toInstant(ZoneOffset.UTC);
  }

  /** Names, and attributes whose definition says so, also one that this very act defines. */
  static Predicate<FactKey> personal(Moment moment, List<Edit> edits) {
    java.util.Map<String, FactValue.Definition> definitions =
        new java.util.HashMap<>(moment.directory().definitions());
    edits.forEach(
        edit -> {
          if (edit.key() instanceof FactKey.Defined defined
              && edit.wanted() != null
              && edit.wanted().value() instanceof FactValue.Definition definition) {
            definitions.put(defined.attribute(), definition);
          }
        });
    return key ->
        key instanceof FactKey.Naming
            || key instanceof FactKey.GrantReason
            // They name whom to call.
            || key instanceof FactKey.Application
            || key instanceof FactKey.Tile
            || (key instanceof FactKey.Link link && link.thing() == ObjectKind.PERSON)
            || (key instanceof FactKey.Attribute attribute
                && (!definitions.containsKey(attribute.name())
                    || definitions.get(attribute.name()).personal()));
  }

  private static List<Problem> stale(List<Clash> clashes) {
    return clashes.stream()
        .map(
            clash ->
                switch (clash.reason()) {
                  case CHANGED_MEANWHILE, BEFORE_THE_ACT ->
                      Problem.stale("", "Someone has changed this meanwhile.");
                  case OVERLAP -> Problem.stale("", "Something else is planned for the same time.");
                })
        .distinct()
        .toList();
  }
}
