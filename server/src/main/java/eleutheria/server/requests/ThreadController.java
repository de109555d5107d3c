package eleutheria.server.requests;

import eleutheria.core.access.AccessView;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Decision;
import eleutheria.core.requests.Message;
import eleutheria.core.requests.PassOnDecisions;
import eleutheria.core.requests.RequestReaders;
import eleutheria.core.requests.Stage;
import eleutheria.core.requests.ThreadDecisions;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.Colleague;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The thread of a request: what its people say to each other, and what who decides asks. */
@RestController
class ThreadController {
  private final World world;
  private final RequestStore requests;
  private final ThreadStore threads;
  private final RequestActs acts;
  private final Clock clock;
  private final ApplicationEventPublisher events;

  ThreadController(
      World world,
      RequestStore requests,
      ThreadStore threads,
      RequestActs acts,
      Clock clock,
      ApplicationEventPublisher events) {
    this.world = world;
    this.requests = requests;
    this.threads = threads;
    this.acts = acts;
    this.clock = clock;
    this.events = events;
  }

  private static final String DEPUTY = "deputy";

  /**
   * @param people who reads it beside the reader, by name: who asks, has decided, decides now
   * @param mayWrite whether the request is still open
   * @param mayAsk whether the reader decides, and may ask something that stops the clock
   * @param waits for whose answer the clock stands; null while it runs
   * @param mayWithdraw whether the reader has asked that
   * @param passOn to whom the reader may pass the step on; none where it is not theirs to decide
   */
  record ThreadView(
      List<String> people,
      List<MessageLine> messages,
      boolean mayWrite,
      boolean mayAsk,
      @Nullable WaitsForAnswer waits,
      boolean mayWithdraw,
      List<Colleague> passOn) {}

  /**
   * The clock stands.
   *
   * @param by who has asked
   * @param who whose answer is wanted
   * @param mine whether that is the reader
   * @param goesOn when the clock goes on all the same
   * @param leftMinutes of the step's time, in minutes
   */
  record WaitsForAnswer(
      String by, String who, boolean mine, Instant since, Instant goesOn, long leftMinutes) {}

  /**
   * @param by whose it is
   * @param part what they have to do with the request: asks, manager, owner, deputy and so on; null
   *     if that is over
   * @param to whom the step was passed on to with it; else null
   * @param text empty where it was erased
   * @param readBy who has read it beside its author, by name
   */
  record MessageLine(
      int seq,
      String by,
      boolean mine,
      @Nullable String part,
      Message.Kind kind,
      @Nullable String to,
      String text,
      Instant at,
      List<String> readBy) {}

  /**
   * @param asks whether it is a question that stops the clock
   */
  record WriteForm(@NotNull @Size(max = 8000) String text, @NotNull Boolean asks) {}

  record PassOnForm(@NotNull UUID to, @NotNull @Size(max = 8000) String text) {}

  /**
   * @param messages how many have been read, from the first on
   */
  record ReadForm(@NotNull @Min(0) @Max(ThreadDecisions.MOST) Integer messages) {}

  @GetMapping("/api/requests/{id}/thread")
  @Needs(signedIn = true)
  ThreadView thread(Viewer viewer, @PathVariable UUID id) {
    AccessView access = world.whole().access();
    RequestId request = new RequestId(id);
    List<Message> messages = threads.of(request);
    AccessRequest found = known(viewer, access, request, messages);
    Map<PersonId, ThreadStore.Mark> marks = threads.read(request);
    Set<PersonId> people = people(access, found, messages);
    PersonId reader = viewer.person();
    List<MessageLine> lines = new ArrayList<>();
    for (int seq = 0; seq < messages.size(); seq++) {
      Message message = messages.get(seq);
      int place = seq;
      lines.add(
          new MessageLine(
              seq,
              RequestView.name(access, message.by()),
              message.by().equals(reader),
              part(access, found, message.by()),
              message.kind(),
              message.to() == null ? null : RequestView.name(access, message.to()),
              message.text(),
              message.at(),
              marks.entrySet().stream()
                  .filter(mark -> !mark.getKey().equals(message.by()))
                  .filter(mark -> mark.getValue().messages() > place)
                  .map(mark -> RequestView.name(access, mark.getKey()))
                  .sorted()
                  .toList()));
    }
    people.remove(reader);
    Stage.AskedBack asked = found.stage() instanceof Stage.AskedBack a ? a : null;
    Stage.Open open = found.stage() instanceof Stage.Open o ? o : null;
    boolean decides = RequestReaders.mayDecide(viewer.authority(), access, found);
    boolean passes =
        open != null && decides && Deciders.of(access, found, open).behalf(reader) == null;
    return new ThreadView(
        people.stream().map(one -> RequestView.name(access, one)).toList(),
        lines,
        found.stage().open(),
        asked == null && decides,
        asked == null
            ? null
            : new WaitsForAnswer(
                RequestView.name(access, asked.by()),
                askers(access, found),
                found.wish().isOf(reader),
                asked.since(),
                asked.goesOn(),
                asked.left().toMinutes()),
        asked != null && asked.by().equals(reader),
        open == null || !passes
            ? List.of()
            : PassOnDecisions.to(access, found, open, reader).stream()
                .flatMap(one -> access.directory().person(one).stream())
                .map(Colleague::of)
                .toList());
  }

  private AccessRequest known(
      Viewer viewer, AccessView access, RequestId id, List<Message> messages) {
    return requests
        .find(id)
        .filter(r -> RequestReaders.readsThread(viewer.authority(), access, r, messages))
        .orElseThrow(() -> Refusal.of(Problem.absent("request")));
  }

  /** Whoever may answer what is asked back: who asked, or whom it is for. */
  private static String askers(AccessView access, AccessRequest request) {
    return request.wish().people().stream()
        .map(one -> RequestView.name(access, one))
        .collect(Collectors.joining(" or "));
  }

  /** Everyone who reads it, in the order in which they came to it. */
  private static Set<PersonId> people(
      AccessView access, AccessRequest request, List<Message> messages) {
    Set<PersonId> people = new LinkedHashSet<>();
    people.addAll(request.wish().people());
    request.answers().forEach(answer -> people.add(answer.by()));
    messages.forEach(message -> people.add(message.by()));
    if (request.stage() instanceof Stage.Open open) {
      people.addAll(Deciders.of(access, request, open).all());
    }
    return people;
  }

  private static @Nullable String part(AccessView access, AccessRequest request, PersonId person) {
    if (request.wish().isOf(person)) {
      return person.equals(request.asker()) ? "asker" : "person";
    }
    for (Decision answer : request.answers()) {
      if (answer.by().equals(person)) {
        return answer.behalf() == null ? RequestView.word(answer.capacity()) : DEPUTY;
      }
    }
    if (!(request.stage() instanceof Stage.Open open)) {
      return null;
    }
    Deciders deciders = Deciders.of(access, request, open);
    return deciders.people().contains(person)
        ? RequestView.word(deciders.capacity())
        : deciders.include(person) ? DEPUTY : null;
  }

  @PostMapping("/api/requests/{id}/thread")
  @Needs(signedIn = true)
  Receipt write(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody WriteForm form,
      IdempotencyKey repeatKey) {
    return Receipt.of(
        acts.write(viewer, repeatKey.value(), new RequestId(id), form.text(), form.asks()));
  }

  @PostMapping("/api/requests/{id}/pass-on")
  @Needs(signedIn = true)
  Receipt passOn(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody PassOnForm form,
      IdempotencyKey repeatKey) {
    return Receipt.of(
        acts.passOn(
            viewer, repeatKey.value(), new RequestId(id), new PersonId(form.to()), form.text()));
  }

  @DeleteMapping("/api/requests/{id}/question")
  @Needs(signedIn = true)
  Receipt withdrawQuestion(Viewer viewer, @PathVariable UUID id) {
    return Receipt.of(acts.withdrawQuestion(viewer, new RequestId(id)));
  }

  @PutMapping("/api/requests/{id}/thread/read")
  @Needs(signedIn = true)
  void read(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ReadForm form) {
    RequestId request = new RequestId(id);
    List<Message> messages = threads.of(request);
    AccessView access = world.whole().access();
    AccessRequest found = known(viewer, access, request, messages);
    int come = Math.min(form.messages(), messages.size());
    ThreadStore.Mark before = threads.read(request).get(viewer.person());
    threads.mark(request, viewer.person(), come, clock.instant());
    if (before == null || before.messages() < come) {
      Set<PersonId> others = people(access, found, messages);
      others.remove(viewer.person());
      events.publishEvent(new ThreadRead(Set.copyOf(others)));
    }
  }
}
