package eleutheria.core.portal;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.Reference;
import eleutheria.core.directory.House;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import eleutheria.core.mandates.Authority;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class VisibleTest {
  private final House house = new House();
  private final List<PersonId> people = new ArrayList<>();
  private final List<EntitlementId> roles = new ArrayList<>();
  private final List<TileId> tiles = new ArrayList<>();
  private final List<CollectionId> collections = new ArrayList<>();
  private final List<FrontPageId> pages = new ArrayList<>();

  private TileId tile(String name, EntitlementId... needs) {
    return house.act(
        m ->
            TileDecisions.make(
                m,
                TileDecisions.Terms.of(
                    new FactValue.TileFace(
                        name,
                        "",
                        "key",
                        "tide",
                        house.app(needs.length == 0 ? roles.getFirst() : needs[0]),
                        new TreeSet<>(List.of(needs))))));
  }

  private CollectionId collection(String name, FactValue.Audience audience) {
    return house.act(
        m -> CollectionDecisions.make(m, new FactValue.CollectionFace(name, ""), audience));
  }

  private void arrange(CollectionId id, List<TileId> wanted, Predicate<TileId> offered) {
    house.act(m -> Arranging.whole(m, id, wanted, offered));
  }

  private PortalView view() {
    return PortalView.of(house.facts, house.directory(), house.now());
  }

  private static FactValue.Audience audience(FactValue.Subject... subjects) {
    return new FactValue.Audience(false, List.of(subjects));
  }

  private boolean in(FactValue.Audience audience, PersonId person) {
    return audience.everyone()
        || audience.subjects().stream()
            .anyMatch(s -> new Reference(house.facts).covers(s, person, house.now()))
        || (audience.firstDays() > 0
            && house.access().active().contains(person)
            && firstDay(person).plus(Duration.ofDays(audience.firstDays())).isAfter(house.now()));
  }

  /** When a person came who is here without a break. */
  private Instant firstDay(PersonId person) {
    List<Spell> spells = house.facts.spells(new FactKey.Status(person));
    Instant first = house.now();
    for (Spell spell : spells.reversed()) {
      if (!spell.from().isAfter(house.now())) {
        if (!((FactValue.Standing) spell.value()).status().here()) {
          break;
        }
        first = spell.from();
      }
    }
    return first;
  }

  private Page pageOf(PortalView view, PersonId person) {
    return view.pages().stream()
        .filter(page -> in(page.audience(), person))
        .filter(
            page ->
                !page.face().waves()
                    || house.facts.keys(FactKey.FrontWave.class).stream()
                        .filter(key -> key.subject().equals(page.id()))
                        .map(key -> house.facts.valueAt(key, house.now()))
                        .anyMatch(wave -> wave instanceof FactValue.Audience a && in(a, person)))
        .findFirst()
        .orElseThrow();
  }

  /** The collections of a page: those with a rank in its order, then the others by name. */
  private List<CollectionId> order(PortalView view, Page page) {
    Map<String, CollectionId> ranked = new TreeMap<>();
    for (CollectionId id : collections) {
      if (house.facts.valueAt(new FactKey.Fronted(page.id(), id), house.now())
          instanceof FactValue.Text rank) {
        ranked.put(rank.text(), id);
      }
    }
    List<CollectionId> order = new ArrayList<>(ranked.values());
    if (!page.face().only()) {
      // They were made in the order of their names.
      collections.stream().filter(id -> !ranked.containsValue(id)).forEach(order::add);
    }
    return order;
  }

  /** The rules as they are written, tile by tile. */
  private List<String> naive(PersonId person, Set<EntitlementId> resolving) {
    Reference reference = new Reference(house.facts);
    PortalView view = view();
    AccessView access = house.access();
    List<String> lines = new ArrayList<>();
    Set<TileId> shown = new HashSet<>();
    for (CollectionId id : order(view, pageOf(view, person))) {
      Collection collection = view.collection(id).orElseThrow();
      boolean sees = in(collection.audience(), person);
      for (Collection.Placed placed : collection.places()) {
        Tile tile = view.tile(placed.tile()).orElseThrow();
        boolean open =
            access.apps().application(tile.face().application()).orElseThrow().open()
                && (!tile.face().dated()
                    || house.facts.valueAt(new FactKey.Shown(tile.id()), house.now()) != null);
        Set<EntitlementId> needs = tile.face().needs();
        boolean held = needs.stream().anyMatch(e -> reference.holds(person, e, house.now()));
        boolean visible = sees && open && (needs.isEmpty() ? in(tile.audience(), person) : held);
        if (visible) {
          shown.add(tile.id());
          lines.add(collection.name() + ": " + tile.name());
        } else if (sees
            && open
            && placed.place().offered()
            && needs.stream()
                .anyMatch(
                    e ->
                        resolving.contains(e)
                            && access.apps().entitlement(e).orElseThrow().role().requestable())) {
          lines.add(collection.name() + ": " + tile.name() + " offered");
        }
      }
    }
    for (Tile tile : view.tiles()) {
      boolean held =
          tile.face().needs().stream().anyMatch(e -> reference.holds(person, e, house.now()))
              && (!tile.face().dated()
                  || house.facts.valueAt(new FactKey.Shown(tile.id()), house.now()) != null);
      if (held && !shown.contains(tile.id())) {
        lines.add("also: " + tile.name());
      }
    }
    return lines;
  }

  private static List<String> told(FrontPage page) {
    List<String> lines = new ArrayList<>();
    for (FrontPage.Section section : page.sections()) {
      assertThat(section.tiles()).isNotEmpty();
      for (FrontPage.Shown one : section.tiles()) {
        lines.add(
            (section.collection() == null ? "also" : section.name())
                + ": "
                + one.tile().name()
                + (one.offered() ? " offered" : ""));
      }
    }
    return lines;
  }

  @ParameterizedTest
  @ValueSource(longs = {301, 302, 303, 304})
  void aFrontPageIsWhatTheRulesSay(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    for (int i = 0; i < 5; i++) {
      people.add(house.person("Person " + i, i % 2 == 0 ? "Deck crew" : "Safety"));
    }
    for (int i = 0; i < 4; i++) {
      roles.add(house.role("App " + i, Sensitivity.LOW));
    }
    for (int i = 0; i < 8; i++) {
      EntitlementId role = roles.get(i % 4);
      tiles.add(i % 5 == 4 ? tile("Tile " + i) : tile("Tile " + i, role));
    }
    for (int i = 0; i < 3; i++) {
      FactValue.Audience audience =
          switch (i) {
            case 0 -> new FactValue.Audience(true, List.of());
            case 1 -> audience(new FactValue.Subject.ByFilter("unit eq \"Safety\""));
            default -> audience(new FactValue.Subject.OfPerson(people.get(0)));
          };
      collections.add(collection("Collection " + i, audience));
    }
    for (int i = 0; i < 3; i++) {
      FrontPageDecisions.Terms terms = terms(random, "Page " + i);
      pages.add(house.act(m -> FrontPageDecisions.make(m, terms)));
    }
    for (int act = 0; act < 90; act++) {
      step(random);
      house.pass(Duration.ofHours(random.nextInt(9)));
      assertThat(view().meets()).as("seed %d act %d", seed, act).isEqualTo(meets());
      Set<EntitlementId> resolving = new HashSet<>();
      roles.stream().filter(e -> random.nextBoolean()).forEach(resolving::add);
      for (PersonId person : people) {
        assertThat(told(view().visible(person, (p, e) -> resolving.contains(e))))
            .as("seed %d act %d", seed, act)
            .isEqualTo(naive(person, resolving));
      }
    }
  }

  private Map<FrontPageId, Set<PersonId>> meets() {
    PortalView view = view();
    Map<FrontPageId, Set<PersonId>> found = new LinkedHashMap<>();
    view.pages().forEach(page -> found.put(page.id(), new HashSet<>()));
    people.stream()
        .filter(p -> house.access().active().contains(p))
        .forEach(p -> found.get(pageOf(view, p).id()).add(p));
    return found;
  }

  private FactValue.Audience some(SplittableRandom random) {
    return switch (random.nextInt(4)) {
      case 0 -> FactValue.Audience.EVERYONE;
      case 1 -> audience(new FactValue.Subject.ByFilter("unit eq \"Safety\""));
      case 2 -> new FactValue.Audience(false, List.of(), 1 + random.nextInt(14));
      default ->
          new FactValue.Audience(
              false,
              List.of(new FactValue.Subject.OfPerson(people.get(random.nextInt(people.size())))),
              random.nextInt(3));
    };
  }

  private FrontPageDecisions.Terms terms(SplittableRandom random, String name) {
    List<FrontPageDecisions.Wave> waves = new ArrayList<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      LocalDate day = house.now().atZone(House.ZONE).toLocalDate().plusDays(random.nextInt(3));
      waves.add(new FrontPageDecisions.Wave(some(random), random.nextBoolean() ? null : day));
    }
    return new FrontPageDecisions.Terms(name, random.nextInt(3) == 0, some(random), waves, null);
  }

  private void page(SplittableRandom random) {
    FrontPageId id = pages.get(random.nextInt(pages.size()));
    Page page = view().page(id).orElseThrow();
    switch (random.nextInt(3)) {
      case 0 -> {
        FrontPageDecisions.Terms wanted = terms(random, page.face().name());
        house.act(
            m ->
                FrontPageDecisions.change(
                    m, id, FrontPageDecisions.terms(m.facts(), id, m.at(), m.zone()), wanted));
      }
      case 1 -> {
        FrontPageId after = pages.get(random.nextInt(pages.size()));
        house.act(
            m -> FrontPageDecisions.move(m, id, page.rank(), after.equals(id) ? null : after));
      }
      default -> {
        CollectionId collection = collections.get(random.nextInt(collections.size()));
        CollectionId after = collections.get(random.nextInt(collections.size()));
        Placing.Spot<CollectionId> spot =
            random.nextInt(3) == 0
                ? null
                : new Placing.Spot<>(after.equals(collection) ? null : after, false);
        house.act(
            m ->
                FrontPageDecisions.arrange(
                    m, id, List.of(new Placing<>(collection, page.ranks().get(collection), spot))));
      }
    }
  }

  private void tileTerms(SplittableRandom random) {
    TileId id = tiles.get(random.nextInt(tiles.size()));
    LocalDate today = house.now().atZone(House.ZONE).toLocalDate();
    house.act(
        m -> {
          TileDecisions.Terms base = TileDecisions.terms(m.facts(), id, m.at(), m.zone());
          return TileDecisions.change(
              m,
              id,
              base,
              new TileDecisions.Terms(
                  base.face(),
                  some(random),
                  random.nextBoolean() ? null : today.plusDays(random.nextInt(2)),
                  random.nextBoolean() ? null : today.plusDays(1 + random.nextInt(2))));
        });
  }

  private void step(SplittableRandom random) {
    EntitlementId role = roles.get(random.nextInt(roles.size()));
    PersonId person = people.get(random.nextInt(people.size()));
    switch (random.nextInt(8)) {
      case 0 ->
          house.decide(
              Authority.SETUP,
              m ->
                  GrantDecisions.give(
                      m, role, List.of(new FactValue.Subject.OfPerson(person)), null, null, "x"));
      case 1 ->
          house.set(
              new FactKey.AppState(house.app(role)),
              new FactValue.AppState(
                  random.nextBoolean() ? ApplicationState.OPEN : ApplicationState.PAUSED));
      case 2, 3 -> page(random);
      case 4 -> tileTerms(random);
      case 5 ->
          house.set(
              new FactKey.Status(person),
              FactValue.Standing.of(
                  random.nextBoolean() ? PersonStatus.ACTIVE : PersonStatus.PAUSED));
      default -> {
        List<TileId> some = new ArrayList<>(tiles);
        some.removeIf(t -> random.nextBoolean());
        java.util.Collections.rotate(some, random.nextInt(5));
        arrange(collections.get(random.nextInt(3)), some, t -> random.nextBoolean());
      }
    }
  }

  @Test
  void aCuratorOfOneCollectionArrangesItAndNothingElse() {
    roles.add(house.role("App", Sensitivity.LOW));
    TileId tile = tile("Tile", roles.getFirst());
    PersonId curator = house.person("Curator", null);
    CollectionId own = collection("Own", audience());
    CollectionId other = collection("Other", audience());
    house.act(m -> CollectionDecisions.setOwners(m, own, List.of(), List.of(curator)));
    List<Placing<TileId, FactValue.Place>> moves = Placing.all(List.of(tile), t -> false);
    house.act(house.authority(curator), m -> CollectionDecisions.arrange(m, own, moves));
    assertThat(
            house.refused(
                house.authority(curator), m -> CollectionDecisions.arrange(m, other, moves)))
        .isNotEmpty();
    assertThat(
            house.refused(
                house.authority(curator),
                m ->
                    CollectionDecisions.setAudience(
                        m, own, audience(), new FactValue.Audience(true, List.of()))))
        .containsExactly("power");
    // What someone else arranged meanwhile is not overwritten.
    assertThat(
            house.refused(
                house.authority(curator), m -> CollectionDecisions.arrange(m, own, moves)))
        .containsExactly("changed-meanwhile");
  }

  @Test
  void whoMovesOneTileDisturbsNobodyWhoMovesAnother() {
    roles.add(house.role("App", Sensitivity.LOW));
    List<TileId> four = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      four.add(tile("Tile " + i, roles.getFirst()));
    }
    CollectionId id = collection("Own", audience());
    arrange(id, four, t -> false);
    List<FactValue.Place> seen =
        view().collection(id).orElseThrow().places().stream()
            .map(Collection.Placed::place)
            .toList();
    // Both looked at 0 1 2 3: the one puts 3 behind 0, the other 1 behind 2.
    house.act(
        m ->
            CollectionDecisions.arrange(
                m,
                id,
                List.of(
                    new Placing<>(
                        four.get(3), seen.get(3), new Placing.Spot<>(four.get(0), false)))));
    house.act(
        m ->
            CollectionDecisions.arrange(
                m,
                id,
                List.of(
                    new Placing<>(
                        four.get(1), seen.get(1), new Placing.Spot<>(four.get(2), true)))));
    assertThat(view().collection(id).orElseThrow().places().stream().map(Collection.Placed::tile))
        .containsExactly(four.get(0), four.get(3), four.get(2), four.get(1));
    assertThat(view().collection(id).orElseThrow().places())
        .filteredOn(placed -> seen.contains(placed.place()))
        .extracting(Collection.Placed::tile)
        .containsExactly(four.get(0), four.get(2));
  }

  @Test
  void theLastFrontPageIsForEveryone() {
    FrontPageId everyones = FrontPageId.EVERYONE;
    assertThat(house.refused(Authority.SETUP, m -> FrontPageDecisions.end(m, everyones)))
        .containsExactly("front-page.everyones");
    FrontPageDecisions.Terms narrower =
        new FrontPageDecisions.Terms("", false, audience(), List.of(), null);
    assertThat(
            house.refused(
                Authority.SETUP,
                m ->
                    FrontPageDecisions.change(
                        m,
                        everyones,
                        FrontPageDecisions.terms(m.facts(), everyones, m.at(), m.zone()),
                        narrower)))
        .containsExactly("front-page.everyones");
  }

  @Test
  void theShareOfAnAudienceThatCanOpenIt() {
    roles.add(house.role("App", Sensitivity.LOW));
    roles.add(house.role("Other app", Sensitivity.LOW));
    List<PersonId> three =
        List.of(
            house.person("A", "Safety"), house.person("B", "Safety"), house.person("C", "Safety"));
    CollectionId id =
        collection("Safety", audience(new FactValue.Subject.ByFilter("unit eq \"Safety\"")));
    arrange(id, List.of(tile("One", roles.get(0)), tile("Two", roles.get(1))), t -> false);
    for (PersonId person : three.subList(0, 2)) {
      house.act(
          m ->
              GrantDecisions.give(
                  m,
                  roles.get(0),
                  List.of(new FactValue.Subject.OfPerson(person)),
                  null,
                  null,
                  "x"));
    }
    house.act(
        m ->
            GrantDecisions.give(
                m,
                roles.get(1),
                List.of(new FactValue.Subject.OfPerson(three.getFirst())),
                null,
                null,
                "x"));
    assertThat(view().share(view().collection(id).orElseThrow()))
        .isEqualTo(
            new PortalView.Share(Set.of(three.get(2)), Set.of(three.get(1)), Set.of(three.get(0))));
  }
}
