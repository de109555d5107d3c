package eleutheria.server.portal;

import eleutheria.core.apps.WebAddress;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.TileDecisions;
import eleutheria.server.egress.Egress;
import eleutheria.server.pictures.PictureStore;
import eleutheria.server.problems.Refusal;
import eleutheria.server.web.IdempotencyKey;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import eleutheria.server.writing.Commands;
import eleutheria.server.writing.Receipt;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.net.URI;
import java.time.LocalDate;
import java.util.List;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Tiles: made, changed, ended. */
@RestController
class TilesController {
  private final Commands commands;
  private final PictureStore pictures;
  private final Egress egress;

  TilesController(Commands commands, PictureStore pictures, Egress egress) {
    this.commands = commands;
    this.pictures = pictures;
    this.egress = egress;
  }

  /**
   * @param picture a word of the set that ships, or {@code own:} and the hash of an uploaded one
   * @param needs holding any of these shows it; none, and its audience counts
   * @param address where it leads (http or https); empty for the application's own way in
   * @param contact whom to call; empty for whom the application names
   * @param apart whether it opens in a window of its own
   * @param audience who sees it where it needs nothing
   * @param from its first day in the organisation's zone; null for at once
   * @param until its last day; null for no end
   */
  record TileForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 1000) String line,
      @NotNull @Size(max = 70) String picture,
      @NotNull @Size(max = 10) String hue,
      @NotNull UUID application,
      @NotNull @Size(max = 200) List<UUID> needs,
      @NotNull @Size(max = 3000) String address,
      @NotNull @Size(max = 1000) String contact,
      boolean apart,
      @NotNull @Valid AudienceView.AudienceForm audience,
      @Nullable LocalDate from,
      @Nullable LocalDate until) {
    TileDecisions.Terms terms() {
      SortedSet<EntitlementId> all = new TreeSet<>();
      needs.forEach(e -> all.add(new EntitlementId(e)));
      return new TileDecisions.Terms(
          new FactValue.TileFace(
              name.strip(),
              line.strip(),
              picture,
              hue,
              new ApplicationId(application),
              all,
              address.strip(),
              contact.strip(),
              apart,
              false),
          audience.audience(),
          from,
          until);
    }
  }

  record ChangeTile(@NotNull @Valid TileForm base, @NotNull @Valid TileForm wanted) {}

  @PostMapping("/api/tiles")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt make(Viewer viewer, @Valid @RequestBody TileForm form, IdempotencyKey repeatKey) {
    pictures.demand(form.picture(), "picture");
    return commands.perform(
        viewer,
        repeatKey.value(),
        TileId.class,
        moment -> TileDecisions.make(moment, form.terms()));
  }

  @PutMapping("/api/tiles/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt change(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody ChangeTile form) {
    pictures.demand(form.wanted().picture(), "picture");
    return commands.perform(
        viewer,
        null,
        TileId.class,
        moment ->
            TileDecisions.change(
                moment, new TileId(id), form.base().terms(), form.wanted().terms()));
  }

  @DeleteMapping("/api/tiles/{id}")
  @Needs(value = Power.PORTAL_ARRANGE, foresees = true)
  Receipt end(Viewer viewer, @PathVariable UUID id) {
    return commands.perform(
        viewer, null, TileId.class, moment -> TileDecisions.end(moment, new TileId(id)));
  }

  record TryForm(@NotNull @Size(max = 3000) String address) {}

  /**
   * Fetches an address once, because somebody who arranges the portal has asked for it.
   *
   * @see Egress
   */
  @PostMapping("/api/tiles/try")
  @Needs(Power.PORTAL_ARRANGE)
  Egress.Response tryIt(Viewer viewer, @Valid @RequestBody TryForm form) {
    List<Problem> problems = WebAddress.problems("address", form.address());
    if (!problems.isEmpty()) {
      throw Refusal.of(problems.getFirst());
    }
    return egress.fetch(URI.create(form.address().strip()));
  }
}
