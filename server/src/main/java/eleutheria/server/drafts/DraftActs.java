package eleutheria.server.drafts;

import eleutheria.core.directory.Moment;
import eleutheria.core.drafts.Consequences;
import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftDecisions;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.DraftStage;
import eleutheria.core.drafts.Marks;
import eleutheria.core.drafts.Overlay;
import eleutheria.core.drafts.Revert;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Lookup;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.LedgerStore;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Later;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * What is done with drafts. Working on one is no act and leaves nothing in the ledger; publishing,
 * and whatever others come to wait for, is and does.
 */
@Service
class DraftActs {
  private static final int MOST_HELD = 50;
  private static final int LONGEST_WHY = 1_000;

  private final DSLContext db;
  private final DraftStore store;
  private final DraftReader reader;
  private final Acts acts;
  private final LedgerStore ledger;
  private final World world;
  private final Clock clock;
  private final TransactionTemplate transaction;
  private final FreshIds ids = new FreshIds(new SecureRandom());

  DraftActs(
      DSLContext db,
      DraftStore store,
      DraftReader reader,
      Acts acts,
      LedgerStore ledger,
      World world,
      Clock clock,
      PlatformTransactionManager transactions) {
    this.db = db;
    this.store = store;
    this.reader = reader;
    this.acts = acts;
    this.ledger = ledger;
    this.world = world;
    this.clock = clock;
    this.transaction = new TransactionTemplate(transactions);
  }

  // ---- working on one

  DraftId open(Viewer viewer, String name) {
    DraftId id = new DraftId(ids.next(clock.instant()));
    transaction.executeWithoutResult(
        status -> {
          if (store.heldBy(viewer.person(), MOST_HELD).size() == MOST_HELD) {
            throw Refusal.invalid(
                "draft.many", "", "You have %d drafts; discard one first.".formatted(MOST_HELD));
          }
          store.open(id, named(name), viewer.person(), clock.instant(), null);
          store.gatherInto(viewer.person(), id);
        });
    return id;
  }

  private static String named(String name) {
    String wanted = name.strip();
    if (wanted.isEmpty()) {
      throw Refusal.invalid("draft.no-name", "name", "Give the draft a name.");
    }
    if (wanted.length() > DraftDecisions.LONGEST_NAME) {
      throw Refusal.invalid(
          "too-long",
          "name",
          "The name has %d characters; at most %d are allowed."
              .formatted(wanted.length(), DraftDecisions.LONGEST_NAME));
    }
    return wanted;
  }

  private <T> T holding(Viewer viewer, UUID id, Function<Draft, T> work) {
    return Objects.requireNonNull(
        transaction.execute(
            status -> {
              Draft draft =
                  store
                      .lock(new DraftId(id))
                      .filter(d -> reader.sees(viewer, d))
                      .orElseThrow(() -> Refusal.of(Problem.absent("draft")));
              return work.apply(draft);
            }));
  }

  long describe(Viewer viewer, UUID id, String name, boolean shared) {
    return holding(
        viewer,
        id,
        draft -> {
          if (!draft.holder().equals(viewer.person())) {
            throw Refusal.of(
                Problem.forbidden(
                    "draft.held", "Only the person who holds a draft can name and share it."));
          }
          store.describe(draft.id(), named(name), shared);
          return draft.version();
        });
  }

  /** From then on the colleague works on it. */
  long takeOver(Viewer viewer, UUID id) {
    return holding(
        viewer,
        id,
        draft -> {
          if (!draft.stage().editable()) {
            throw stage(draft);
          }
          if (!draft.holder().equals(viewer.person())) {
            store.handTo(draft.id(), viewer.person());
            store.comment(
                draft.id(), viewer.person(), clock.instant(), "I have taken this draft over.");
          }
          store.gatherInto(viewer.person(), draft.id());
          return draft.version();
        });
  }

  long gather(Viewer viewer, UUID id, boolean gathers) {
    return holding(
        viewer,
        id,
        draft -> {
          if (gathers) {
            DraftGathering.editable(viewer, draft);
          }
          store.gatherInto(viewer.person(), gathers ? draft.id() : null);
          return draft.version();
        });
  }

  long drop(Viewer viewer, UUID id) {
    return holding(
        viewer,
        id,
        draft -> {
          DraftGathering.editable(viewer, draft);
          store.stage(draft.id(), DraftStage.DROPPED, null, null, null);
          return draft.version();
        });
  }

  long undo(Viewer viewer, UUID id, int seq) {
    return holding(
        viewer,
        id,
        draft -> {
          DraftGathering.editable(viewer, draft);
          if (store.edits(draft).stream().anyMatch(e -> e.seq() == seq)) {
            store.change(
                draft.id(), List.of(), Set.of(seq), clock.instant(), DraftStore.Command.NONE);
          }
          return draft.version();
        });
  }

  long comment(Viewer viewer, UUID id, String text) {
    return holding(
        viewer,
        id,
        draft -> {
          String said = text.strip();
          if (said.isEmpty() || said.length() > DraftDecisions.LONGEST_TEXT) {
            throw Refusal.invalid(
                "draft.comment",
                "text",
                "A comment has between 1 and %d characters."
                    .formatted(DraftDecisions.LONGEST_TEXT));
          }
          store.comment(draft.id(), viewer.person(), clock.instant(), said);
          return draft.version();
        });
  }

  private static Refusal stage(Draft draft) {
    return Refusal.of(
        new Problem(
            Problem.Kind.STALE,
            "draft.stage",
            "",
            "The draft is now %s.".formatted(draft.stage().word())));
  }

  // ---- publishing

  /**
   * How somebody wants a draft published.
   *
   * @param at when; null for at once
   * @param revert when it puts itself back; null if it does not
   * @param tell whether those it moves are told when it is published
   * @param ahead whether they are told as soon as it is set for its moment
   * @param digest of what they have seen
   */
  record Wish(
      String reason,
      @Nullable Instant at,
      @Nullable Instant revert,
      boolean tell,
      boolean ahead,
      String digest) {
    Draft.Plan plan(PersonId publisher) {
      return new Draft.Plan(publisher, reason, at, revert, tell, digest);
    }
  }

  /** Publishes at once. Of one that waits for a second person's yes, this is that yes. */
  Acts.Receipt<DraftId> publish(Viewer viewer, UUID id, @Nullable String repeatKey, Wish wish) {
    DraftId draftId = new DraftId(id);
    return acts.perform(
        viewer.actor(),
        repeatKey,
        DraftId.class,
        moment -> {
          Lookup<Draft> found = publishable(viewer, draftId);
          if (!(found instanceof Lookup.Found<Draft> known)) {
            return Outcome.refused(found.problems());
          }
          Draft draft = known.thing();
          List<Problem> problems = days(moment, wish);
          if (!problems.isEmpty()) {
            return Outcome.refused(problems);
          }
          return decided(
              DraftDecisions.publish(
                  moment,
                  new DraftDecisions.Publishing(
                      draftId,
                      store.edits(draft),
                      store.seen(draftId, wish.digest()),
                      wish.reason(),
                      wish.tell(),
                      draft.stage() == DraftStage.WAITING && draft.plan() != null
                          ? draft.plan().publisher()
                          : null)),
              draftId);
        },
        (tx, result, entry) -> published(tx, draftId, wish.plan(viewer.person()), entry));
  }

  private static <T> Outcome<DraftId> decided(Outcome<T> outcome, DraftId id) {
    return switch (outcome) {
      case Outcome.Refused<T> refused -> Outcome.refused(refused.problems());
      case Outcome.Done<T> done ->
          new Outcome.Done<>(done.act(), done.edits(), id, done.errands(), done.right());
    };
  }

  private Lookup<Draft> publishable(Viewer viewer, DraftId id) {
    Optional<Draft> found = store.lock(id).filter(d -> reader.sees(viewer, d));
    if (found.isEmpty()) {
      return Lookup.refused(Problem.absent("draft"));
    }
    Draft draft = found.get();
    boolean mine = draft.holder().equals(viewer.person());
    boolean yes =
        draft.stage() == DraftStage.WAITING
            && draft.plan() != null
            && !draft.plan().publisher().equals(viewer.person());
    if (draft.stage().editable() && !mine) {
      return Lookup.refused(
          Problem.forbidden(
              "draft.held", "Someone else is working on this draft; take it over first."));
    }
    if (!draft.stage().editable() && !yes) {
      return Lookup.refused(
          new Problem(
              Problem.Kind.STALE,
              "draft.stage",
              "",
              draft.stage() == DraftStage.WAITING
                  ? "It is waiting for someone else’s approval."
                  : "The draft is now %s.".formatted(draft.stage().word())));
    }
    return Lookup.found(draft);
  }

  private static List<Problem> days(Moment moment, Wish wish) {
    Instant begins = wish.at() == null ? moment.at() : wish.at();
    if (begins.isBefore(moment.at())) {
      return List.of(Problem.invalid("draft.past", "at", "That moment is past."));
    }
    if (wish.revert() != null && !wish.revert().isAfter(begins)) {
      return List.of(
          Problem.invalid(
              "draft.revert-first", "revertOn", "It would be reverted before it is published."));
    }
    return List.of();
  }

  /** What belongs beside the entry of a publishing. */
  void published(DSLContext tx, DraftId id, Draft.Plan plan, Acts.Written entry) {
    store.stage(id, DraftStage.PUBLISHED, plan, null, entry.position());
    if (plan.revert() != null) {
      due(tx, entry, plan.revert(), RevertDue.KIND, id);
    }
  }

  private static void due(
      DSLContext tx, Acts.Written entry, Instant at, String kind, DraftId subject) {
    Later.due(tx, entry.position(), List.of(new Later.Due(at, kind, subject.value().toString())));
  }

  /** Sets a draft for a moment; then the clock publishes it, if nothing has grown. */
  Acts.Receipt<DraftId> schedule(Viewer viewer, UUID id, @Nullable String repeatKey, Wish wish) {
    return wait(
        viewer,
        id,
        repeatKey,
        wish,
        DraftStage.SCHEDULED,
        ActName.DRAFT_SCHEDULE,
        (tx, entry) ->
            due(tx, entry, Objects.requireNonNull(wish.at()), PublishDue.KIND, new DraftId(id)));
  }

  /** Asks for a second person's yes. */
  Acts.Receipt<DraftId> ask(Viewer viewer, UUID id, @Nullable String repeatKey, Wish wish) {
    return wait(
        viewer, id, repeatKey, wish, DraftStage.WAITING, ActName.DRAFT_ASK, (tx, entry) -> {});
  }

  private interface Also {
    void write(DSLContext tx, Acts.Written entry);
  }

  private Acts.Receipt<DraftId> wait(
      Viewer viewer,
      UUID id,
      @Nullable String repeatKey,
      Wish wish,
      DraftStage stage,
      ActName act,
      Also also) {
    DraftId draftId = new DraftId(id);
    return acts.perform(
        viewer.actor(),
        repeatKey,
        DraftId.class,
        moment -> {
          Lookup<Draft> found = publishable(viewer, draftId);
          if (!(found instanceof Lookup.Found<Draft> known)) {
            return Outcome.refused(found.problems());
          }
          if (known.thing().stage() == DraftStage.WAITING) {
            return Outcome.refused(Problem.stale("", "It is waiting for your decision."));
          }
          List<Problem> problems = days(moment, wish);
          if (!problems.isEmpty()) {
            return Outcome.refused(problems);
          }
          // It is judged as if it were published now, so that nothing waits in vain.
          Marks seen = store.seen(draftId, wish.digest());
          Outcome<Integer> now =
              DraftDecisions.publish(
                  moment,
                  new DraftDecisions.Publishing(
                      draftId, store.edits(known.thing()), seen, wish.reason(), false, null));
          if (now instanceof Outcome.Refused<Integer> refused) {
            List<Problem> left =
                refused.problems().stream()
                    .filter(
                        p ->
                            stage != DraftStage.WAITING
                                || !DraftDecisions.NEEDS_A_SECOND.contains(p.code()))
                    .toList();
            if (!left.isEmpty()) {
              return Outcome.refused(left);
            }
          }
          return Outcome.done(
                  Act.of(act, draftId).because(wish.reason().strip()), List.of(), draftId)
              .with(
                  stage == DraftStage.SCHEDULED && wish.ahead()
                      ? List.of(new Errand.TellAhead(viewer.person(), draftId))
                      : List.of());
        },
        (tx, result, entry) -> {
          store.stage(draftId, stage, wish.plan(viewer.person()), null, null);
          also.write(tx, entry);
        });
  }

  /** Says no to a draft that waits, or takes back one that waits or is set for a moment. */
  Acts.Receipt<DraftId> reopen(Viewer viewer, UUID id, String note) {
    DraftId draftId = new DraftId(id);
    return acts.perform(
        viewer.actor(),
        null,
        DraftId.class,
        moment -> {
          Optional<Draft> found = store.lock(draftId).filter(d -> reader.sees(viewer, d));
          if (found.isEmpty()) {
            return Outcome.refused(Problem.absent("draft"));
          }
          Draft draft = found.get();
          boolean mine =
              draft.holder().equals(viewer.person())
                  || (draft.plan() != null && draft.plan().publisher().equals(viewer.person()));
          boolean waits = draft.stage() == DraftStage.WAITING;
          if (!waits && draft.stage() != DraftStage.SCHEDULED) {
            return Outcome.refused(
                Problem.stale("", "The draft is now %s.".formatted(draft.stage().word())));
          }
          if (!mine && !waits) {
            return Outcome.refused(
                Problem.forbidden(
                    "draft.held", "Only the person who holds a draft can take it back."));
          }
          if (!mine && note.isBlank()) {
            return Outcome.refused(
                Problem.invalid("draft.no-reason", "note", "Say why not; the requester reads it."));
          }
          if (note.length() > DraftDecisions.LONGEST_TEXT) {
            return Outcome.refused(
                Problem.invalid(
                    "too-long",
                    "note",
                    "At most %d characters.".formatted(DraftDecisions.LONGEST_TEXT)));
          }
          return Outcome.done(
              Act.of(mine ? ActName.DRAFT_TAKE_BACK : ActName.DRAFT_REFUSE, draftId)
                  .because(note.strip()),
              List.of(),
              draftId);
        },
        (tx, result, entry) -> {
          store.stage(draftId, DraftStage.OPEN, null, null, null);
          if (!note.isBlank()) {
            store.comment(draftId, viewer.person(), entry.at(), note.strip());
          }
        });
  }

  // ---- reverting

  /** Opens the draft that reverts what an entry has changed. */
  DraftId revert(Viewer viewer, long position, String name) {
    DraftId id = new DraftId(ids.next(clock.instant()));
    Revert back = inverse(position, viewer.person(), name);
    if (back.edits().size() > DraftGathering.MOST_EDITS) {
      throw Refusal.invalid(
          "draft.full",
          "",
          "Reverting it takes %d edits; a draft holds at most %d."
              .formatted(back.edits().size(), DraftGathering.MOST_EDITS));
    }
    transaction.executeWithoutResult(
        status -> {
          store.open(id, shortened(name), viewer.person(), clock.instant(), position);
          store.change(id, back.edits(), Set.of(), clock.instant(), DraftStore.Command.NONE);
          store.gatherInto(viewer.person(), id);
        });
    return id;
  }

  private static String shortened(String name) {
    return name.length() <= DraftDecisions.LONGEST_NAME
        ? name
        : name.substring(0, DraftDecisions.LONGEST_NAME - 1) + "…";
  }

  private Revert inverse(long position, PersonId author, String reason) {
    List<Edit> changes = ledger.edits(db, position);
    return world.look(
        (facts, now) -> {
          Instant at = Moments.next(clock.instant(), now.directory().at());
          return Revert.of(facts, changes, at, () -> ids.next(at), author, reason);
        });
  }

  // ---- by the clock

  /** A draft whose moment has come. */
  Optional<Outcome<String>> due(Moment moment, DraftId id) {
    Draft draft = store.lock(id).orElse(null);
    if (draft == null || draft.stage() != DraftStage.SCHEDULED || draft.plan() == null) {
      return Optional.empty();
    }
    return Optional.of(
        byTheClock(
            moment, draft, draft.plan(), store.edits(draft), store.seen(id, draft.plan().seen())));
  }

  /** Publishes for somebody on their power of now; what does not go is held, and says why. */
  private static Outcome<String> byTheClock(
      Moment moment, Draft draft, Draft.Plan plan, List<DraftEdit> edits, @Nullable Marks seen) {
    boolean active =
        moment
            .directory()
            .person(plan.publisher())
            .filter(p -> p.status() == PersonStatus.ACTIVE)
            .isPresent();
    Outcome<Integer> outcome =
        active
            ? DraftDecisions.publish(
                moment.by(moment.directory().authority(plan.publisher())),
                new DraftDecisions.Publishing(
                    draft.id(), edits, seen, plan.reason(), plan.tell(), plan.publisher()))
            : Outcome.refused(
                Problem.forbidden(
                    "draft.publisher", "The person who scheduled it is no longer active."));
    return switch (outcome) {
      case Outcome.Done<Integer> done ->
          new Outcome.Done<>(done.act(), done.edits(), PUBLISHED, done.errands(), done.right());
      case Outcome.Refused<Integer> refused ->
          Outcome.done(Act.of(ActName.DRAFT_HOLD, draft.id()), List.of(), told(refused.problems()));
    };
  }

  static final String PUBLISHED = "published";

  private static String told(List<Problem> problems) {
    String why = String.join(" ", problems.stream().map(Problem::sentence).distinct().toList());
    return why.length() <= LONGEST_WHY ? why : why.substring(0, LONGEST_WHY - 1) + "…";
  }

  /** Writes what became of a draft whose moment had come. */
  void cameOf(DSLContext tx, DraftId id, String result, Acts.Written entry) {
    Draft draft = store.lock(id).orElseThrow();
    Draft.Plan plan = Objects.requireNonNull(draft.plan());
    if (result.equals(PUBLISHED)) {
      published(tx, id, plan, entry);
    } else {
      store.stage(id, DraftStage.HELD, plan, result, null);
    }
  }

  /** A draft whose day to be reverted has come: a new one does it, or is held. */
  Optional<Outcome<String>> revertDue(Moment moment, DraftId id, DraftId fresh) {
    Draft draft = store.find(id).orElse(null);
    if (draft == null || draft.position() == null || draft.plan() == null) {
      return Optional.empty();
    }
    Draft.Plan plan = draft.plan();
    String name = shortened("Revert: " + draft.name());
    Revert back =
        Revert.of(
            moment.facts(),
            ledger.edits(db, draft.position()),
            moment.at(),
            moment.ids(),
            plan.publisher(),
            name);
    if (back.edits().isEmpty()) {
      return Optional.empty();
    }
    store.open(fresh, name, plan.publisher(), moment.at(), draft.position());
    store.change(fresh, back.edits(), Set.of(), moment.at(), DraftStore.Command.NONE);
    Draft made = store.lock(fresh).orElseThrow();
    Draft.Plan own = new Draft.Plan(plan.publisher(), plan.reason(), null, null, plan.tell(), "");
    store.stage(fresh, DraftStage.SCHEDULED, own, null, null);
    // That it was to be reverted on this day was seen when it was published.
    Overlay overlay = Overlay.of(moment.facts(), back.edits(), moment.at());
    Marks seen = Consequences.of(PortalView.at(moment), overlay, moment.at()).marks();
    return Optional.of(byTheClock(moment, made, own, back.edits(), seen));
  }

  DraftId freshId(Instant at) {
    return new DraftId(ids.next(at));
  }
}
