package eleutheria.server.parked;

import eleutheria.core.directory.Moment;
import eleutheria.core.docket.ParkedDecisions;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What the product has given up doing by itself: looked at, tried again, or dropped. */
@RestController
class ParkedController {
  private final ParkedStore store;
  private final World world;
  private final Acts acts;

  ParkedController(ParkedStore store, World world, Acts acts) {
    this.store = store;
    this.world = world;
    this.acts = acts;
  }

  /**
   * @param kind an errand's or one of the clock's
   * @param byTheClock whether the clock was to do it, at {@code due}
   * @param person whom it is for; null where it is about nobody
   * @param position of the act that wanted it
   * @param failed when it was given up
   * @param error what went wrong the last time
   */
  record ParkedView(
      String id,
      String kind,
      boolean byTheClock,
      @Nullable PersonLine person,
      long position,
      Instant since,
      @Nullable Instant due,
      Instant failed,
      int attempts,
      String error) {}

  record DropForm(@NotNull @Size(max = 2000) String reason) {}

  @GetMapping("/api/parked/{id}")
  @Needs(Power.SETTINGS_EDIT)
  ParkedView parked(Viewer viewer, @PathVariable String id) {
    ParkedStore.Parked found = found(viewer, id);
    return new ParkedView(
        found.id().text(),
        found.kind(),
        found.id().queue() == ParkedStore.Queue.CLOCK,
        found.person() == null
            ? null
            : world.now().person(found.person()).map(PersonLine::of).orElse(null),
        found.position(),
        found.since(),
        found.due(),
        found.failed(),
        found.attempts(),
        found.error());
  }

  private ParkedStore.Parked found(Viewer viewer, String id) {
    return ParkedStore.Id.parse(id)
        .filter(one -> ParkedDecisions.answers(viewer.authority()))
        .flatMap(store::find)
        .orElseThrow(() -> Refusal.of(Problem.absent("failed task")));
  }

  /** Has it tried again at once, with as many tries as if it were new. */
  @PostMapping("/api/parked/{id}/retry")
  @Needs(Power.SETTINGS_EDIT)
  Receipt retry(Viewer viewer, @PathVariable String id, IdempotencyKey repeatKey) {
    return act(
        viewer,
        id,
        repeatKey.value(),
        (moment, parked) -> ParkedDecisions.retry(moment, parked.asCase(), parked.position()),
        ParkedStore.Step.RETRY);
  }

  /** Has it never done; what it was to tell or do is not told or done. */
  @PostMapping("/api/parked/{id}/drop")
  @Needs(Power.SETTINGS_EDIT)
  Receipt drop(
      Viewer viewer,
      @PathVariable String id,
      @Valid @RequestBody DropForm form,
      IdempotencyKey repeatKey) {
    return act(
        viewer,
        id,
        repeatKey.value(),
        (moment, parked) ->
            ParkedDecisions.drop(moment, parked.asCase(), parked.position(), form.reason()),
        ParkedStore.Step.DROP);
  }

  private Receipt act(
      Viewer viewer,
      String id,
      @Nullable String repeatKey,
      BiFunction<Moment, ParkedStore.Parked, Outcome<String>> decision,
      ParkedStore.Step step) {
    ParkedStore.Parked[] parked = new ParkedStore.Parked[1];
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            String.class,
            moment -> {
              // Whoever came first has dealt with it.
              parked[0] = found(viewer, id);
              return decision.apply(moment, parked[0]);
            },
            (tx, result, entry) -> step.take(tx, parked[0], entry.at())));
  }
}
