package eleutheria.core.suggestions;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.WebAddress;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Suggesting apps, and deciding on them. Alike ones are decided together; nobody decides on their
 * own.
 */
public final class SuggestionDecisions {
  public static final int LONGEST_WORDS = 1_000;

  /** How many of one's own may wait at once. */
  public static final int MOST_WAITING = 10;

  private SuggestionDecisions() {}

  /**
   * @param number the next free number, taken under the lock
   * @param mine the person's other suggestions
   * @param rule what they may bring
   */
  public static Outcome<Suggestion> suggest(
      Moment moment,
      int number,
      PersonId person,
      String name,
      String address,
      String whom,
      String why,
      Collection<Suggestion> mine,
      FactValue.SelfServiceLine rule) {
    List<Problem> problems = new ArrayList<>();
    if (!rule.suggest()) {
      problems.add(Problem.forbidden("suggestion.none", "You may not suggest apps."));
    }
    if (name.isBlank()) {
      problems.add(Problem.invalid("suggestion.no-name", "name", "Give the app a name."));
    }
    AppDecisions.length(problems, "name", name, AppDecisions.LONGEST_NAME);
    List<Problem> wrong = WebAddress.problems("address", address);
    problems.addAll(wrong);
    if (whom.isBlank()) {
      problems.add(Problem.invalid("suggestion.no-whom", "whom", "Say who needs it."));
    }
    AppDecisions.length(problems, "whom", whom, AppDecisions.LONGEST_LINE);
    if (why.isBlank()) {
      problems.add(Problem.invalid("suggestion.no-why", "why", "Say what it is needed for."));
    }
    AppDecisions.length(problems, "why", why, LONGEST_WORDS);
    if (wrong.isEmpty()) {
      String likeness = Approved.likeness(address);
      mine.stream()
          .filter(each -> each.waits() && each.likeness().equals(likeness))
          .findFirst()
          .ifPresent(
              each ->
                  problems.add(
                      Problem.invalid(
                          "suggestion.twice",
                          "address",
                          "You have suggested it already: %s is waiting."
                              .formatted(each.label()))));
      here(moment, likeness)
          .ifPresent(
              app ->
                  problems.add(
                      Problem.invalid(
                          "suggestion.here",
                          "address",
                          "It is here already, as %s. Request it, or ask its owner."
                              .formatted(app.name()))));
    }
    if (mine.stream().filter(Suggestion::waits).count() >= MOST_WAITING) {
      problems.add(
          Problem.invalid(
              "suggestion.many",
              "",
              "%d of yours are waiting already; wait for an answer first."
                  .formatted(MOST_WAITING)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Suggestion made =
        new Suggestion(
            new SuggestionId(moment.ids().get()),
            number,
            person,
            name.strip(),
            address.strip(),
            whom.strip(),
            why.strip(),
            moment.at(),
            Suggestion.State.Waiting.WAITING);
    return Outcome.done(
        Act.of(ActName.SUGGESTION_MAKE, made.id(), person)
            .because(why.strip())
            .with(Map.of("number", number)),
        List.of(),
        made);
  }

  private static Optional<Application> here(Moment moment, String likeness) {
    return AppsView.of(moment.facts(), moment.directory(), moment.at()).applications().stream()
        .filter(Application::open)
        .filter(
            app ->
                app.wayIn() instanceof FactValue.WayIn.Link link
                    && Approved.likeness(link.address()).equals(likeness))
        .findFirst();
  }

  public static Outcome<Suggestion> withdraw(Moment moment, Suggestion suggestion) {
    if (!suggestion.by().equals(moment.authority().person())) {
      return Outcome.refused(Problem.absent("suggestion"));
    }
    if (!suggestion.waits()) {
      return Outcome.refused(over(suggestion));
    }
    return Outcome.done(
        Act.of(ActName.SUGGESTION_WITHDRAW, suggestion.id(), suggestion.by()),
        List.of(),
        suggestion.at(new Suggestion.State.Withdrawn(moment.at())));
  }

  private static Problem over(Suggestion suggestion) {
    return Problem.stale("", "%s has been decided.".formatted(suggestion.label()));
  }

  /** What stands in the way of deciding on some suggestions. */
  private static List<Problem> decidable(Moment moment, List<Suggestion> fold, Power... needed) {
    List<Problem> problems = new ArrayList<>();
    for (Power power : needed) {
      if (!moment.authority().hasEverywhere(power)) {
        problems.add(
            Problem.forbidden(
                "power",
                "This needs the power “%s” for everything: to %s."
                    .formatted(power.word(), power.line())));
      }
    }
    if (fold.isEmpty()) {
      problems.add(Problem.absent("suggestion"));
    }
    for (Suggestion each : fold) {
      if (!each.waits()) {
        problems.add(over(each));
      }
      if (each.by().equals(moment.authority().person())) {
        problems.add(
            Problem.forbidden(
                "own-suggestion",
                "%s is your own; someone else decides on it.".formatted(each.label())));
      }
    }
    if (fold.stream().map(Suggestion::likeness).distinct().count() > 1) {
      problems.add(
          Problem.invalid(
              "suggestion.unlike", "", "They are not for the same app; decide them one by one."));
    }
    return problems;
  }

  public static Outcome<List<Suggestion>> decline(
      Moment moment, List<Suggestion> fold, String answer) {
    List<Problem> problems = decidable(moment, fold, Power.APPS_EDIT);
    if (answer.isBlank()) {
      problems.add(
          Problem.invalid(
              "suggestion.no-answer", "answer", "Say why; whoever suggested it reads it."));
    }
    AppDecisions.length(problems, "answer", answer, LONGEST_WORDS);
    PersonId by = moment.authority().person();
    if (!problems.isEmpty() || by == null) {
      return Outcome.refused(problems);
    }
    return decided(
        ActName.SUGGESTION_DECLINE,
        fold,
        List.of(),
        answer,
        List.of(),
        new Suggestion.State.Declined(by, moment.at(), answer.strip()));
  }

  /**
   * What becomes of it.
   *
   * @param profile what the application and its tile are called and look like
   * @param owner who answers for it
   * @param role the name of its one entitlement, which its tile needs
   * @param requestable whether others may ask for it
   * @param also who gets it besides those who asked; null for nobody
   */
  public record Wanted(
      FactValue.Profile profile,
      String address,
      PersonId owner,
      String role,
      boolean requestable,
      FactValue.@Nullable Subject also,
      String answer) {}

  /** Makes the tile of an application that is not yet there; told by whoever knows of tiles. */
  public interface TileMaker {
    Outcome<TileId> make(Moment moment, FactValue.TileFace face);
  }

  /**
   * Accepts an app: it becomes an application that is open, with one entitlement as sensitive as
   * itself, a tile that needs it, and a grant for everyone who has asked and has not departed.
   */
  public static Outcome<List<Suggestion>> accept(
      Moment moment, List<Suggestion> fold, Wanted wanted, TileMaker tiles) {
    List<Problem> problems =
        decidable(
            moment,
            fold,
            Power.APPS_EDIT,
            Power.APPS_SIGNON,
            Power.PORTAL_ARRANGE,
            Power.ACCESS_GIVE);
    AppDecisions.length(problems, "answer", wanted.answer(), LONGEST_WORDS);
    PersonId by = moment.authority().person();
    if (!problems.isEmpty() || by == null) {
      return Outcome.refused(problems);
    }
    Outcome<ApplicationId> made =
        AppDecisions.propose(
            moment,
            wanted.profile(),
            wanted.address(),
            List.of(wanted.owner()),
            List.of(
                new AppDecisions.WantedRole(
                    wanted.role(), "", wanted.profile().sensitivity(), wanted.requestable())));
    if (made instanceof Outcome.Refused<ApplicationId> refused) {
      return Outcome.refused(refused.problems());
    }
    Outcome.Done<ApplicationId> app = (Outcome.Done<ApplicationId>) made;
    List<Edit> edits = new ArrayList<>();
    EntitlementId role = null;
    for (Edit edit : app.edits()) {
      if (edit.key() instanceof FactKey.Entitlement key) {
        role = key.subject();
      }
      // It is open from the start: there is nothing that somebody would still have to set up.
      edits.add(
          edit.key() instanceof FactKey.AppState && edit.wanted() != null
              ? new Edit(
                  edit.key(),
                  edit.base(),
                  new eleutheria.core.facts.Spell(
                      new FactValue.AppState(ApplicationState.OPEN),
                      edit.wanted().from(),
                      edit.wanted().until()))
              : edit);
    }
    if (role == null
        || !(moment.facts().apply(edits, moment.at()) instanceof Applied.Moves moves)) {
      throw new IllegalStateException("a new application without an entitlement");
    }
    Facts with = moment.facts().with(moves.moves());
    Moment then =
        new Moment(
            with, moment.directory(), moment.at(), moment.zone(), moment.ids(), moment.authority());
    FactValue.Profile profile = wanted.profile();
    Outcome<TileId> tile =
        tiles.make(
            then,
            new FactValue.TileFace(
                profile.name().strip(),
                profile.line().strip(),
                profile.picture(),
                profile.hue(),
                app.result(),
                new TreeSet<>(List.of(role))));
    if (tile instanceof Outcome.Refused<TileId> refused) {
      return Outcome.refused(refused.problems());
    }
    Outcome.Done<TileId> shown = (Outcome.Done<TileId>) tile;
    edits.addAll(shown.edits());
    Edits grants = moment.edits();
    fold.stream()
        .map(Suggestion::by)
        .distinct()
        .filter(
            asker ->
                moment
                    .directory()
                    .person(asker)
                    .filter(person -> person.status() != PersonStatus.DEPARTED)
                    .isPresent())
        .forEach(asker -> give(moment, grants, new FactValue.Subject.OfPerson(asker), app, fold));
    if (wanted.also() != null) {
      give(moment, grants, wanted.also(), app, fold);
    }
    edits.addAll(grants.list());
    return decided(
        ActName.SUGGESTION_ACCEPT,
        fold,
        List.of(app.result(), shown.result()),
        wanted.answer(),
        edits,
        new Suggestion.State.Accepted(by, moment.at(), app.result(), wanted.answer().strip()));
  }

  private static void give(
      Moment moment,
      Edits edits,
      FactValue.Subject subject,
      Outcome.Done<ApplicationId> app,
      List<Suggestion> fold) {
    EntitlementId role =
        app.edits().stream()
            .filter(edit -> edit.key() instanceof FactKey.Entitlement)
            .map(edit -> ((FactKey.Entitlement) edit.key()).subject())
            .findFirst()
            .orElseThrow();
    GrantId grant = new GrantId(moment.ids().get());
    edits.put(new FactKey.Grant(grant), new FactValue.Given(subject, role, GrantSource.HAND));
    edits.put(
        new FactKey.GrantReason(grant),
        new FactValue.Text("Suggested: " + fold.getFirst().label()));
  }

  private static Outcome<List<Suggestion>> decided(
      ActName act,
      List<Suggestion> fold,
      List<ObjectId> made,
      String answer,
      List<Edit> edits,
      Suggestion.State state) {
    List<ObjectId> objects = new ArrayList<>(made);
    List<Errand> errands = new ArrayList<>();
    for (Suggestion each : fold) {
      objects.add(each.id());
      errands.add(new Errand.TellOfSuggestion(each.by(), each.id()));
    }
    return Outcome.<List<Suggestion>>done(
            new Act(act, List.copyOf(new LinkedHashSet<>(objects)), answer.strip(), Map.of()),
            edits,
            fold.stream().map(each -> each.at(state)).toList())
        .with(errands);
  }
}
