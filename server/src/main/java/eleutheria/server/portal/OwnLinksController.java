package eleutheria.server.portal;

import eleutheria.core.ledger.Problem;
import eleutheria.core.suggestions.OwnLink;
import eleutheria.core.suggestions.SelfService;
import eleutheria.server.problems.Refusal;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Links that one keeps for oneself. Nobody else is ever told of them. */
@RestController
class OwnLinksController {
  private final World world;
  private final OwnLinks links;
  private final OwnPortals portals;
  private final Clock clock;

  OwnLinksController(World world, OwnLinks links, OwnPortals portals, Clock clock) {
    this.world = world;
    this.links = links;
    this.portals = portals;
    this.clock = clock;
  }

  record LinkForm(
      @NotNull @Size(max = 500) String name,
      @NotNull @Size(max = 3000) String address,
      @NotNull @Size(max = 20) String picture,
      @NotNull @Size(max = 10) String hue) {}

  /** Nothing but that it is done. */
  record LinkSaved(String id) {}

  /** Keeps a link under an id that the asker has made, so that a repeat is harmless. */
  @PutMapping("/api/my/links/{id}")
  @Needs(signedIn = true)
  LinkSaved save(Viewer viewer, @PathVariable UUID id, @Valid @RequestBody LinkForm form) {
    OwnLink wanted =
        new OwnLink(id, form.name().strip(), form.address().strip(), form.picture(), form.hue());
    List<OwnLink> others =
        links.of(viewer.person()).stream().filter(link -> !link.id().equals(id)).toList();
    List<Problem> problems =
        world.look(
            (facts, now) -> {
              SelfService selfService = SelfService.at(facts, now.at());
              return OwnLink.problems(
                  wanted, others, selfService, selfService.of(viewer.person(), now::has));
            });
    if (!problems.isEmpty()) {
      throw new Refusal(problems);
    }
    links.save(viewer.person(), wanted, clock.instant());
    portals.touch(viewer.person());
    return new LinkSaved(id.toString());
  }

  @DeleteMapping("/api/my/links/{id}")
  @Needs(signedIn = true)
  LinkSaved remove(Viewer viewer, @PathVariable UUID id) {
    if (links.remove(viewer.person(), id)) {
      portals.touch(viewer.person());
    }
    return new LinkSaved(id.toString());
  }
}
