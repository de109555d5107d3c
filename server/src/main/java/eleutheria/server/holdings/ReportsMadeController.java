package eleutheria.server.holdings;

import eleutheria.core.access.Reading;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.LedgerChain;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Acts;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/**
 * Reports: the answer of a query as a file, streamed whatever its size. Each says of which moment
 * it is and where the ledger stood; it can be checked later whether the file is the one that was
 * given out, and whether what it says of holdings follows from the facts of that moment still.
 */
@RestController
class ReportsMadeController {
  private static final int MOST_LISTED = 200;
  private static final int BUFFER = 1 << 16;

  /** The longest file that is taken in to be checked, in bytes. */
  private static final long LONGEST_FILE = 2L << 30;

  private final World world;
  private final Acts acts;
  private final Answers answers;
  private final ReportsMade store;
  private final Specs specs;
  private final Organisation organisation;
  private final Clock clock;

  ReportsMadeController(
      World world,
      Acts acts,
      Answers answers,
      ReportsMade store,
      Specs specs,
      Organisation organisation,
      Clock clock) {
    this.world = world;
    this.acts = acts;
    this.answers = answers;
    this.store = store;
    this.specs = specs;
    this.organisation = organisation;
    this.clock = clock;
  }

  record TakeOutForm(
      @NotNull @Size(max = 120) String name,
      @NotNull @Valid SpecForm spec,
      @NotNull @Pattern(regexp = "csv|jsonl|pdf") String format) {}

  /**
   * A report that was given out.
   *
   * @param lines null where it was broken off
   * @param digest SHA-256 over what it says of holdings, in hexadecimal; null where it was broken
   *     off
   */
  record MadeView(
      long number,
      String name,
      String format,
      @Nullable PersonLine by,
      Instant at,
      Instant asOf,
      long position,
      @Nullable Long lines,
      @Nullable String digest) {}

  /**
   * What a check says.
   *
   * @param report null where no report is meant
   * @param file whether the file is the one that was given out; null where none was sent
   * @param ledger whether the entry it was made after stands in the ledger as it did
   * @param facts whether its holdings follow from the facts of that moment: yes, no, or not-proven
   *     where it tells what the facts do not keep
   * @param linesNow how many lines the query has, of that moment, today
   */
  record CheckView(
      @Nullable MadeView report,
      @Nullable Boolean file,
      boolean ledger,
      String facts,
      long linesNow) {}

  /** Downloads an answer as a file; each download is an act, recorded in the ledger. */
  @PostMapping("/api/reports-made")
  @Needs(signedIn = true, desk = true)
  ResponseEntity<StreamingResponseBody> take(Viewer viewer, @Valid @RequestBody TakeOutForm form) {
    Authority reader = viewer.authority();
    Answers.Prepared answer = answers.ready(reader, world.whole(), form.spec());
    String name = form.name().isBlank() ? "Holdings" : form.name().strip();
    Instant made = clock.instant().truncatedTo(ChronoUnit.MICROS);
    ReportsMade.Stood stood = store.stood(answer.at());
    // Of one moment and with its days worked out, so that it asks the same for ever.
    SpecForm fixed =
        form.spec()
            .fixed(answer.asked().asOf() == null ? answer.asked().at(answer.at()) : answer.asked());
    String spec = specs.write(fixed);
    long number = store.begin(viewer.person(), made, name, spec, form.format(), answer.at(), stood);
    acts.perform(
        viewer.actor(),
        null,
        Long.class,
        moment ->
            Outcome.done(
                Act.of(ActName.ACCESS_REPORT, viewer.person())
                    .with(
                        Map.of(
                            "report", number,
                            "format", form.format(),
                            "lines", answer.total(),
                            "query", LedgerChain.hash(spec))),
                List.of(),
                number));
    String maker = world.now().person(viewer.person()).map(p -> p.name().displayed()).orElse("");
    ReportFile.Head head =
        new ReportFile.Head(
            number,
            name,
            organisation.name(),
            maker,
            made,
            answer.at(),
            stood.position(),
            stood.hash(),
            spec,
            SpecWords.tell(
                specs.read(spec),
                world.whole().access().apps(),
                world
                    .now()
                    .words(p -> new Reading(viewer.authority(), world.now()).seesPerson(p.id())),
                organisation.zone()),
            answer.columns(),
            answer.total(),
            form.format().equals("pdf") ? answers.byUnit(answer) : Map.of());
    ReportFile shape = file(form.format(), OutputStream.nullOutputStream());
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType(shape.type()))
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"report-%d.%s\"".formatted(number, shape.ending()))
        .header("Report-Number", String.valueOf(number))
        .body(out -> write(viewer, answer, head, form.format(), out));
  }

  private ReportFile file(String format, OutputStream out) {
    return switch (format) {
      case "csv" -> new ReportFile.Csv(out);
      case "jsonl" -> new JsonLines(out);
      default -> new Pdf(out, organisation.zone());
    };
  }

  private void write(
      Viewer viewer, Answers.Prepared answer, ReportFile.Head head, String format, OutputStream out)
      throws IOException {
    MessageDigest bytes = sha256();
    MessageDigest proven = sha256();
    long[] lines = {0};
    OutputStream counted = new DigestOutputStream(new BufferedOutputStream(out, BUFFER), bytes);
    ReportFile file = file(format, counted);
    file.begin(head);
    answers.each(
        answer,
        0,
        Long.MAX_VALUE,
        line -> {
          file.line(line.values());
          prove(proven, line);
          lines[0]++;
          return true;
        });
    String digest = HexFormat.of().formatHex(proven.digest());
    file.end(lines[0], digest);
    counted.flush();
    String whole = HexFormat.of().formatHex(bytes.digest());
    acts.perform(
        viewer.actor(),
        null,
        Long.class,
        moment ->
            Outcome.done(
                Act.of(ActName.ACCESS_REPORT_MADE, viewer.person())
                    .with(
                        Map.of(
                            "report",
                            head.number(),
                            "lines",
                            lines[0],
                            "digest",
                            digest,
                            "file",
                            whole)),
                List.of(),
                head.number()),
        (tx, result, entry) -> ReportsMade.finish(tx, head.number(), lines[0], digest, whole));
  }

  private static void prove(MessageDigest digest, Answers.Line line) {
    digest.update(line.proven().getBytes(StandardCharsets.UTF_8));
    digest.update((byte) '\n');
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  // ---- checking

  /** Those that one may check: one's own, and with {@code ledger.read} everybody's. */
  @GetMapping("/api/reports-made")
  @Needs(signedIn = true, desk = true)
  List<MadeView> made(Viewer viewer) {
    boolean all = viewer.authority().hasEverywhere(Power.LEDGER_READ);
    return store.newest(all ? null : viewer.person(), MOST_LISTED).stream()
        .map(this::view)
        .toList();
  }

  private MadeView view(ReportsMade.Made made) {
    return new MadeView(
        made.number(),
        made.name(),
        made.format(),
        world.now().person(made.by()).map(PersonLine::named).orElse(null),
        made.at(),
        made.asOf(),
        made.position(),
        made.lines(),
        made.digest());
  }

  /** Checks a report by its number, without its file. */
  @PostMapping("/api/reports-made/{number}/check")
  @Needs(signedIn = true, desk = true)
  CheckView check(Viewer viewer, @PathVariable long number) {
    return checked(
        store
            .find(number)
            .filter(made -> mayCheck(viewer, made))
            .orElseThrow(() -> Refusal.of(Problem.absent("report"))),
        null);
  }

  private static boolean mayCheck(Viewer viewer, ReportsMade.Made made) {
    return made.by().equals(viewer.person()) || viewer.authority().hasEverywhere(Power.LEDGER_READ);
  }

  /** Checks a file: the body, as it is; only its hash is looked at. */
  @PostMapping(value = "/api/reports-made/check", consumes = "application/octet-stream")
  @Needs(signedIn = true, desk = true)
  CheckView checkFile(Viewer viewer, InputStream body) throws IOException {
    MessageDigest digest = sha256();
    byte[] buffer = new byte[BUFFER];
    long read = 0;
    for (int n = body.read(buffer); n >= 0; n = body.read(buffer)) {
      read += n;
      if (read > LONGEST_FILE) {
        throw Refusal.invalid(
            "report.too-long", "file", "The file is too large to check; at most 2 GiB.");
      }
      digest.update(buffer, 0, n);
    }
    String found = HexFormat.of().formatHex(digest.digest());
    return store
        .byFile(found)
        .filter(made -> mayCheck(viewer, made))
        .map(made -> checked(made, true))
        .orElseGet(() -> new CheckView(null, false, false, "not-proven", 0));
  }

  private CheckView checked(ReportsMade.Made made, @Nullable Boolean file) {
    boolean stands = made.position() > 0 && store.hash(made.position()).equals(made.entryHash());
    SpecForm spec = specs.read(made.spec());
    AskedForm asked = spec.asked();
    if (made.lines() == null || made.digest() == null) {
      return new CheckView(view(made), file, stands, "not-proven", 0);
    }
    if (asked.only("unused") || asked.only("ending")) {
      // When something was used, and what was to end by itself, is not in the facts of a moment.
      return new CheckView(view(made), file, stands, "not-proven", made.lines());
    }
    PortalView then = world.whole(made.at());
    PersonId maker = made.by();
    Answers.Prepared again = answers.ready(then.directory().authority(maker), then, spec);
    MessageDigest digest = sha256();
    long[] lines = {0};
    try {
      answers.each(
          again,
          0,
          Long.MAX_VALUE,
          line -> {
            prove(digest, line);
            lines[0]++;
            return true;
          });
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    boolean same =
        lines[0] == made.lines() && HexFormat.of().formatHex(digest.digest()).equals(made.digest());
    return new CheckView(view(made), file, stands, same ? "yes" : "no", lines[0]);
  }
}
