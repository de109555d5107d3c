package eleutheria.server.letters;

import eleutheria.core.facts.FactValue;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** What emails look like as they arrive, for whoever sets the organisation's name and colours. */
@RestController
class LettersController {
  /** Nothing runs, loads or leads anywhere; it is shown within our own page alone. */
  private static final String POLICY =
      "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'; frame-ancestors 'self'; sandbox";

  private final Letters letters;
  private final World world;
  private final Organisation organisation;
  private final ServerSettings settings;
  private final Clock clock;

  LettersController(
      Letters letters,
      World world,
      Organisation organisation,
      ServerSettings settings,
      Clock clock) {
    this.letters = letters;
    this.world = world;
    this.organisation = organisation;
    this.settings = settings;
    this.clock = clock;
  }

  record LettersView(List<LetterLine> kinds) {}

  /**
   * @param kind a word of a few letters, for the address of the letter
   * @param title the kind in words
   */
  record LetterLine(String kind, String title, String subject) {}

  @GetMapping("/api/letters")
  @Needs(Power.PORTAL_BRAND)
  LettersView kinds() {
    return new LettersView(
        samples().stream()
            .map(one -> new LetterLine(one.kind(), one.title(), one.letter().subject()))
            .toList());
  }

  @GetMapping(value = "/api/letters/{kind}", produces = MediaType.TEXT_HTML_VALUE)
  @Needs(Power.PORTAL_BRAND)
  ResponseEntity<String> letter(Viewer viewer, @PathVariable String kind) {
    String name = world.now().person(viewer.person()).map(p -> p.name().greeted()).orElse("");
    return samples().stream()
        .filter(one -> one.kind().equals(kind))
        .findFirst()
        .map(
            one ->
                ResponseEntity.ok()
                    .header("Content-Security-Policy", POLICY)
                    .contentType(MediaType.TEXT_HTML)
                    .body(letters.html(name, one.letter(), mark())))
        .orElseThrow(() -> Refusal.of(Problem.absent("email")));
  }

  /** Where the page finds the mark that comes with an email. */
  private @Nullable String mark() {
    return letters.mark().isEmpty()
        ? null
        : "/api/pictures/"
            + world.whole().brand().mark().substring(FactValue.TileFace.UPLOADED.length());
  }

  private List<Kinds.Sample> samples() {
    return Kinds.samples(
        letters.organisation(),
        settings.baseAddress().toString(),
        LocalDate.ofInstant(clock.instant(), organisation.zone()));
  }
}
