package eleutheria.server.requests;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessView;
import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.PassOnDecisions;
import eleutheria.core.requests.RequestDecisions;
import eleutheria.core.requests.ThreadDecisions;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.RequestForms;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Acts on requests: the request is read under the lock, decided on, and written with the entry. */
@Service
class RequestActs {
  private final Acts acts;
  private final RequestStore store;
  private final ThreadStore threads;
  private final Duration takeBack;

  RequestActs(Acts acts, RequestStore store, ThreadStore threads, ServerSettings settings) {
    this.acts = acts;
    this.store = store;
    this.threads = threads;
    this.takeBack = settings.takeBack();
  }

  Acts.Receipt<RequestId> ask(
      Viewer viewer,
      @Nullable String repeatKey,
      PersonId person,
      EntitlementId entitlement,
      @Nullable LocalDate until,
      String reason,
      @Nullable String version,
      Map<String, List<String>> given) {
    return act(
        viewer,
        repeatKey,
        moment ->
            changed(moment, entitlement, version)
                ? Outcome.refused(
                    Problem.stale("form", "Someone has changed what is asked here meanwhile."))
                : RequestDecisions.ask(
                    moment,
                    store.nextNumber(),
                    person,
                    entitlement,
                    until,
                    reason,
                    given,
                    store.forPerson(person, 1000)),
        false);
  }

  /** Whether the form is another than whoever asks has seen. */
  private static boolean changed(
      Moment moment, EntitlementId entitlement, @Nullable String version) {
    AppsView apps = AccessView.at(moment).apps();
    return version != null
        && apps.entitlement(entitlement)
            .map(apps::form)
            .filter(form -> !RequestForms.version(form).equals(version))
            .isPresent();
  }

  Acts.Receipt<RequestId> answer(
      Viewer viewer,
      @Nullable String repeatKey,
      RequestId id,
      int step,
      boolean yes,
      @Nullable LocalDate until,
      String note,
      List<AcceptedPair> accepted) {
    return act(
        viewer,
        repeatKey,
        moment ->
            known(
                id,
                request ->
                    RequestDecisions.answer(
                        moment,
                        request,
                        step,
                        yes,
                        until,
                        note,
                        accepted.stream().map(pair -> pair.by(request.person())).toList(),
                        takeBack)),
        false);
  }

  Acts.Receipt<RequestId> takeBack(Viewer viewer, RequestId id) {
    return act(
        viewer,
        null,
        moment -> known(id, request -> RequestDecisions.takeBack(moment, request, takeBack)),
        true);
  }

  Acts.Receipt<RequestId> withdraw(Viewer viewer, RequestId id) {
    return act(
        viewer,
        null,
        moment -> known(id, request -> RequestDecisions.withdraw(moment, request)),
        false);
  }

  /** Writes into the thread; a question stops the clock. */
  Acts.Receipt<RequestId> write(
      Viewer viewer, @Nullable String repeatKey, RequestId id, String text, boolean asks) {
    return speak(
        viewer,
        repeatKey,
        id,
        (moment, request) ->
            asks
                ? ThreadDecisions.askBack(moment, request, threads.of(id), text)
                : ThreadDecisions.say(moment, request, threads.of(id), text));
  }

  /** Hands the step that waits to somebody else, with a word. */
  Acts.Receipt<RequestId> passOn(
      Viewer viewer, @Nullable String repeatKey, RequestId id, PersonId to, String word) {
    return speak(
        viewer,
        repeatKey,
        id,
        (moment, request) -> PassOnDecisions.passOn(moment, request, threads.of(id), to, word));
  }

  Acts.Receipt<RequestId> withdrawQuestion(Viewer viewer, RequestId id) {
    return speak(
        viewer,
        null,
        id,
        (moment, request) -> ThreadDecisions.withdrawQuestion(moment, request, threads.of(id)));
  }

  private Acts.Receipt<RequestId> speak(
      Viewer viewer,
      @Nullable String repeatKey,
      RequestId id,
      BiFunction<Moment, AccessRequest, Outcome<ThreadDecisions.Spoken>> decision) {
    AtomicReference<ThreadDecisions.Spoken> next = new AtomicReference<>();
    return acts.perform(
        viewer.actor(),
        repeatKey,
        RequestId.class,
        moment -> {
          Optional<AccessRequest> request = store.find(id);
          if (request.isEmpty()) {
            return Outcome.refused(Problem.absent("request"));
          }
          return switch (decision.apply(moment, request.get())) {
            case Outcome.Refused<ThreadDecisions.Spoken> refused ->
                Outcome.refused(refused.problems());
            case Outcome.Done<ThreadDecisions.Spoken> done -> {
              next.set(done.result());
              yield Outcome.done(done.act(), done.edits(), id)
                  .with(done.errands())
                  .by(done.right());
            }
          };
        },
        (tx, result, entry) -> {
          ThreadDecisions.Spoken spoken = requireNonNull(next.get());
          RequestStore.save(tx, spoken.request(), entry);
          if (spoken.message() != null) {
            ThreadStore.add(
                tx, id, spoken.request().messages() - 1, spoken.message(), entry.position());
          }
        });
  }

  private Outcome<AccessRequest> known(
      RequestId id, Function<AccessRequest, Outcome<AccessRequest>> decision) {
    Optional<AccessRequest> request = store.find(id);
    return request.isEmpty()
        ? Outcome.refused(Problem.absent("request"))
        : decision.apply(request.get());
  }

  private Acts.Receipt<RequestId> act(
      Viewer viewer,
      @Nullable String repeatKey,
      Function<Moment, Outcome<AccessRequest>> decision,
      boolean unsend) {
    AtomicReference<AccessRequest> next = new AtomicReference<>();
    return acts.perform(
        viewer.actor(),
        repeatKey,
        RequestId.class,
        moment ->
            switch (decision.apply(moment)) {
              case Outcome.Refused<AccessRequest> refused -> Outcome.refused(refused.problems());
              case Outcome.Done<AccessRequest> done -> {
                next.set(done.result());
                yield Outcome.done(done.act(), done.edits(), done.result().id())
                    .with(done.errands())
                    .by(done.right());
              }
            },
        (tx, result, entry) -> {
          if (unsend) {
            RequestStore.unsend(tx, result);
          }
          RequestStore.save(tx, requireNonNull(next.get()), entry);
        });
  }
}
