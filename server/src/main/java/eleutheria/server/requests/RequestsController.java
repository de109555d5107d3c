package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.NearWords;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Pace;
import eleutheria.core.requests.Step;
import eleutheria.server.problems.ProblemView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.settings.Organisation;
import eleutheria.server.signon.FreshSignIn;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What staff do for themselves: what they hold, what they could ask for, what they asked for. */
@RestController
class RequestsController {
  private static final int MINE = 100;
  private static final int MOST_AT_ONCE = 1000;

  private final World world;
  private final RequestActs acts;
  private final RequestStore store;
  private final Organisation organisation;
  private final FreshSignIn freshSignIn;

  private static final Duration LATELY = Duration.ofDays(365);
  private final Clock clock;

  RequestsController(
      World world,
      RequestActs acts,
      RequestStore store,
      Organisation organisation,
      FreshSignIn freshSignIn,
      Clock clock) {
    this.clock = clock;
    this.world = world;
    this.acts = acts;
    this.store = store;
    this.organisation = organisation;
    this.freshSignIn = freshSignIn;
  }

  record AskablePage(int total, List<AskableLine> lines) {}

  /**
   * Something that one could ask for.
   *
   * @param high whether it is given until a day only
   * @param heldUntil when one's own holding ends by itself; null if it is not held
   * @param waiting the number of one's own request that waits
   */
  record AskableLine(
      EntitlementRef entitlement,
      boolean high,
      @Nullable Instant heldUntil,
      @Nullable String waiting) {}

  /**
   * What asking for one thing would come to.
   *
   * @param askable false where it cannot be asked for now; {@code why} says why
   * @param steps who would decide, in their order
   * @param mostDays the longest time that may be asked for; null if there is no limit
   * @param earlier what one said the last time one asked for it; empty if one never has
   * @param pace how long it took for the application in the last year, of the newest 200 requests;
   *     null where too few were decided
   */
  record AskView(
      EntitlementRef entitlement,
      boolean askable,
      @Nullable String why,
      @Nullable Instant heldUntil,
      List<AskStep> steps,
      boolean needsEnd,
      @Nullable Integer mostDays,
      String earlier,
      @Nullable PaceView pace) {}

  /**
   * @param deputies who decides for whom of them
   */
  record AskStep(
      String step, String as, List<String> people, List<RequestView.DeputyRef> deputies) {}

  record AskForm(
      @NotNull UUID entitlement,
      @Nullable LocalDate until,
      @NotNull @Size(max = 4000) String reason) {}

  record MyRequests(List<RequestView> requests) {}

  @GetMapping("/api/askable")
  @Needs(signedIn = true)
  AskablePage askable(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "60") int limit) {
    AccessView access = world.whole().access();
    List<AccessRequest> asked =
        store.of(viewer.person(), MINE).stream().filter(r -> r.stage().open()).toList();
    List<Entitlement> open = new ArrayList<>();
    for (Application app : access.apps().applications()) {
      for (Entitlement e : app.entitlements()) {
        if (app.open() && e.role().requestable() && !heldForEver(access, viewer.person(), e.id())) {
          open.add(e);
        }
      }
    }
    List<Entitlement> fitting =
        NearWords.find(
            open,
            find,
            e -> {
              FactValue.Profile profile = access.apps().applicationOf(e).profile();
              return List.of(
                  e.title(),
                  profile.line(),
                  e.role().line(),
                  String.join(" ", profile.nicknames()));
            });
    return new AskablePage(
        fitting.size(),
        Pages.of(fitting.stream(), offset, limit)
            .map(
                e ->
                    new AskableLine(
                        EntitlementRef.of(access.apps(), e),
                        high(e),
                        access.holds(viewer.person(), e.id())
                            ? access.ends(viewer.person(), e.id())
                            : null,
                        asked.stream()
                            .filter(r -> r.entitlement().equals(e.id()))
                            .map(AccessRequest::name)
                            .findFirst()
                            .orElse(null)))
            .toList());
  }

  private static boolean high(Entitlement e) {
    return e.role().sensitivity() == eleutheria.core.facts.Sensitivity.HIGH;
  }

  private static boolean heldForEver(AccessView access, PersonId person, EntitlementId id) {
    return access.entitled(person, id) && access.entitledUntil(person, id) == null;
  }

  @GetMapping("/api/askable/{id}")
  @Needs(signedIn = true)
  AskView ask(Viewer viewer, @PathVariable UUID id) {
    AccessView access = world.whole().access();
    Entitlement e =
        access
            .apps()
            .entitlement(new EntitlementId(id))
            .filter(x -> access.apps().applicationOf(x).open())
            .orElseThrow(() -> Refusal.of(Problem.absent("entitlement")));
    String why = null;
    List<AccessRequest> mine = store.of(viewer.person(), MINE);
    Optional<AccessRequest> waiting =
        mine.stream().filter(r -> r.stage().open() && r.entitlement().equals(e.id())).findFirst();
    if (waiting.isPresent()) {
      why = "You have asked for it: %s is waiting.".formatted(waiting.get().name());
    } else if (heldForEver(access, viewer.person(), e.id())) {
      why = "You hold it already.";
    } else if (!e.role().requestable()) {
      why = "It is not requestable; its owners grant it.";
    } else if (!Deciders.resolves(access, viewer.person(), e.id())) {
      why = "Nobody could decide on this; tell a steward.";
    }
    return new AskView(
        EntitlementRef.of(access.apps(), e),
        why == null,
        why,
        access.holds(viewer.person(), e.id()) ? access.ends(viewer.person(), e.id()) : null,
        steps(access, viewer.person(), e.id()),
        high(e),
        high(e) ? eleutheria.core.requests.RequestDecisions.LONGEST_HIGH : null,
        mine.stream()
            .filter(r -> r.entitlement().equals(e.id()))
            .map(AccessRequest::reason)
            .findFirst()
            .orElse(""),
        PaceView.of(
            Pace.of(store.took(access.apps().applicationOf(e), clock.instant().minus(LATELY)))
                .orElse(null)));
  }

  private static List<AskStep> steps(AccessView access, PersonId asker, EntitlementId id) {
    List<AskStep> steps = new ArrayList<>();
    Deciders before = null;
    for (Step step : Step.values()) {
      Deciders deciders = Deciders.of(access, asker, id, step);
      boolean same = before != null && before.decideAlso(deciders);
      if (!same) {
        steps.add(
            new AskStep(
                step.word(),
                RequestView.word(deciders.capacity()),
                deciders.people().stream().limit(5).map(p -> RequestView.name(access, p)).toList(),
                RequestView.deputies(access, deciders)));
      }
      before = deciders;
    }
    return steps;
  }

  @PostMapping("/api/requests")
  @Needs(signedIn = true)
  Receipt ask(Viewer viewer, @Valid @RequestBody AskForm form, IdempotencyKey repeatKey) {
    return Receipt.of(
        acts.ask(
            viewer,
            repeatKey.value(),
            new EntitlementId(form.entitlement()),
            form.until(),
            form.reason()));
  }

  @GetMapping("/api/my/requests")
  @Needs(signedIn = true)
  MyRequests mine(Viewer viewer) {
    AccessView access = world.whole().access();
    return new MyRequests(
        store.of(viewer.person(), MINE).stream()
            .filter(r -> access.apps().entitlement(r.entitlement()).isPresent())
            .map(r -> RequestView.of(access, r, organisation.zone()))
            .toList());
  }

  @PostMapping("/api/requests/{id}/withdraw")
  @Needs(signedIn = true)
  Receipt withdraw(Viewer viewer, @PathVariable UUID id) {
    return Receipt.of(acts.withdraw(viewer, new RequestId(id)));
  }

  // ---- deciding

  /**
   * @param accepted what separation rules keep apart and the yes accepts; needs a fresh sign-in
   */
  record AnswerForm(
      @NotNull Step step,
      boolean yes,
      @Nullable LocalDate until,
      @Nullable @Size(max = 4000) String note,
      @Nullable @Size(max = 20) List<@Valid AcceptedPair> accepted) {}

  @PostMapping("/api/requests/{id}/answer")
  @Needs(signedIn = true)
  Receipt answer(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody AnswerForm form,
      HttpServletRequest request,
      IdempotencyKey repeatKey) {
    List<AcceptedPair> accepted = form.accepted() == null ? List.of() : form.accepted();
    if (!accepted.isEmpty()) {
      freshSignIn.require(request);
    }
    return Receipt.of(
        acts.answer(
            viewer,
            repeatKey.value(),
            new RequestId(id),
            form.step(),
            form.yes(),
            form.until(),
            form.note() == null ? "" : form.note(),
            accepted));
  }

  /**
   * Several requests decided in the same way, each by itself.
   *
   * @param requests at most a thousand
   */
  record AnswersForm(
      @NotNull @Size(min = 1, max = MOST_AT_ONCE) List<@NotNull UUID> requests,
      @NotNull @Valid AnswerForm answer) {}

  /**
   * What became of each, in the order in which they were named.
   *
   * @param position of the ledger entry; null if it was refused
   * @param problems why it was refused; empty if it was not
   */
  record AnsweredLine(String request, @Nullable Long position, List<ProblemView.Item> problems) {}

  record AnsweredView(List<AnsweredLine> lines) {}

  record RequestsForm(@NotNull @Size(min = 1, max = MOST_AT_ONCE) List<@NotNull UUID> requests) {}

  @PostMapping("/api/requests/answers")
  @Needs(signedIn = true)
  AnsweredView answers(
      Viewer viewer,
      @Valid @RequestBody AnswersForm form,
      HttpServletRequest request,
      IdempotencyKey repeatKey) {
    AnswerForm wanted = form.answer();
    List<AcceptedPair> accepted = wanted.accepted() == null ? List.of() : wanted.accepted();
    if (!accepted.isEmpty()) {
      freshSignIn.require(request);
    }
    return each(
        form.requests(),
        id ->
            acts.answer(
                viewer,
                repeatKey.of(id),
                new RequestId(id),
                wanted.step(),
                wanted.yes(),
                wanted.until(),
                wanted.note() == null ? "" : wanted.note(),
                accepted));
  }

  @PostMapping("/api/requests/take-backs")
  @Needs(signedIn = true)
  AnsweredView takeBacks(Viewer viewer, @Valid @RequestBody RequestsForm form) {
    return each(form.requests(), id -> acts.takeBack(viewer, new RequestId(id)));
  }

  /** Each in an act of its own: what is refused of one does not touch the others. */
  private static AnsweredView each(
      List<UUID> requests, Function<UUID, Acts.Receipt<RequestId>> act) {
    List<AnsweredLine> lines = new ArrayList<>();
    for (UUID id : new LinkedHashSet<>(requests)) {
      try {
        lines.add(new AnsweredLine(id.toString(), act.apply(id).position(), List.of()));
      } catch (Refusal refused) {
        lines.add(
            new AnsweredLine(
                id.toString(),
                null,
                refused.problems().stream().map(ProblemView.Item::of).toList()));
      }
    }
    return new AnsweredView(lines);
  }

  @PostMapping("/api/requests/{id}/take-back")
  @Needs(signedIn = true)
  Receipt takeBack(Viewer viewer, @PathVariable UUID id) {
    return Receipt.of(acts.takeBack(viewer, new RequestId(id)));
  }
}
