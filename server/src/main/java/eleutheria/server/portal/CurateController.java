package eleutheria.server.portal;

import eleutheria.core.access.People;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.Collection;
import eleutheria.core.portal.FrontPageDecisions;
import eleutheria.core.portal.Page;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.Tile;
import eleutheria.core.portal.TileDecisions;
import eleutheria.server.drafts.DraftStates;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.use.Openings;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What the portal is made of, as whoever arranges it sees it: now, earlier, or with a draft. */
@RestController
class CurateController {
  private static final Duration USE = Duration.ofDays(30);
  private static final int PAGE = 100;

  private final World world;
  private final DraftStates states;
  private final Openings openings;
  private final Organisation organisation;
  private final Clock clock;

  CurateController(
      World world, DraftStates states, Openings openings, Organisation organisation, Clock clock) {
    this.world = world;
    this.states = states;
    this.openings = openings;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * @param collections in the order of everyone's front page
   * @param tiles by name
   * @param pages in the order in which the first that fits counts; everyone's is the last
   * @param units of which somebody typical can be looked at
   */
  record CuratedView(
      List<CollectionView> collections,
      List<CuratedTile> tiles,
      List<FrontPageView> pages,
      List<String> units,
      boolean mayArrange,
      Instant at,
      long position) {}

  /**
   * @param none how many of its audience can open none of its tiles; likewise some, all
   */
  record CollectionView(
      String id,
      String name,
      String line,
      AudienceView audience,
      int none,
      int some,
      int all,
      List<PersonLine> owners,
      List<PlaceView> places,
      boolean mayArrange,
      boolean mayCurate) {}

  /**
   * @param without how many of the audience cannot open it
   */
  record PlaceView(String tile, String rank, boolean offered, int without) {}

  /**
   * @param needs holding any of these shows it; where there is none, its audience does
   * @param audience who sees it where it needs nothing
   * @param from its first day, in the organisation's zone
   * @param leads where it leads: its own address or the application's; empty if nowhere
   * @param holders how many people can open it
   * @param openings how often it was opened in the last 30 days
   * @param flags what is wrong with it: app-not-open, not-yet, over, no-owner, leads-nowhere
   */
  record CuratedTile(
      String id,
      String name,
      String line,
      String picture,
      String hue,
      AppRef app,
      List<NeedView> needs,
      AudienceView audience,
      @Nullable LocalDate from,
      @Nullable LocalDate until,
      String address,
      String leads,
      String contact,
      boolean apart,
      int holders,
      int openings,
      int collections,
      List<String> flags) {}

  record NeedView(String id, String name) {}

  /**
   * @param from the day on which it begins
   * @param begun whether it has
   */
  record WaveView(AudienceView audience, @Nullable LocalDate from, boolean begun) {}

  record FrontNoticeView(String text, @Nullable LocalDate from, @Nullable LocalDate until) {}

  /** A collection that a page names, and its rank there. */
  record NamedView(String id, String rank) {}

  /**
   * @param only whether collections that it does not name are left out
   * @param named the collections that it names, in their order
   * @param order all collections that it shows, in their order
   * @param people how many people meet it
   */
  record FrontPageView(
      String id,
      String name,
      boolean everyones,
      boolean only,
      AudienceView audience,
      List<WaveView> waves,
      @Nullable FrontNoticeView notice,
      String rank,
      List<NamedView> named,
      List<String> order,
      int people) {}

  @GetMapping("/api/portal")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION)
  CuratedView portal(
      Viewer viewer,
      @RequestParam(required = false) @Nullable Instant asOf,
      @RequestParam(required = false) @Nullable UUID draft) {
    Map<UUID, Integer> counts = openings.counts(clock.instant().minus(USE));
    if (asOf != null) {
      PortalView past = world.whole(asOf);
      return world.look((facts, now) -> view(viewer, facts, past, counts, false));
    }
    return states.with(viewer, draft, (facts, whole) -> view(viewer, facts, whole, counts, true));
  }

  private CuratedView view(
      Viewer viewer, Facts facts, PortalView whole, Map<UUID, Integer> counts, boolean now) {
    Map<TileId, Integer> lying = new HashMap<>();
    whole
        .collections()
        .forEach(c -> c.places().forEach(p -> lying.merge(p.tile(), 1, Integer::sum)));
    boolean everywhere = viewer.authority().hasEverywhere(Power.PORTAL_ARRANGE);
    Map<FrontPageId, Set<PersonId>> meets = whole.meets();
    return new CuratedView(
        whole.collections().stream()
            .filter(
                c ->
                    viewer.authority().reaches(Power.PORTAL_ARRANGE, c.id())
                        || viewer.authority().owns(c.id()))
            .map(c -> collection(viewer, whole, c, now))
            .toList(),
        whole.tiles().stream().map(t -> tile(facts, whole, t, counts, lying)).toList(),
        everywhere
            ? whole.pages().stream().map(page -> page(facts, whole, page, meets)).toList()
            : List.of(),
        whole.access().activeByUnit().keySet().stream()
            .filter(unit -> !unit.isEmpty())
            .filter(unit -> viewer.authority().reaches(Power.PORTAL_PREVIEW, unit))
            .toList(),
        now && everywhere,
        whole.at(),
        world.position());
  }

  private static CollectionView collection(
      Viewer viewer, PortalView whole, Collection c, boolean now) {
    PortalView.Share share = whole.share(c);
    Set<PersonId> audience = whole.active(c.audience());
    boolean curates = viewer.authority().reaches(Power.PORTAL_ARRANGE, c.id());
    return new CollectionView(
        c.id().value().toString(),
        c.name(),
        c.face().line(),
        AudienceView.of(whole, c.audience()),
        share.none().size(),
        share.some().size(),
        share.all().size(),
        c.owners().stream()
            .flatMap(o -> whole.directory().person(o).stream())
            .map(PersonLine::named)
            .toList(),
        c.places().stream()
            .map(
                p ->
                    new PlaceView(
                        p.tile().value().toString(),
                        p.place().rank(),
                        p.place().offered(),
                        People.minus(audience, whole.openers(whole.tile(p.tile()).orElseThrow()))
                            .size()))
            .toList(),
        now && (curates || viewer.authority().owns(c.id())),
        now && curates);
  }

  private CuratedTile tile(
      Facts facts,
      PortalView whole,
      Tile t,
      Map<UUID, Integer> counts,
      Map<TileId, Integer> lying) {
    TileDecisions.Terms terms = TileDecisions.terms(facts, t.id(), whole.at(), organisation.zone());
    Application app = whole.access().apps().application(t.face().application()).orElse(null);
    String leads = PageViews.address(whole, t).orElse("");
    return new CuratedTile(
        t.id().value().toString(),
        t.name(),
        t.face().line(),
        t.face().picture(),
        t.face().hue(),
        app == null ? new AppRef("", "", "key", "slate", "retired") : AppRef.of(app),
        whole.needs(t).stream()
            .map((Entitlement e) -> new NeedView(e.id().value().toString(), e.role().name()))
            .toList(),
        AudienceView.of(whole, t.audience()),
        terms == null ? null : terms.from(),
        terms == null ? null : terms.until(),
        t.face().address(),
        leads,
        t.face().contact(),
        t.face().apart(),
        whole.openers(t).size(),
        counts.getOrDefault(t.id().value(), 0),
        lying.getOrDefault(t.id(), 0),
        flags(whole, t, app, terms, leads));
  }

  private List<String> flags(
      PortalView whole,
      Tile t,
      @Nullable Application app,
      TileDecisions.@Nullable Terms terms,
      String leads) {
    List<String> flags = new ArrayList<>();
    if (app == null || !app.open()) {
      flags.add("app-not-open");
    }
    if (!t.due()) {
      LocalDate until = terms == null ? null : terms.until();
      LocalDate today = whole.at().atZone(organisation.zone()).toLocalDate();
      flags.add(until != null && until.isBefore(today) ? "over" : "not-yet");
    }
    if (app != null && app.owners().stream().noneMatch(o -> here(whole.directory(), o))) {
      flags.add("no-owner");
    }
    if (leads.isEmpty()) {
      flags.add("leads-nowhere");
    }
    return flags;
  }

  private static boolean here(DirectoryView directory, PersonId owner) {
    return directory.person(owner).filter(p -> p.status() != PersonStatus.DEPARTED).isPresent();
  }

  private FrontPageView page(
      Facts facts, PortalView whole, Page page, Map<FrontPageId, Set<PersonId>> meets) {
    FrontPageDecisions.Terms terms =
        FrontPageDecisions.terms(facts, page.id(), whole.at(), organisation.zone());
    LocalDate today = whole.at().atZone(organisation.zone()).toLocalDate();
    FrontPageDecisions.Notice notice = terms == null ? null : terms.notice();
    return new FrontPageView(
        page.id().value().toString(),
        page.face().name(),
        page.everyones(),
        page.face().only(),
        AudienceView.of(whole, page.audience()),
        terms == null
            ? List.of()
            : terms.waves().stream()
                .map(
                    w ->
                        new WaveView(
                            AudienceView.of(whole, w.audience()),
                            w.from(),
                            w.from() == null || !w.from().isAfter(today)))
                .toList(),
        notice == null ? null : new FrontNoticeView(notice.text(), notice.from(), notice.until()),
        page.rank(),
        page.ranks().entrySet().stream()
            .map(e -> new NamedView(e.getKey().value().toString(), e.getValue()))
            .toList(),
        page.order().stream().map(c -> c.value().toString()).toList(),
        meets.getOrDefault(page.id(), People.NOBODY).size());
  }

  /**
   * The names behind a count, cut to the reader's reach.
   *
   * @param total how many there are
   * @param lines of those that the reader may see, in order of name
   * @param seen how many of them the reader may see
   */
  record NamesView(int total, int seen, List<PersonLine> lines) {}

  /**
   * @param opens of its audience, who can open none, some or all of its tiles
   * @param tile of its audience, who cannot open this tile; given instead of opens
   */
  @GetMapping("/api/collections/{id}/people")
  @Needs(value = Power.PORTAL_ARRANGE, orOwnerOf = ObjectKind.COLLECTION)
  NamesView people(
      Viewer viewer,
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable String opens,
      @RequestParam(required = false) @Nullable UUID tile,
      @RequestParam(required = false) @Nullable UUID draft,
      @RequestParam(defaultValue = "0") int from) {
    CollectionId collection = new CollectionId(id);
    if (!viewer.authority().reaches(Power.PORTAL_ARRANGE, collection)
        && !viewer.authority().owns(collection)) {
      throw Refusal.of(Problem.absent("collection"));
    }
    return states.with(
        viewer,
        draft,
        (facts, whole) -> {
          Collection found =
              whole
                  .collection(collection)
                  .orElseThrow(() -> Refusal.of(Problem.absent("collection")));
          Set<PersonId> people;
          if (tile != null) {
            Tile shown =
                whole.tile(new TileId(tile)).orElseThrow(() -> Refusal.of(Problem.absent("tile")));
            people = People.minus(whole.active(found.audience()), whole.openers(shown));
          } else {
            PortalView.Share share = whole.share(found);
            people =
                switch (opens == null ? "" : opens) {
                  case "none" -> share.none();
                  case "some" -> share.some();
                  case "all" -> share.all();
                  default -> throw Refusal.invalid("opens", "opens", "It is none, some or all.");
                };
          }
          return names(viewer, whole, people, from);
        });
  }

  private static NamesView names(Viewer viewer, PortalView whole, Set<PersonId> people, int from) {
    if (viewer.authority().units(Power.PEOPLE_READ) == null
        && viewer.authority().has(Power.PEOPLE_READ)) {
      // Everyone is within reach, so that no more than a page has to be looked at.
      List<PersonLine> page = new ArrayList<>();
      int at = 0;
      for (Person person : whole.directory().people()) {
        if (page.size() == PAGE) {
          break;
        }
        if (people.contains(person.id()) && at++ >= from) {
          page.add(PersonLine.of(person));
        }
      }
      return new NamesView(people.size(), people.size(), page);
    }
    List<Person> seen = new ArrayList<>();
    for (PersonId person : people) {
      whole
          .directory()
          .person(person)
          .filter(
              p ->
                  viewer
                      .authority()
                      .reaches(
                          Power.PEOPLE_READ, p.value(eleutheria.core.directory.Attributes.UNIT)))
          .ifPresent(seen::add);
    }
    seen.sort(null);
    return new NamesView(
        people.size(),
        seen.size(),
        seen.stream().skip(Math.max(0, from)).limit(PAGE).map(PersonLine::of).toList());
  }
}
