package eleutheria.server.requests;

import eleutheria.core.facts.RequestId;
import eleutheria.core.requests.AccessRequest;
import eleutheria.server.problems.ProblemView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.signon.FreshSignIn;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What was asked for, and deciding it. */
@RestController
class RequestsController {
  private static final int MINE = 100;
  private static final int MOST_AT_ONCE = 1000;

  private final World world;
  private final RequestActs acts;
  private final RequestStore store;
  private final Organisation organisation;
  private final FreshSignIn freshSignIn;

  RequestsController(
      World world,
      RequestActs acts,
      RequestStore store,
      Organisation organisation,
      FreshSignIn freshSignIn) {
    this.world = world;
    this.acts = acts;
    this.store = store;
    this.organisation = organisation;
    this.freshSignIn = freshSignIn;
  }

  record MyRequests(List<RequestView> requests) {}

  @GetMapping("/api/my/requests")
  @Needs(signedIn = true)
  MyRequests mine(Viewer viewer) {
    List<AccessRequest> known = store.of(viewer.person(), MINE);
    return new MyRequests(
        world.look(
            (facts, whole) ->
                known.stream()
                    .filter(r -> whole.access().apps().entitlement(r.entitlement()).isPresent())
                    .map(r -> RequestView.of(facts, whole.access(), r, organisation.zone()))
                    .toList()));
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
      @NotNull Integer step,
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
