package eleutheria.server.drafts;

import eleutheria.core.access.AccessView;
import eleutheria.core.directory.Moment;
import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.Overlay;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.Moments;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Gathers in a draft what a command comes to: decided on the state with the draft laid over it, so
 * that what one edit brings the next can use.
 *
 * <p>A form that was filled in from the state as it is may not fit what the draft has made of the
 * same thing already. Then the command is decided on the state without the draft's earlier edit of
 * the same kind of the same thing, and takes its place.
 */
@Service
class DraftGathering implements Commands.Gatherer {
  static final int MOST_EDITS = 10_000;

  private final DraftStore store;
  private final World world;
  private final Organisation organisation;
  private final Clock clock;
  private final Acts.Asking asking;
  private final TransactionTemplate transaction;
  private final FreshIds ids = new FreshIds(new SecureRandom());

  DraftGathering(
      DraftStore store,
      World world,
      Organisation organisation,
      Clock clock,
      Acts.Asking asking,
      PlatformTransactionManager transactions) {
    this.store = store;
    this.world = world;
    this.organisation = organisation;
    this.clock = clock;
    this.asking = asking;
    this.transaction = new TransactionTemplate(transactions);
  }

  @Override
  public Receipt gather(
      Viewer viewer, @Nullable String repeatKey, Function<Moment, ? extends Outcome<?>> decision) {
    return transaction.execute(status -> inside(viewer, repeatKey, decision));
  }

  private Receipt inside(
      Viewer viewer, @Nullable String repeatKey, Function<Moment, ? extends Outcome<?>> decision) {
    Draft draft = viewer.draft() == null ? null : store.lock(viewer.draft()).orElse(null);
    if (draft == null) {
      throw Refusal.of(Problem.absent("draft"));
    }
    DraftStore.Repeated before = repeatKey == null ? null : store.repeated(draft.id(), repeatKey);
    if (before != null) {
      Acts.sameAsked(before.asked(), asking.fingerprint());
      return new Receipt(
          world.position(), Objects.requireNonNullElse(before.result(), ""), before.seq(), null);
    }
    editable(viewer, draft);
    List<DraftEdit> edits = store.edits(draft);
    if (edits.size() >= MOST_EDITS) {
      throw Refusal.invalid(
          "draft.full",
          "",
          "The draft has %d edits, the most it can hold.".formatted(edits.size()));
    }
    Decided decided = decide(viewer, edits, decision);
    Set<Integer> replaced = new HashSet<>();
    if (decided.outcome() instanceof Outcome.Refused<?> refused
        && refused.problems().stream().anyMatch(p -> p.kind() == Problem.Kind.STALE)) {
      Decided plain = decide(viewer, List.of(), decision);
      if (plain.outcome() instanceof Outcome.Done<?> done) {
        List<DraftEdit> left = new ArrayList<>();
        for (DraftEdit edit : edits) {
          if (edit.act().name().equals(done.act().name())
              && edit.act().objects().equals(done.act().objects())) {
            replaced.add(edit.seq());
          } else {
            left.add(edit);
          }
        }
        if (!replaced.isEmpty()) {
          decided = decide(viewer, left, decision);
        }
      }
    }
    if (decided.outcome() instanceof Outcome.Refused<?> refused) {
      throw new Refusal(refused.problems());
    }
    Outcome.Done<?> done = (Outcome.Done<?>) decided.outcome();
    List<Edit> wanted = done.edits();
    if (wanted.isEmpty() && replaced.isEmpty()) {
      return Receipt.gathered(world.position(), done.result(), 0);
    }
    int seq = store.nextSeq(draft.id());
    List<DraftEdit> added =
        wanted.isEmpty()
            ? List.of()
            : List.of(new DraftEdit(seq, viewer.person(), decided.at(), done.act(), wanted));
    store.change(
        draft.id(),
        added,
        replaced,
        clock.instant(),
        new DraftStore.Command(repeatKey, asking.fingerprint(), Receipt.told(done.result())));
    List<DraftEdit> after = new ArrayList<>(edits);
    after.removeIf(edit -> replaced.contains(edit.seq()));
    after.addAll(added);
    store.changed(draft, after);
    return Receipt.gathered(world.position(), done.result(), wanted.isEmpty() ? 0 : seq);
  }

  /** Whether the viewer's draft could take up what a decision comes to; changes nothing. */
  boolean fits(Viewer viewer, Function<Moment, ? extends Outcome<?>> decision) {
    return Optional.ofNullable(viewer.draft())
        .flatMap(store::find)
        .filter(draft -> draft.holder().equals(viewer.person()))
        .map(draft -> decide(viewer, store.edits(draft), decision).outcome())
        .filter(outcome -> outcome instanceof Outcome.Done<?>)
        .isPresent();
  }

  /** Whoever changes a draft holds it, and nobody else waits on it as it is. */
  static void editable(Viewer viewer, Draft draft) {
    if (!draft.holder().equals(viewer.person())) {
      throw Refusal.of(
          draft.shared()
              ? Problem.forbidden(
                  "draft.held", "Someone else is working on this draft; take it over first.")
              : Problem.absent("draft"));
    }
    if (!draft.stage().editable()) {
      throw Refusal.of(
          new Problem(
              Problem.Kind.STALE,
              "draft.stage",
              "",
              draft.stage().over()
                  ? "The draft is %s; open another.".formatted(draft.stage().word())
                  : "The draft is %s; take it back before changing it."
                      .formatted(draft.stage().word())));
    }
  }

  private record Decided(Outcome<?> outcome, Instant at) {}

  private Decided decide(
      Viewer viewer, List<DraftEdit> edits, Function<Moment, ? extends Outcome<?>> decision) {
    Instant at = Moments.next(clock.instant(), world.whole().directory().at());
    return world.suppose(
        edits,
        at,
        (Overlay overlay, PortalView now, PortalView with) ->
            new Decided(
                decision.apply(
                    new Moment(
                            overlay.after(),
                            with.directory(),
                            at,
                            organisation.zone(),
                            () -> ids.next(at),
                            viewer.authority())
                        .with(AccessView.class, with.access())),
                at));
  }
}
