package eleutheria.server.ledger;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.LedgerHead;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** The record of all acts: read, searched, checked, exported. */
@RestController
class LedgerController {
  /** So many of the newest entries about a person are told with the person. */
  private static final int MOST_HISTORY = 200;

  private final LedgerReader reader;
  private final LedgerTrust trust;
  private final LedgerExport export;
  private final LedgerKey key;
  private final Acts acts;
  private final World world;
  private final Organisation organisation;

  LedgerController(
      LedgerReader reader,
      LedgerTrust trust,
      LedgerExport export,
      LedgerKey key,
      Acts acts,
      World world,
      Organisation organisation) {
    this.reader = reader;
    this.trust = trust;
    this.export = export;
    this.key = key;
    this.acts = acts;
    this.world = world;
    this.organisation = organisation;
  }

  /**
   * @param limited whether entries outside the reader's reach are left out
   */
  record LedgerPage(List<LedgerReader.EntryLine> lines, boolean limited, long position) {}

  record EntryPage(LedgerReader.EntryLine entry, List<LedgerReader.ChangeLine> changes) {}

  record HistoryLine(
      long position,
      Instant instant,
      String actorName,
      ActName act,
      @Nullable String reason,
      List<LedgerReader.ChangeLine> changes) {}

  /**
   * @param find a position, or a part of a name, an act or a reason
   * @param before entries before this position; the newest if absent
   */
  @GetMapping("/api/ledger")
  @Needs(Power.LEDGER_READ)
  LedgerPage ledger(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(required = false) @Nullable ActName act,
      @RequestParam(required = false) @Nullable UUID object,
      @RequestParam(required = false) @Nullable UUID actor,
      @RequestParam(required = false) @Nullable LocalDate from,
      @RequestParam(required = false) @Nullable LocalDate until,
      @RequestParam(required = false) @Nullable Long before,
      @RequestParam(defaultValue = "50") int limit) {
    return new LedgerPage(
        reader.lines(
            viewer,
            new LedgerReader.Query(
                find,
                act,
                object,
                actor,
                from == null ? null : Moments.startOf(from, organisation.zone()),
                until == null ? null : Moments.endOf(until, organisation.zone())),
            before == null ? Long.MAX_VALUE : before,
            Pages.size(limit),
            line -> true),
        viewer.authority().units(Power.LEDGER_READ) != null,
        world.position());
  }

  @GetMapping("/api/ledger/{position}")
  @Needs(Power.LEDGER_READ)
  EntryPage entry(
      Viewer viewer,
      @PathVariable long position,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit) {
    LedgerReader.EntryLine line =
        reader.line(viewer, position).orElseThrow(() -> Refusal.of(Problem.absent("entry")));
    return new EntryPage(line, reader.changes(position, Pages.from(offset), Pages.size(limit)));
  }

  /** What happened to a person, newest first; for whoever may see the person. */
  @GetMapping("/api/people/{id}/history")
  @Needs(Power.PEOPLE_READ)
  List<HistoryLine> history(Viewer viewer, @PathVariable UUID id) {
    boolean seen =
        world
            .now()
            .person(new PersonId(id))
            .filter(p -> viewer.authority().reaches(Power.PEOPLE_READ, p.value(Attributes.UNIT)))
            .isPresent();
    if (!seen) {
      throw Refusal.of(Problem.absent("person"));
    }
    return reader.history(viewer, new PersonId(id), MOST_HISTORY);
  }

  @PostMapping("/api/ledger/check")
  @Needs(Power.LEDGER_READ)
  LedgerCheck.Checked check(Viewer viewer) {
    if (!viewer.authority().hasEverywhere(Power.LEDGER_READ)) {
      throw Refusal.of(
          Problem.forbidden("reach", "Checking the chain needs “ledger.read” without limits."));
    }
    return trust.check();
  }

  /** The public key with which an export is verified. */
  @GetMapping(value = "/api/ledger/key", produces = MediaType.TEXT_PLAIN_VALUE)
  @Needs(Power.LEDGER_READ)
  String key() {
    return key.publicPem();
  }

  /** Takes the ledger out as JSON Lines; taking it out is an act itself, and stands in it. */
  @PostMapping(value = "/api/ledger/export", produces = "application/jsonl")
  @Needs(value = Power.LEDGER_EXPORT, fresh = true)
  ResponseEntity<StreamingResponseBody> export(Viewer viewer) {
    acts.perform(
        viewer.actor(),
        null,
        Integer.class,
        moment ->
            moment.authority().hasEverywhere(Power.LEDGER_EXPORT)
                ? Outcome.done(Act.of(ActName.LEDGER_EXPORT), List.of(), 0)
                : Outcome.refused(
                    Problem.forbidden(
                        "reach", "Exporting the ledger needs “ledger.export” without limits.")));
    LedgerHead head = export.head();
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType("application/jsonl"))
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"ledger-" + head.position() + ".jsonl\"")
        .body(out -> export.write(head, out));
  }
}
