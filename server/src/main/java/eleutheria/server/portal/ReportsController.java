package eleutheria.server.portal;

import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ReportId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Report;
import eleutheria.core.portal.ReportDecisions;
import eleutheria.server.apps.AppRef;
import eleutheria.server.directory.PersonLine;
import eleutheria.server.ledger.Acts;
import eleutheria.server.ledger.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Receipt;
import eleutheria.server.web.Refusal;
import eleutheria.server.web.Viewer;
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
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Problems with tiles: reported by who uses them, answered by who owns the application. */
@RestController
class ReportsController {
  private static final int MINE = 100;
  private static final int EARLIER = 20;

  private final World world;
  private final Acts acts;
  private final ReportStore store;

  ReportsController(World world, Acts acts, ReportStore store) {
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
    static ReportView of(PortalView whole, Report r) {
      Report.Answer answer = r.answer();
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

  record MyReports(List<ReportView> reports) {}

  @GetMapping("/api/my/reports")
  @Needs(signedIn = true)
  MyReports mine(Viewer viewer) {
    PortalView whole = world.whole();
    return new MyReports(
        store.of(viewer.person(), MINE).stream().map(r -> ReportView.of(whole, r)).toList());
  }

  @PostMapping("/api/my/reports")
  @Needs(signedIn = true)
  Receipt report(
      Viewer viewer,
      @Valid @RequestBody ReportForm form,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String repeatKey) {
    AtomicReference<Report> made = new AtomicReference<>();
    PersonId person = viewer.person();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            repeatKey,
            ReportId.class,
            moment ->
                id(
                    ReportDecisions.report(
                        moment,
                        store.nextNumber(),
                        person,
                        new TileId(form.tile()),
                        form.text(),
                        PageViews.shown(PortalView.at(moment), person),
                        store.of(person, Integer.MAX_VALUE)),
                    made),
            (tx, result, entry) -> ReportStore.save(tx, made.get())));
  }

  private static Outcome<ReportId> id(Outcome<Report> outcome, AtomicReference<Report> next) {
    return switch (outcome) {
      case Outcome.Refused<Report> refused -> Outcome.refused(refused.problems());
      case Outcome.Done<Report> done -> {
        next.set(done.result());
        yield Outcome.done(done.act(), done.edits(), done.result().id()).with(done.errands());
      }
    };
  }

  /**
   * One report, for who answers it.
   *
   * @param contact whom the tile says to call
   * @param reach how many people can open the tile
   * @param earlier others about the same tile, newest first
   */
  record ReportCase(
      ReportView report,
      PersonLine who,
      AppRef app,
      String tileId,
      String contact,
      int reach,
      List<ReportView> earlier,
      boolean mayAnswer) {}

  @GetMapping("/api/reports/{id}")
  @Needs(signedIn = true)
  ReportCase one(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    Report report =
        store
            .find(new ReportId(id))
            .filter(
                r ->
                    r.by().equals(viewer.person())
                        || r.mayBeAnsweredBy(whole.access(), viewer.authority()))
            .orElseThrow(() -> Refusal.of(Problem.absent("report")));
    boolean answers = report.mayBeAnsweredBy(whole.access(), viewer.authority());
    return new ReportCase(
        ReportView.of(whole, report),
        whole.directory().person(report.by()).map(PersonLine::of).orElseThrow(),
        whole.access().apps().application(report.app()).map(AppRef::of).orElseThrow(),
        report.tile().value().toString(),
        whole.tile(report.tile()).map(tile -> tile.face().contact()).orElse(""),
        answers ? whole.tile(report.tile()).map(tile -> whole.openers(tile).size()).orElse(0) : 0,
        answers
            ? store.about(report.tile(), EARLIER).stream()
                .filter(other -> !other.id().equals(report.id()))
                .map(other -> ReportView.of(whole, other))
                .toList()
            : List.of(),
        answers);
  }

  record AnswerReport(@NotNull @Size(max = 4000) String text) {}

  /** Answers a report; whoever made it takes it back by this. */
  @PostMapping("/api/reports/{id}/answer")
  @Needs(signedIn = true)
  Receipt answer(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody AnswerReport form) {
    AtomicReference<Report> next = new AtomicReference<>();
    return Receipt.of(
        acts.perform(
            viewer.actor(),
            null,
            ReportId.class,
            moment ->
                store
                    .find(new ReportId(id))
                    .map(r -> id(ReportDecisions.answer(moment, r, form.text()), next))
                    .orElseGet(() -> Outcome.refused(Problem.absent("report"))),
            (tx, result, entry) -> ReportStore.save(tx, next.get())));
  }
}
