package eleutheria.server.portal;

import eleutheria.core.apps.Application;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.core.requests.Deciders;
import eleutheria.server.apps.EntitlementRef;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A person's front page as it is sent: to themselves, and to whoever looks at its proof. */
final class PageViews {
  private PageViews() {}

  /**
   * @param notice what is told at its head; empty for nothing
   * @param ends what the person holds and loses by itself soon
   * @param waiting how many of one's own requests wait for a decision
   * @param whom whom to ask where nothing is shown: the person's manager; empty if none
   */
  record PageView(
      String notice, List<SectionView> sections, List<EndNotice> ends, int waiting, String whom) {}

  /**
   * @param id null for what is held and lies in no collection that is shown
   */
  record SectionView(@Nullable String id, String name, String line, List<TileView> tiles) {}

  /**
   * @param offered what to ask for, where it is not held; null where it opens
   * @param contact whom to call
   * @param apart whether it opens in a window of its own
   */
  record TileView(
      String id,
      String name,
      String line,
      String picture,
      String hue,
      @Nullable String offered,
      String contact,
      boolean apart) {}

  /** Something that was asked for and ends soon. */
  record EndNotice(EntitlementRef entitlement, Instant until) {}

  static FrontPage shown(PortalView whole, PersonId person) {
    return whole.visible(
        person, (asker, entitlement) -> Deciders.resolves(whole.access(), asker, entitlement));
  }

  static PageView of(
      PortalView whole, PersonId person, FrontPage page, List<EndNotice> ends, int waiting) {
    List<SectionView> sections = new ArrayList<>();
    for (FrontPage.Section section : page.sections()) {
      CollectionId id = section.collection();
      sections.add(
          new SectionView(
              id == null ? null : id.value().toString(),
              section.name(),
              section.line(),
              section.tiles().stream().map(shown -> tile(whole, shown)).toList()));
    }
    return new PageView(
        page.page().notice(),
        sections,
        ends,
        waiting,
        whole
            .directory()
            .manager(person)
            .flatMap(manager -> whole.directory().person(manager))
            .map(manager -> manager.name().displayed())
            .orElse(""));
  }

  private static TileView tile(PortalView whole, FrontPage.Shown shown) {
    Tile tile = shown.tile();
    FactValue.TileFace face = tile.face();
    return new TileView(
        tile.id().value().toString(),
        tile.name(),
        face.line(),
        face.picture(),
        face.hue(),
        shown.offered()
            ? whole.needs(tile).stream()
                .filter(e -> e.role().requestable())
                .findFirst()
                .map(e -> e.id().value().toString())
                .orElse(null)
            : null,
        face.contact().isEmpty()
            ? whole
                .access()
                .apps()
                .application(face.application())
                .map(a -> a.profile().contact())
                .orElse("")
            : face.contact(),
        face.apart());
  }

  /** Where a tile leads: its own address, or its application's link. */
  static Optional<String> address(PortalView whole, Tile tile) {
    return tile.face().address().isEmpty()
        ? whole.access().apps().application(tile.face().application()).flatMap(PageViews::address)
        : Optional.of(tile.face().address());
  }

  private static Optional<String> address(Application app) {
    return app.wayIn() instanceof FactValue.WayIn.Link link
        ? Optional.of(link.address())
        : Optional.empty();
  }
}
