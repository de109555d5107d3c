package eleutheria.server.portal;

import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.portal.Endings;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.OwnPortal;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tidings;
import eleutheria.core.portal.Tile;
import eleutheria.core.requests.Deciders;
import eleutheria.core.requests.Wish;
import eleutheria.server.refs.EntitlementRef;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** A person's front page as it is sent: to themselves, and to whoever looks at its preview. */
final class PageViews {
  private PageViews() {}

  /**
   * @param notice what is told at its head; empty for nothing
   * @param ends what the person holds and loses by itself soon
   * @param waiting how many of one's own requests wait for a decision
   * @param whom whom to ask where nothing is shown: the person's manager; empty if none
   * @param recent tiles that the person has opened lately, the last one first
   * @param own how they have set it up; null in a preview, where that is nobody else's business
   */
  record PageView(
      String notice,
      List<SectionView> sections,
      List<EndNotice> ends,
      int waiting,
      String whom,
      List<String> recent,
      @Nullable OwnView own) {}

  /**
   * @param pinned ids of tiles, in their order
   * @param hidden ids of collections
   * @param forms how tiles are drawn, by kind of device: phone, wide
   * @param hushed notices that have been read, by their words
   * @param tips those that have been seen
   * @param links of their own, that nobody else is told of
   */
  record OwnView(
      List<String> pinned,
      List<String> hidden,
      Map<String, String> forms,
      List<String> hushed,
      List<String> tips,
      List<OwnLinkView> links) {}

  /**
   * @param allowed whether who may keep links and suggest apps lets it open still
   */
  record OwnLinkView(
      String id, String name, String address, String picture, String hue, boolean allowed) {}

  static OwnView own(OwnPortal own, List<OwnLinkView> links) {
    Map<String, String> forms = new LinkedHashMap<>();
    own.forms().forEach((device, form) -> forms.put(OwnPortals.word(device), form));
    return new OwnView(
        own.pinned().stream().map(tile -> tile.value().toString()).toList(),
        own.hidden().stream().map(collection -> collection.value().toString()).toList(),
        forms,
        List.copyOf(own.hushed()),
        own.tips().stream().map(OwnPortals::word).toList(),
        links);
  }

  /**
   * @param id null for what is held and lies in no collection that is shown
   */
  record SectionView(@Nullable String id, String name, String line, List<TileView> tiles) {}

  /**
   * @param offered what to ask for, where it is not held; null where it opens
   * @param contact whom to call
   * @param whom the owners of its application, by name
   * @param apart whether it opens in a window of its own
   * @param app what its application is called
   * @param nicknames what people call it besides
   * @param tidings new, changed, or nothing
   * @param ends when it can no longer be opened, if that is soon
   */
  record TileView(
      String id,
      String name,
      String line,
      String picture,
      String hue,
      @Nullable String offered,
      String contact,
      List<String> whom,
      boolean apart,
      String app,
      List<String> nicknames,
      String tidings,
      @Nullable Instant ends) {}

  /**
   * Something that is held and ends soon.
   *
   * @param word by which it is hushed
   * @param stays what stays of the same application
   * @param goes names of the tiles that go with it
   * @param askable whether one could ask to keep it
   */
  record EndNotice(
      String word,
      EntitlementRef entitlement,
      Instant until,
      List<String> stays,
      List<String> goes,
      boolean askable) {
    static EndNotice of(PortalView whole, Endings.Ending ending) {
      return new EndNotice(
          ending.word(),
          EntitlementRef.of(whole.access().apps(), ending.entitlement()),
          ending.until(),
          ending.stays().stream().map(Entitlement::title).toList(),
          ending.goes().stream().map(Tile::name).toList(),
          ending.askable());
    }
  }

  /**
   * What only the person is told.
   *
   * @param tidings of a tile that can be opened
   */
  record Own(
      List<EndNotice> ends,
      int waiting,
      List<String> recent,
      @Nullable OwnView view,
      Function<Tile, Tidings> tidings) {
    static final Own NONE = new Own(List.of(), 0, List.of(), null, tile -> Tidings.NONE);
  }

  static FrontPage shown(PortalView whole, PersonId person) {
    return whole.visible(
        person,
        (asker, entitlement) -> Deciders.resolves(whole.access(), Wish.own(asker, entitlement)));
  }

  static PageView of(PortalView whole, PersonId person, FrontPage page, Own own) {
    List<SectionView> sections = new ArrayList<>();
    for (FrontPage.Section section : page.sections()) {
      CollectionId id = section.collection();
      sections.add(
          new SectionView(
              id == null ? null : id.value().toString(),
              section.name(),
              section.line(),
              section.tiles().stream().map(shown -> tile(whole, shown, own)).toList()));
    }
    return new PageView(
        page.page().notice(),
        sections,
        own.ends(),
        own.waiting(),
        whole
            .directory()
            .manager(person)
            .flatMap(manager -> whole.directory().person(manager))
            .map(manager -> manager.name().displayed())
            .orElse(""),
        own.recent(),
        own.view());
  }

  /** Whom to ask about an application, by name. */
  static List<String> whom(PortalView whole, Application app) {
    return app.owners().stream()
        .flatMap(owner -> whole.directory().person(owner).stream())
        .map(owner -> owner.name().displayed())
        .toList();
  }

  private static TileView tile(PortalView whole, FrontPage.Shown shown, Own own) {
    Tile tile = shown.tile();
    FactValue.TileFace face = tile.face();
    Application app = whole.access().apps().application(face.application()).orElseThrow();
    Tidings tidings = shown.offered() ? Tidings.NONE : own.tidings().apply(tile);
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
        face.contact().isEmpty() ? app.profile().contact() : face.contact(),
        whom(whole, app),
        face.apart(),
        app.name(),
        app.profile().nicknames(),
        tidings.isNew() ? "new" : tidings.changed() ? "changed" : "",
        tidings.ends());
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
