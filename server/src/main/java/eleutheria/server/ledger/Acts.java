package eleutheria.server.ledger;

import static eleutheria.server.tables.Tables.OUTBOX;
import static eleutheria.server.tables.Tables.REPEATED_ACT;

import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Clash;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.ledger.Actor;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.ledger.SealedEntry;
import eleutheria.core.mandates.Authority;
import eleutheria.server.settings.Organisation;
import eleutheria.server.web.Refusal;
import java.security.SecureRandom;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.function.Function;
import java.util.function.Predicate;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * The one way of a change: lock the ledger head, catch up, let the core decide, write facts, entry
 * and outbox in one transaction, then take the moves up.
 */
@Service
public class Acts {
  private final DSLContext db;
  private final World world;
  private final FactStore facts;
  private final LedgerStore ledger;
  private final Organisation organisation;
  private final JsonMapper json;
  private final TransactionTemplate transaction;
  private final SecureRandom random = new SecureRandom();
  private final FreshIds ids = new FreshIds(random);
  private final LedgerChain chain = new LedgerChain(random);

  Acts(
      DSLContext db,
      World world,
      FactStore facts,
      LedgerStore ledger,
      Organisation organisation,
      JsonMapper json,
      PlatformTransactionManager transactions) {
    this.db = db;
    this.world = world;
    this.facts = facts;
    this.ledger = ledger;
    this.organisation = organisation;
    this.json = json;
    this.transaction = new TransactionTemplate(transactions);
    transaction.setIsolationLevel(Isolation.READ_COMMITTED.value());
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

  private record Committed<T>(Receipt<T> receipt, @Nullable LedgerHead head, List<Move> moves) {}

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
        transaction.execute(status -> inside(actor, repeatKey, type, decision, beside));
    if (committed == null) {
      throw new IllegalStateException("a transaction gave nothing");
    }
    if (committed.head() != null) {
      world.take(committed.head(), committed.moves());
    }
    return committed.receipt();
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
      Function<Moment, Outcome<T>> decision,
      Beside<T> beside) {
    LedgerHead head = ledger.lockHead(db);
    if (repeatKey != null) {
      Record2<Long, String> before =
          db.select(REPEATED_ACT.POSITION, REPEATED_ACT.RESULT)
              .from(REPEATED_ACT)
              .where(REPEATED_ACT.ACTOR.eq(actor.text()), REPEATED_ACT.REPEAT_KEY.eq(repeatKey))
              .fetchOne();
      if (before != null) {
        T result = json.readValue(before.value2(), type);
        return new Committed<>(new Receipt<>(before.value1(), result, true), null, List.of());
      }
    }
    Instant at = Moments.next(databaseClock(), head.instant());
    Facts state = world.caughtUp(db, head, at);
    Authority authority =
        switch (actor) {
          case Actor.OfPerson one -> world.live().authority(one.person());
          case Actor.Clock clock -> Authority.NONE;
          case Actor.Setup setup -> Authority.SETUP;
        };
    Moment moment =
        new Moment(state, world.live(), at, organisation.zone(), () -> ids.next(at), authority);
    return switch (decision.apply(moment)) {
      case Outcome.Refused<T> refused -> throw new Refusal(refused.problems());
      case Outcome.Done<T> done -> write(actor, repeatKey, head, moment, done, beside);
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
    SealedEntry entry =
        chain.seal(
            head, moment.at(), actor, done.act(), done.edits(), personal(moment, done.edits()));
    ledger.append(db, entry);
    facts.write(db, entry.position(), moves);
    beside.write(db, done.result(), new Written(moment.at(), entry.position()));
    for (Errand errand : done.errands()) {
      switch (errand) {
        case Errand.Invite invite ->
            db.insertInto(OUTBOX)
                .set(OUTBOX.POSITION, entry.position())
                .set(OUTBOX.KIND, "invite")
                .set(OUTBOX.PERSON_ID, invite.person().value())
                .set(OUTBOX.NEXT_AT, moment.at())
                .execute();
      }
    }
    if (repeatKey != null) {
      db.insertInto(REPEATED_ACT)
          .set(REPEATED_ACT.ACTOR, actor.text())
          .set(REPEATED_ACT.REPEAT_KEY, repeatKey)
          .set(REPEATED_ACT.POSITION, entry.position())
          .set(REPEATED_ACT.RESULT, json.writeValueAsString(done.result()))
          .execute();
    }
    LedgerHead next = new LedgerHead(entry.position(), entry.hash(), entry.instant());
    return new Committed<>(new Receipt<>(entry.position(), done.result(), false), next, moves);
  }

  private Instant databaseClock() {
    LocalDateTime now = db.select(DSL.currentLocalDateTime(DSL.inline(6))).fetchSingle().value1();
    return now.toInstant(ZoneOffset.UTC);
  }

  /** Names, and attributes whose definition says so, also one that this very act defines. */
  static Predicate<FactKey> personal(Moment moment, List<eleutheria.core.facts.Edit> edits) {
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
