package eleutheria.server.suggestions;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.TileDecisions;
import eleutheria.core.suggestions.SelfService;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.core.suggestions.SuggestionDecisions;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.refs.SubjectView;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Suggesting apps, and deciding on them. */
@RestController
class SuggestionsController {
  private static final int MINE = 100;

  private final World world;
  private final Acts acts;
  private final SuggestionStore store;

  SuggestionsController(World world, Acts acts, SuggestionStore store) {
    this.world = world;
    this.acts = acts;
    this.store = store;
  }

  /**
   * @param whom who needs it, and {@code why} what for, in the asker's words
   */
  record SuggestForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 3000) String address,
      @NotNull @Size(max = 1000) String whom,
      @NotNull @Size(max = 4000) String why) {}

  /**
   * @param state waiting, accepted, declined or withdrawn
   * @param answer what was said with the decision
   */
  record SuggestionView(
      String id,
      String number,
      String name,
      String address,
      String whom,
      String why,
      Instant at,
      String state,
      @Nullable Instant decidedAt,
      @Nullable String decidedBy,
      String answer) {
    static SuggestionView of(PortalView whole, Suggestion p) {
      return new SuggestionView(
          p.id().value().toString(),
          p.label(),
          p.name(),
          p.address(),
          p.whom(),
          p.why(),
          p.at(),
          SuggestionStore.word(p),
          switch (p.state()) {
            case Suggestion.State.Waiting s -> null;
            case Suggestion.State.Accepted s -> s.at();
            case Suggestion.State.Declined s -> s.at();
            case Suggestion.State.Withdrawn s -> s.at();
          },
          switch (p.state()) {
            case Suggestion.State.Accepted s -> by(whole, s.by());
            case Suggestion.State.Declined s -> by(whole, s.by());
            default -> null;
          },
          switch (p.state()) {
            case Suggestion.State.Accepted s -> s.answer();
            case Suggestion.State.Declined s -> s.answer();
            default -> "";
          });
    }
  }

  private static String by(PortalView whole, PersonId id) {
    return whole.directory().person(id).map(p -> p.name().displayed()).orElse("someone");
  }

  record MySuggestions(List<SuggestionView> suggestions) {}

  @GetMapping("/api/my/suggestions")
  @Needs(signedIn = true)
  MySuggestions mine(Viewer viewer) {
    PortalView whole = world.whole();
    return new MySuggestions(
        store.of(viewer.person(), MINE).stream().map(p -> SuggestionView.of(whole, p)).toList());
  }

  @PostMapping("/api/my/suggestions")
  @Needs(signedIn = true)
  Receipt suggest(Viewer viewer, @Valid @RequestBody SuggestForm form, IdempotencyKey repeatKey) {
    AtomicReference<Suggestion> made = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            SuggestionId.class,
            moment ->
                id(
                    SuggestionDecisions.suggest(
                        moment,
                        store.nextNumber(),
                        viewer.person(),
                        form.name(),
                        form.address(),
                        form.whom(),
                        form.why(),
                        store.of(viewer.person(), Integer.MAX_VALUE),
                        SelfService.at(moment.facts(), moment.at())
                            .of(viewer.person(), PortalView.at(moment)::has)),
                    made),
            (tx, result, entry) -> SuggestionStore.save(tx, requireNonNull(made.get()))));
  }

  @PostMapping("/api/my/suggestions/{id}/withdraw")
  @Needs(signedIn = true)
  Receipt withdraw(Viewer viewer, @PathVariable UUID id) {
    AtomicReference<Suggestion> next = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            SuggestionId.class,
            moment ->
                store
                    .find(new SuggestionId(id))
                    .map(p -> id(SuggestionDecisions.withdraw(moment, p), next))
                    .orElseGet(() -> Outcome.refused(Problem.absent("suggestion"))),
            (tx, result, entry) -> SuggestionStore.save(tx, requireNonNull(next.get()))));
  }

  private static Outcome<SuggestionId> id(
      Outcome<Suggestion> outcome, AtomicReference<Suggestion> next) {
    return switch (outcome) {
      case Outcome.Refused<Suggestion> refused -> Outcome.refused(refused.problems());
      case Outcome.Done<Suggestion> done -> {
        next.set(done.result());
        yield Outcome.done(done.act(), done.edits(), done.result().id()).with(done.errands());
      }
    };
  }

  // ---- deciding

  /**
   * Alike suggestions, for who decides on them.
   *
   * @param host what the address is of
   * @param mine whether one is the reader's own, so that somebody else decides on it
   * @param approved the entry of the approved list that has its address; null if none has
   */
  record SuggestionCase(
      List<SuggestionLine> suggestions, String host, boolean mine, @Nullable String approved) {}

  record SuggestionLine(PersonLine who, SuggestionView suggestion) {}

  @GetMapping("/api/suggestions/{id}")
  @Needs(Power.APPS_EDIT)
  SuggestionCase one(Viewer viewer, @PathVariable UUID id) {
    Suggestion found =
        store
            .find(new SuggestionId(id))
            .filter(p -> viewer.authority().hasEverywhere(Power.APPS_EDIT))
            .orElseThrow(() -> Refusal.of(Problem.absent("suggestion")));
    PortalView whole = world.whole();
    AccessView access = whole.access();
    List<Suggestion> alike =
        found.waits()
            ? store.waiting().stream()
                .filter(p -> p.likeness().equals(found.likeness()))
                .filter(p -> p.by().equals(viewer.person()) == found.by().equals(viewer.person()))
                .toList()
            : List.of(found);
    return new SuggestionCase(
        alike.stream()
            .map(
                p ->
                    new SuggestionLine(
                        access.directory().person(p.by()).map(PersonLine::of).orElseThrow(),
                        SuggestionView.of(whole, p)))
            .toList(),
        host(found.address()),
        found.by().equals(viewer.person()),
        world
            .look((facts, now) -> SelfService.at(facts, now.at()))
            .approved()
            .covering(found.address())
            .map(entry -> entry.listing().name())
            .orElse(null));
  }

  private static String host(String address) {
    String host = URI.create(address).getHost();
    return host == null ? address : host;
  }

  /**
   * @param also who gets it besides those who have suggested it; null for nobody
   */
  record AcceptForm(
      @NotEmpty @Size(max = 500) List<UUID> suggestions,
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 1000) String line,
      @NotNull @Size(max = 20) String picture,
      @NotNull @Size(max = 10) String hue,
      @NotNull Sensitivity sensitivity,
      @NotNull @Size(max = 3000) String address,
      @NotNull UUID owner,
      @NotNull @Size(max = 500) String role,
      boolean requestable,
      SubjectView.@Nullable @Valid SubjectForm also,
      @NotNull @Size(max = 4000) String answer) {
    SuggestionDecisions.Wanted wanted() {
      return new SuggestionDecisions.Wanted(
          new FactValue.Profile(name, line, picture, hue, sensitivity, ""),
          address,
          new PersonId(owner),
          role,
          requestable,
          also == null ? null : also.subject(),
          answer);
    }
  }

  @PostMapping("/api/suggestions/accept")
  @Needs(Power.APPS_EDIT)
  Receipt accept(Viewer viewer, @Valid @RequestBody AcceptForm form, IdempotencyKey repeatKey) {
    return decide(
        viewer,
        repeatKey.value(),
        form.suggestions(),
        (moment, fold) ->
            SuggestionDecisions.accept(
                moment,
                fold,
                form.wanted(),
                (then, face) -> TileDecisions.make(then, TileDecisions.Terms.of(face))));
  }

  record DeclineForm(
      @NotEmpty @Size(max = 500) List<UUID> suggestions,
      @NotNull @Size(max = 4000) String answer) {}

  @PostMapping("/api/suggestions/decline")
  @Needs(Power.APPS_EDIT)
  Receipt decline(Viewer viewer, @Valid @RequestBody DeclineForm form, IdempotencyKey repeatKey) {
    return decide(
        viewer,
        repeatKey.value(),
        form.suggestions(),
        (moment, fold) -> SuggestionDecisions.decline(moment, fold, form.answer()));
  }

  private interface Decision {
    Outcome<List<Suggestion>> on(eleutheria.core.directory.Moment moment, List<Suggestion> fold);
  }

  private Receipt decide(
      Viewer viewer, @Nullable String repeatKey, List<UUID> ids, Decision decision) {
    AtomicReference<List<Suggestion>> next = new AtomicReference<>(List.of());
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            Integer.class,
            moment -> {
              List<Suggestion> fold =
                  store.find(ids.stream().distinct().map(SuggestionId::new).toList());
              if (fold.size() < ids.stream().distinct().count()) {
                return Outcome.refused(Problem.absent("suggestion"));
              }
              return switch (decision.on(moment, fold)) {
                case Outcome.Refused<List<Suggestion>> refused ->
                    Outcome.refused(refused.problems());
                case Outcome.Done<List<Suggestion>> done -> {
                  next.set(done.result());
                  yield Outcome.done(done.act(), done.edits(), done.result().size())
                      .with(done.errands())
                      .by(done.right());
                }
              };
            },
            (tx, result, entry) ->
                requireNonNull(next.get()).forEach(p -> SuggestionStore.save(tx, p))));
  }
}
