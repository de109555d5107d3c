package eleutheria.server.drafts;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.AccessView;
import eleutheria.core.access.AuthorityJudge;
import eleutheria.core.access.ConflictJudge;
import eleutheria.core.access.EffectJudge;
import eleutheria.core.access.Effects;
import eleutheria.core.access.People;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.directory.Moment;
import eleutheria.core.drafts.Consequences;
import eleutheria.core.drafts.DraftEdit;
import eleutheria.core.drafts.Overlay;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.PortalView;
import eleutheria.server.ledger.ThingNames;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.ConsequencesView;
import eleutheria.server.writing.ForeseenView;
import eleutheria.server.writing.Looking;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import org.springframework.stereotype.Service;

/**
 * Looks ahead at what one act would do: it is a draft with one edit, laid over the state now, and
 * told as the sheet tells it. Nothing is changed.
 */
@Service
class Foresight implements Commands.Foreseer {
  /** So many people of a row are named. */
  private static final int NAMED = 200;

  private final Looking looking;
  private final DraftGathering gathering;

  Foresight(Looking looking, DraftGathering gathering) {
    this.looking = looking;
    this.gathering = gathering;
  }

  @Override
  public ForeseenView foresee(Viewer viewer, Function<Moment, ? extends Outcome<?>> decision) {
    ForeseenView foreseen =
        looking.as(
            viewer,
            (moment, now) ->
                switch (decision.apply(moment)) {
                  case Outcome.Refused<?> refused -> refused(refused.problems(), false);
                  case Outcome.Done<?> done -> foreseen(viewer, moment, now, done);
                });
    // What the draft brings may be just what the act needs.
    return foreseen.moments().isEmpty()
            && !foreseen.problems().isEmpty()
            && viewer.draft() != null
            && gathering.fits(viewer, decision)
        ? refused(List.of(), true)
        : foreseen;
  }

  private static ForeseenView refused(List<Problem> problems, boolean inDraft) {
    return new ForeseenView("", 0, 0, inDraft, false, List.of(), DraftReader.items(problems));
  }

  private static ForeseenView foreseen(
      Viewer viewer, Moment moment, PortalView now, Outcome.Done<?> done) {
    DraftEdit edit = new DraftEdit(1, viewer.person(), moment.at(), done.act(), done.edits());
    Overlay overlay = Overlay.of(moment.facts(), List.of(edit), moment.at());
    Consequences consequences = Consequences.of(now, overlay, moment.at());
    List<Problem> problems = new ArrayList<>();
    if (overlay.told().stream().anyMatch(Overlay.Result::clashes)) {
      problems.add(Problem.stale("", "Someone has changed this meanwhile."));
    }
    // Whether a draft may do it is judged when it is published, and can be answered in it.
    if (viewer.draft() == null) {
      problems.addAll(
          EffectJudge.judge(
              moment, now.access(), consequences.effects(), done.edits(), done.right()));
      problems.addAll(AuthorityJudge.judge(moment, done.edits(), overlay.moves(), done.right()));
      if (Acts.stops(done.act())) {
        problems.addAll(
            ConflictJudge.problems(
                consequences.stopping(),
                SeparationRules.of(overlay.after(), moment.at()),
                now.access(),
                moment.directory()));
      }
    }
    if (brings(done.edits())) {
      // Whom it brings is known only to the state with it.
      AtomicReference<ForeseenView> told = new AtomicReference<>();
      now.access()
          .suppose(
              supposed(overlay, moment.at()),
              Set.of(),
              (instant, without, with, anew) -> {
                PortalView then = PortalView.of(overlay.after(), with, instant);
                told.set(
                    told(viewer, moment, then, overlay, consequences, Given.NOTHING, "", problems));
                return false;
              });
      return requireNonNull(told.get());
    }
    Effects effects =
        Effects.of(
            moment.facts(),
            now.directory(),
            now.access(),
            overlay.edits(),
            overlay.moves(),
            moment.at());
    return told(
        viewer,
        moment,
        now,
        overlay,
        consequences,
        given(viewer, now, done.edits()),
        effects.digest(),
        problems);
  }

  private static boolean brings(List<Edit> edits) {
    return edits.stream()
        .anyMatch(e -> e.key() instanceof FactKey.Naming && e.base() == null && e.wanted() != null);
  }

  private static AccessView.Supposition supposed(Overlay overlay, Instant at) {
    return new AccessView.Supposition(
        overlay.before(), overlay.after(), overlay.edits(), overlay.moves(), at);
  }

  private static ForeseenView told(
      Viewer viewer,
      Moment moment,
      PortalView known,
      Overlay overlay,
      Consequences consequences,
      Given given,
      String digest,
      List<Problem> problems) {
    ConsequencesTold.Cut cut =
        new ConsequencesTold.Cut(new AccessReach(viewer.authority(), known.directory()), known);
    List<ConsequencesView.MomentView> moments =
        ConsequencesTold.moments(
            consequences, moment.at(), cut, new ThingNames(overlay.after()), known, null, NAMED);
    return new ForeseenView(
        digest,
        given.to(),
        given.already(),
        false,
        cut.anything(),
        moments,
        DraftReader.items(problems));
  }

  /**
   * @param to how many people get a ground, departed ones aside
   * @param already how many of them hold it already
   */
  private record Given(int to, int already) {
    static final Given NOTHING = new Given(0, 0);
  }

  private static Given given(Viewer viewer, PortalView now, List<Edit> edits) {
    AccessView access = now.access();
    ConsequencesTold.Cut cut =
        new ConsequencesTold.Cut(new AccessReach(viewer.authority(), now.directory()), now);
    List<Set<PersonId>> to = new ArrayList<>();
    List<Set<PersonId>> already = new ArrayList<>();
    for (Edit edit : edits) {
      if (edit.key() instanceof FactKey.Grant
          && edit.base() == null
          && edit.wanted() != null
          && edit.wanted().value() instanceof FactValue.Given given) {
        Set<PersonId> people = cut.of(given.entitlement(), access.members(given.subject()));
        to.add(people);
        already.add(People.and(people, access.holders(given.entitlement())));
      }
    }
    long standing =
        People.any(to).stream()
            .flatMap(p -> now.directory().person(p).stream())
            .filter(p -> p.status() != PersonStatus.DEPARTED)
            .count();
    return new Given((int) standing, People.any(already).size());
  }
}
