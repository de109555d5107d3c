package eleutheria.server.suggestions;

import eleutheria.core.directory.NearWords;
import eleutheria.core.facts.FactValue;
import eleutheria.core.suggestions.Approved;
import eleutheria.core.suggestions.SelfService;
import eleutheria.server.state.World;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import java.util.List;
import java.util.Locale;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What one may bring oneself, and the approved list. */
@RestController
class MySelfServiceController {

  private final World world;

  MySelfServiceController(World world) {
    this.world = world;
  }

  private record Allowed(SelfService selfService, FactValue.SelfServiceLine rule) {}

  private Allowed allowed(Viewer viewer) {
    return world.look(
        (facts, now) -> {
          SelfService selfService = SelfService.at(facts, now.at());
          return new Allowed(selfService, selfService.of(viewer.person(), now::has));
        });
  }

  /**
   * What one may bring, and the approved list, or what of it fits.
   *
   * @param links nothing, approved or anything
   * @param suggest whether one may suggest apps
   * @param total how many entries fit
   * @param categories all kinds, each with how many entries it has
   */
  record MySelfService(
      String links,
      boolean suggest,
      int total,
      List<ListingLine> listings,
      List<CategoryCount> categories) {}

  record ListingLine(
      String id,
      String name,
      String address,
      String line,
      String category,
      String picture,
      String hue,
      List<String> keepers) {}

  record CategoryCount(String category, int entries) {}

  @GetMapping("/api/my/self-service")
  @Needs(signedIn = true)
  MySelfService selfService(
      Viewer viewer,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "") String category,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "60") int limit) {
    Allowed allowed = allowed(viewer);
    List<Approved.Entry> all = allowed.selfService().approved().entries();
    List<Approved.Entry> fitting =
        NearWords.find(
                all,
                find,
                entry ->
                    List.of(
                        entry.listing().name(),
                        entry.listing().line(),
                        entry.listing().category(),
                        entry.listing().address()))
            .stream()
            .filter(entry -> category.isEmpty() || entry.listing().category().equals(category))
            .toList();
    return new MySelfService(
        allowed.rule().links().name().toLowerCase(Locale.ROOT),
        allowed.rule().suggest(),
        fitting.size(),
        Pages.of(fitting.stream(), offset, limit).map(this::line).toList(),
        all.stream()
            .map(entry -> entry.listing().category())
            .distinct()
            .sorted()
            .map(
                each ->
                    new CategoryCount(
                        each,
                        (int)
                            all.stream()
                                .filter(entry -> entry.listing().category().equals(each))
                                .count()))
            .toList());
  }

  private ListingLine line(Approved.Entry entry) {
    FactValue.Listing listing = entry.listing();
    return new ListingLine(
        entry.id().value().toString(),
        listing.name(),
        listing.address(),
        listing.line(),
        listing.category(),
        listing.picture(),
        listing.hue(),
        world.now().owners(entry.id()).stream()
            .flatMap(owner -> world.now().person(owner).stream())
            .map(owner -> owner.name().displayed())
            .toList());
  }
}
