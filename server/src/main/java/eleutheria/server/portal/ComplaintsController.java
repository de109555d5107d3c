package eleutheria.server.portal;

import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.Complaint;
import eleutheria.core.portal.ComplaintDecisions;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
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
import java.util.List;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Problems with tiles: reported by who uses them, answered by who owns the application. */
@RestController
class ComplaintsController {
  private static final int MINE = 100;
  private static final int EARLIER = 20;

  private final World world;
  private final Acts acts;
  private final ComplaintStore store;

  ComplaintsController(World world, Acts acts, ComplaintStore store) {
    this.world = world;
    this.acts = acts;
    this.store = store;
  }

  record ReportForm(@NotNull UUID tile, @NotNull @Size(max = 4000) String text) {}

  /**
   * @param answeredBy null while it waits; the reporter if they took it back
   */
  record ReportView(
      String id,
      String number,
      String tile,
      String text,
      Instant at,
      @Nullable Instant answeredAt,
      @Nullable String answeredBy,
      boolean takenBack,
      String answer) {
    static ReportView of(PortalView whole, Complaint r) {
      Complaint.Reply answer = r.answer();
      return new ReportView(
          r.id().value().toString(),
          r.label(),
          r.tileName(),
          r.text(),
          r.at(),
          answer == null ? null : answer.at(),
          answer == null
              ? null
              : whole
                  .directory()
                  .person(answer.by())
                  .map(p -> p.name().displayed())
                  .orElse("someone"),
          answer != null && answer.by().equals(r.by()),
          answer == null ? "" : answer.text());
    }
  }

  record MyComplaints(List<ReportView> complaints) {}

  @GetMapping("/api/my/complaints")
  @Needs(signedIn = true)
  MyComplaints mine(Viewer viewer) {
    PortalView whole = world.whole();
    return new MyComplaints(
        store.of(viewer.person(), MINE).stream().map(r -> ReportView.of(whole, r)).toList());
  }

  @PostMapping("/api/my/complaints")
  @Needs(signedIn = true)
  Receipt complaint(Viewer viewer, @Valid @RequestBody ReportForm form, IdempotencyKey repeatKey) {
    AtomicReference<Complaint> made = new AtomicReference<>();
    PersonId person = viewer.person();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey.value(),
            ComplaintId.class,
            moment ->
                id(
                    ComplaintDecisions.make(
                        moment,
                        store.nextNumber(),
                        person,
                        new TileId(form.tile()),
                        form.text(),
                        PageViews.shown(PortalView.at(moment), person),
                        store.of(person, Integer.MAX_VALUE)),
                    made),
            (tx, result, entry) -> ComplaintStore.save(tx, requireNonNull(made.get()))));
  }

  private static Outcome<ComplaintId> id(
      Outcome<Complaint> outcome, AtomicReference<Complaint> next) {
    return switch (outcome) {
      case Outcome.Refused<Complaint> refused -> Outcome.refused(refused.problems());
      case Outcome.Done<Complaint> done -> {
        next.set(done.result());
        yield Outcome.done(done.act(), done.edits(), done.result().id()).with(done.errands());
      }
    };
  }

  /**
   * One complaint, for who answers it.
   *
   * @param contact whom the tile says to call
   * @param reach how many people can open the tile
   * @param earlier others about the same tile, newest first
   */
  record ComplaintCase(
      ReportView complaint,
      PersonLine who,
      AppRef app,
      String tileId,
      String contact,
      int reach,
      List<ReportView> earlier,
      boolean mayAnswer) {}

  @GetMapping("/api/complaints/{id}")
  @Needs(signedIn = true)
  ComplaintCase one(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    Complaint complaint =
        store
            .find(new ComplaintId(id))
            .filter(
                r ->
                    r.by().equals(viewer.person())
                        || r.mayBeAnsweredBy(whole.access(), viewer.authority()))
            .orElseThrow(() -> Refusal.of(Problem.absent("complaint")));
    boolean answers = complaint.mayBeAnsweredBy(whole.access(), viewer.authority());
    return new ComplaintCase(
        ReportView.of(whole, complaint),
        whole.directory().person(complaint.by()).map(PersonLine::of).orElseThrow(),
        whole.access().apps().application(complaint.app()).map(AppRef::of).orElseThrow(),
        complaint.tile().value().toString(),
        whole.tile(complaint.tile()).map(tile -> tile.face().contact()).orElse(""),
        answers
            ? whole.tile(complaint.tile()).map(tile -> whole.openers(tile).size()).orElse(0)
            : 0,
        answers
            ? store.about(complaint.tile(), EARLIER).stream()
                .filter(other -> !other.id().equals(complaint.id()))
                .map(other -> ReportView.of(whole, other))
                .toList()
            : List.of(),
        answers);
  }

  record AnswerReport(@NotNull @Size(max = 4000) String text) {}

  /** Answers a complaint; whoever made it takes it back by this. */
  @PostMapping("/api/complaints/{id}/answer")
  @Needs(signedIn = true)
  Receipt answer(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody AnswerReport form) {
    AtomicReference<Complaint> next = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ComplaintId.class,
            moment ->
                store
                    .find(new ComplaintId(id))
                    .map(r -> id(ComplaintDecisions.answer(moment, r, form.text()), next))
                    .orElseGet(() -> Outcome.refused(Problem.absent("complaint"))),
            (tx, result, entry) -> ComplaintStore.save(tx, requireNonNull(next.get()))));
  }
}
