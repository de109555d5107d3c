package eleutheria.server.drafts;

import eleutheria.core.drafts.Draft;
import eleutheria.core.drafts.DraftDecisions;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.ledger.LedgerReader;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.ConsequencesView;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Drafts. Every command that is sent with the header {@code Draft} is gathered in that draft
 * instead of being done.
 */
@RestController
class DraftsController {

  private final DraftReader reader;
  private final DraftActs acts;
  private final World world;
  private final LedgerReader ledger;
  private final Organisation organisation;

  DraftsController(
      DraftReader reader,
      DraftActs acts,
      World world,
      LedgerReader ledger,
      Organisation organisation) {
    this.reader = reader;
    this.acts = acts;
    this.world = world;
    this.ledger = ledger;
    this.organisation = organisation;
  }

  record NameForm(@NotNull @Size(max = 200) String name) {}

  record DescribeForm(@NotNull @Size(max = 200) String name, boolean shared) {}

  record TextForm(@NotNull @Size(max = 1000) String text) {}

  record GatherForm(boolean gathers) {}

  /**
   * @param day on which it is published, in the organisation's zone; null for at once
   * @param hour at which, hh:mm; null for the start of the day
   * @param revertOn the day at whose start it is reverted; null if it is not
   * @param tell whether those who gain or lose get a mail when it is published
   * @param ahead whether they get one as soon as it is set for its day
   * @param digest of the consequences that were seen
   */
  record PublishForm(
      @NotNull @Size(max = 1000) String reason,
      @Nullable LocalDate day,
      @Nullable LocalTime hour,
      @Nullable LocalDate revertOn,
      boolean tell,
      @Nullable Boolean ahead,
      @NotNull @Size(max = 64) String digest) {}

  // ---- reading

  @GetMapping("/api/drafts")
  @Needs(signedIn = true, desk = true)
  DraftViews.Tray tray(Viewer viewer) {
    return reader.tray(viewer);
  }

  @GetMapping("/api/drafts/{id}")
  @Needs(signedIn = true, desk = true)
  DraftViews.DraftView draft(Viewer viewer, @PathVariable UUID id) {
    return reader.draft(viewer, reader.seen(viewer, id));
  }

  /**
   * What exactly it would do.
   *
   * @param seen the digest of what the reader has seen before, to tell what has grown
   */
  @GetMapping("/api/drafts/{id}/consequences")
  @Needs(signedIn = true, desk = true)
  ConsequencesView consequences(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Size(max = 64) @Nullable String seen) {
    return reader.consequences(viewer, reader.seen(viewer, id), seen);
  }

  /**
   * Everyone behind one count.
   *
   * @param at the moment that is counted; absent for the publishing
   */
  @GetMapping("/api/drafts/{id}/consequences/people")
  @Needs(signedIn = true, desk = true)
  DraftViews.PeopleView people(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam String sign,
      @RequestParam(defaultValue = "") String kind,
      @RequestParam(required = false) @Nullable UUID thing,
      @RequestParam(defaultValue = "") @Size(max = 200) String find,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit) {
    return reader.people(
        viewer,
        reader.seen(viewer, id),
        at,
        sign,
        thing(kind, thing),
        find,
        offset,
        Pages.size(limit));
  }

  private static @Nullable ObjectId thing(String kind, @Nullable UUID id) {
    return id == null ? null : ObjectId.of(ObjectKind.of(kind), id);
  }

  // ---- working on one

  @PostMapping("/api/drafts")
  @Needs(drafts = true)
  Receipt open(Viewer viewer, @Valid @RequestBody NameForm form) {
    return Receipt.gathered(world.position(), acts.open(viewer, form.name()), 0);
  }

  @PutMapping("/api/drafts/{id}")
  @Needs(signedIn = true, desk = true)
  Receipt describe(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody DescribeForm form) {
    return told(acts.describe(viewer, id, form.name(), form.shared()));
  }

  /** Whether the draft gathers what the viewer does from now on. */
  @PutMapping("/api/drafts/{id}/gathers")
  @Needs(signedIn = true, desk = true)
  Receipt gather(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody GatherForm form) {
    return told(acts.gather(viewer, id, form.gathers()));
  }

  @PostMapping("/api/drafts/{id}/holder")
  @Needs(drafts = true)
  Receipt takeOver(Viewer viewer, @PathVariable UUID id) {
    return told(acts.takeOver(viewer, id));
  }

  @DeleteMapping("/api/drafts/{id}")
  @Needs(signedIn = true, desk = true)
  Receipt drop(Viewer viewer, @PathVariable UUID id) {
    return told(acts.drop(viewer, id));
  }

  @DeleteMapping("/api/drafts/{id}/edits/{seq}")
  @Needs(signedIn = true, desk = true)
  Receipt undo(Viewer viewer, @PathVariable UUID id, @PathVariable int seq) {
    return told(acts.undo(viewer, id, seq));
  }

  @PostMapping("/api/drafts/{id}/comments")
  @Needs(signedIn = true, desk = true)
  Receipt comment(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody TextForm form) {
    return told(acts.comment(viewer, id, form.text()));
  }

  private Receipt told(long version) {
    return Receipt.gathered(world.position(), version, 0);
  }

  // ---- publishing

  /** Publishes at once, or sets it for a moment. Of one that waits for a yes, this is the yes. */
  @PostMapping("/api/drafts/{id}/publish")
  @Needs(signedIn = true, desk = true)
  Receipt publish(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody PublishForm form,
      IdempotencyKey repeatKey) {
    DraftActs.Wish wish = wish(form);
    return Receipt.of(
        wish.at() == null
            ? acts.publish(viewer, id, repeatKey.value(), wish)
            : acts.schedule(viewer, id, repeatKey.value(), wish));
  }

  private DraftActs.Wish wish(PublishForm form) {
    Instant at =
        form.day() == null
            ? null
            : form.day()
                .atTime(form.hour() == null ? LocalTime.MIDNIGHT : form.hour())
                .atZone(organisation.zone())
                .toInstant();
    return new DraftActs.Wish(
        form.reason().strip(),
        at,
        form.revertOn() == null ? null : Moments.startOf(form.revertOn(), organisation.zone()),
        form.tell(),
        Boolean.TRUE.equals(form.ahead()),
        form.digest());
  }

  /** Asks for a second person's yes. */
  @PostMapping("/api/drafts/{id}/ask")
  @Needs(signedIn = true, desk = true)
  Receipt ask(
      Viewer viewer,
      @PathVariable UUID id,
      @Valid @RequestBody PublishForm form,
      IdempotencyKey repeatKey) {
    return Receipt.of(acts.ask(viewer, id, repeatKey.value(), wish(form)));
  }

  /** Takes back one that waits or is set for a moment; of one that waits for a yes, the no. */
  @PostMapping("/api/drafts/{id}/reopen")
  @Needs(signedIn = true, desk = true)
  Receipt reopen(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody TextForm form) {
    return Receipt.of(acts.reopen(viewer, id, form.text()));
  }

  /** Opens a draft that reverts what this one has changed. */
  @PostMapping("/api/drafts/{id}/revert")
  @Needs(drafts = true)
  Receipt revert(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody NameForm form) {
    Draft draft = reader.seen(viewer, id);
    if (draft.position() == null) {
      throw Refusal.of(Problem.stale("", "Only a published draft can be reverted."));
    }
    DraftId made = acts.revert(viewer, draft.position(), form.name());
    return Receipt.gathered(world.position(), made, 0);
  }

  /** Opens a draft that reverts what any entry of the ledger has changed. */
  @PostMapping("/api/ledger/{position}/revert")
  @Needs(Power.LEDGER_READ)
  Receipt revertEntry(
      Viewer viewer, @PathVariable long position, @Valid @RequestBody NameForm form) {
    LedgerReader.EntryLine entry =
        ledger.line(viewer, position).orElseThrow(() -> Refusal.of(Problem.absent("entry")));
    if (entry.changes() == 0) {
      throw Refusal.invalid("draft.nothing", "", "This entry has changed nothing.");
    }
    if (!DraftDecisions.works(viewer.authority())) {
      throw Refusal.of(
          Problem.forbidden("power", "This needs the power to change what it reverts."));
    }
    return Receipt.gathered(world.position(), acts.revert(viewer, position, form.name()), 0);
  }
}
