package eleutheria.core.drafts;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.AuthorityJudge;
import eleutheria.core.access.ConflictJudge;
import eleutheria.core.access.EffectJudge;
import eleutheria.core.access.SecondYes;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Publishing a draft, and who may. */
public final class DraftDecisions {
  /** The longest reason and comment, in characters. */
  public static final int LONGEST_TEXT = 500;

  /** The longest name, in characters. */
  public static final int LONGEST_NAME = 80;

  /** The codes of problems that a second person's yes answers. */
  public static final Set<String> NEEDS_A_SECOND = Set.of("own-gain", SecondYes.CODE);

  /** The powers whose acts a draft can gather. */
  private static final Set<Power> GATHERED =
      Set.of(
          Power.GROUPS_EDIT,
          Power.APPS_EDIT,
          Power.APPS_SIGNON,
          Power.ACCESS_GIVE,
          Power.ACCESS_END,
          Power.ACCESS_RULES,
          Power.ACCESS_EXCEPT,
          Power.PORTAL_ARRANGE,
          Power.PORTAL_BRAND,
          Power.PEOPLE_EDIT,
          Power.SETTINGS_EDIT);

  private static final Set<ObjectKind> OWNED =
      Set.of(ObjectKind.GROUP, ObjectKind.APPLICATION, ObjectKind.COLLECTION);

  private DraftDecisions() {}

  /** Whether somebody can change anything that a draft gathers, so that they work with drafts. */
  public static boolean works(Authority authority) {
    return colleague(authority) || OWNED.stream().anyMatch(authority::ownsAny);
  }

  /** Whether somebody has a power to change things, so that shared drafts may be shown to them. */
  public static boolean colleague(Authority authority) {
    return GATHERED.stream().anyMatch(authority::has);
  }

  /**
   * A draft that is to be published.
   *
   * @param seen what the publisher has seen of its consequences; null where nobody looked
   * @param tell whether those who gain or lose get a mail
   * @param asker who asked for it, where somebody else publishes it or the clock does
   */
  public record Publishing(
      DraftId id,
      List<DraftEdit> edits,
      @Nullable Marks seen,
      String reason,
      boolean tell,
      @Nullable PersonId asker) {}

  /** What stands in the way of publishing, beside clashes and what has grown. */
  public static List<Problem> problems(Moment moment, Overlay overlay, Consequences consequences) {
    List<Problem> problems = new ArrayList<>(EditPowers.missing(moment, overlay.edits()));
    problems.addAll(
        EffectJudge.judge(
            moment,
            AccessView.at(moment),
            consequences.effects(),
            overlay.edits(),
            EditPowers.onlyOwnGroups(moment, overlay.edits())
                ? Outcome.Right.AS_GROUP_OWNER
                : Outcome.Right.BY_EFFECT));
    problems.addAll(
        AuthorityJudge.judge(moment, overlay.edits(), overlay.moves(), Outcome.Right.BY_EFFECT));
    problems.addAll(
        ConflictJudge.problems(
            consequences.stopping(),
            SeparationRules.of(overlay.after(), moment.at()),
            AccessView.at(moment),
            moment.directory()));
    return problems.stream().distinct().toList();
  }

  public static Outcome<Integer> publish(Moment moment, Publishing publishing) {
    Overlay overlay = Overlay.of(moment.facts(), publishing.edits(), moment.at());
    List<Problem> problems = unfit(publishing, overlay);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    PortalView portal = PortalView.at(moment);
    Consequences consequences = Consequences.of(portal, overlay, moment.at());
    PersonId person = moment.authority().person();
    PersonId asker = publishing.asker();
    boolean second = asker != null && !asker.equals(person);
    problems(moment, overlay, consequences).stream()
        // Whoever says yes to what somebody else asks for is the second person.
        .filter(p -> !(second && p.code().equals(SecondYes.CODE)))
        .forEach(problems::add);
    if (publishing.seen() == null || !consequences.marks().within(publishing.seen())) {
      problems.add(
          new Problem(
              Problem.Kind.STALE,
              "draft.grown",
              "",
              "More people would now gain or lose than when you looked; look again."));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    List<ObjectId> objects = new ArrayList<>(List.of(publishing.id()));
    objects.addAll(EditPowers.objects(publishing.edits()));
    Map<String, Object> details = new LinkedHashMap<>();
    details.put("draft", publishing.id().value().toString());
    details.put("edits", publishing.edits().size());
    if (second) {
      details.put("for", requireNonNull(asker).text());
    }
    boolean alone =
        !second
            && EffectJudge.alone(
                moment,
                AccessView.at(moment),
                consequences.effects(),
                overlay.edits(),
                Outcome.Right.BY_EFFECT);
    Act act = new Act(ActName.DRAFT_PUBLISH, objects, publishing.reason().strip(), details);
    return Outcome.done(alone ? act.alone() : act, overlay.edits(), overlay.edits().size())
        .with(
            publishing.tell() && moment.authority().person() != null
                ? List.of(new Errand.TellOfDraft(moment.authority().person(), publishing.id()))
                : List.of())
        .by(Outcome.Right.BY_RULE);
  }

  /** What keeps a draft from being published whatever it would do. */
  private static List<Problem> unfit(Publishing publishing, Overlay overlay) {
    List<Problem> problems = new ArrayList<>();
    if (publishing.reason().isBlank()) {
      problems.add(
          Problem.invalid(
              "draft.no-reason",
              "reason",
              "Give a reason for publishing; it is kept in the ledger."));
    } else if (publishing.reason().length() > LONGEST_TEXT) {
      problems.add(
          Problem.invalid("too-long", "reason", "At most %d characters.".formatted(LONGEST_TEXT)));
    }
    overlay.told().stream()
        .filter(Overlay.Result::clashes)
        .forEach(
            told ->
                problems.add(
                    Problem.stale(
                        "edit-" + told.seq(),
                        "Edit %d no longer applies; undo it first.".formatted(told.seq()))));
    if (overlay.edits().isEmpty()) {
      problems.add(
          Problem.invalid(
              "draft.nothing",
              "",
              publishing.edits().isEmpty()
                  ? "There is nothing in this draft."
                  : "Everything is already as the draft wants; there is nothing to publish."));
    }
    return problems;
  }
}
