package eleutheria.server.portal;

import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.FrontPageDecisions;
import eleutheria.core.portal.Page;
import eleutheria.core.portal.Placing;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.World;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Front pages: which collections an audience meets, in which order. */
@RestController
class FrontPagesController {
  private final Commands commands;
  private final World world;
  private final FrontSeen seen;

  FrontPagesController(Commands commands, World world, FrontSeen seen) {
    this.commands = commands;
    this.world = world;
    this.seen = seen;
  }

  /**
   * @param from the day on which it begins, in the organisation's zone; null for at once
   */
  record WaveForm(@NotNull @Valid AudienceView.AudienceForm audience, @Nullable LocalDate from) {}

  /**
   * @param from its first day; null for at once
   * @param until its last day; null for until it is taken away
   */
  record NoticeForm(
      @NotNull @Size(max = 1000) String text,
      @Nullable LocalDate from,
      @Nullable LocalDate until) {}

  /**
   * @param only whether collections that it does not name are left out
   * @param waves none for everyone of its audience at once
   */
  record FrontPageForm(
      @NotNull @Size(max = 500) String name,
      boolean only,
      @NotNull @Valid AudienceView.AudienceForm audience,
      @NotNull @Size(max = 100) List<@Valid WaveForm> waves,
      @Nullable @Valid NoticeForm notice) {
    FrontPageDecisions.Terms terms() {
      return new FrontPageDecisions.Terms(
          name.strip(),
          only,
          audience.audience(),
          waves.stream()
              .map(w -> new FrontPageDecisions.Wave(w.audience().audience(), w.from()))
              .toList(),
          notice == null
              ? null
              : new FrontPageDecisions.Notice(
                  notice.text().strip(), notice.from(), notice.until()));
    }
  }

  record ChangeFrontPage(
      @NotNull @Valid FrontPageForm base, @NotNull @Valid FrontPageForm wanted) {}

  /**
   * @param base its rank on the page as it was seen; null if it was not named there
   * @param off whether it is taken off; it follows by name then, unless only named ones are shown
   * @param after behind which collection; null for the first place
   */
  record CollectionMove(
      @NotNull UUID collection,
      @Nullable @Size(max = 60) String base,
      boolean off,
      @Nullable UUID after) {
    Placing<CollectionId, String> placing() {
      return new Placing<>(
          new CollectionId(collection),
          base,
          off ? null : new Placing.Spot<>(after == null ? null : new CollectionId(after), false));
    }
  }

  record MoveCollections(@NotNull @Size(min = 1, max = 500) List<@Valid CollectionMove> moves) {}

  /**
   * @param base its rank as it was seen
   * @param after behind which page; null for the first place
   */
  record MoveFrontPage(@NotNull @Size(max = 60) String base, @Nullable UUID after) {}

  /**
   * @param seen how many of those who meet it have met it since it was changed last
   * @param of how many meet it
   * @param since when that was
   */
  record SeenView(int seen, int of, Instant since) {}

  @GetMapping("/api/front-pages/{id}/seen")
  @Needs(Power.PORTAL_ARRANGE)
  SeenView seen(Viewer viewer, @PathVariable UUID id) {
    PortalView whole = world.whole();
    Page page =
        whole
            .page(new FrontPageId(id))
            .filter(p -> viewer.authority().hasEverywhere(Power.PORTAL_ARRANGE))
            .orElseThrow(() -> Refusal.of(Problem.absent("front-page")));
    Set<PersonId> people = whole.meets().getOrDefault(page.id(), Set.of());
    return new SeenView(seen.seen(page, people), people.size(), page.changed());
  }

  @PostMapping("/api/front-pages")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt make(Viewer viewer, @Valid @RequestBody FrontPageForm form, IdempotencyKey repeatKey) {
    return commands.perform(
        viewer,
        repeatKey.value(),
        FrontPageId.class,
        moment -> FrontPageDecisions.make(moment, form.terms()));
  }

  @PutMapping("/api/front-pages/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt change(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ChangeFrontPage form) {
    return commands.perform(
        viewer,
        null,
        FrontPageId.class,
        moment ->
            FrontPageDecisions.change(
                moment, new FrontPageId(id), form.base().terms(), form.wanted().terms()));
  }

  @PutMapping("/api/front-pages/{id}/collections")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt arrange(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody MoveCollections form) {
    return commands.perform(
        viewer,
        null,
        FrontPageId.class,
        moment ->
            FrontPageDecisions.arrange(
                moment,
                new FrontPageId(id),
                form.moves().stream().map(CollectionMove::placing).toList()));
  }

  @PutMapping("/api/front-pages/{id}/place")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt move(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody MoveFrontPage form) {
    UUID after = form.after();
    return commands.perform(
        viewer,
        null,
        FrontPageId.class,
        moment ->
            FrontPageDecisions.move(
                moment,
                new FrontPageId(id),
                form.base(),
                after == null ? null : new FrontPageId(after)));
  }

  @DeleteMapping("/api/front-pages/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt end(Viewer viewer, @PathVariable UUID id) {
    return commands.perform(
        viewer,
        null,
        FrontPageId.class,
        moment -> FrontPageDecisions.end(moment, new FrontPageId(id)));
  }
}
