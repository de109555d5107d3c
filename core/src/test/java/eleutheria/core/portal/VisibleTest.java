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
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.facts.Weight;
import eleutheria.core.mandates.Authority;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class VisibleTest {
  private final House house = new House();
  private final List<PersonId> people = new ArrayList<>();
  private final List<EntitlementId> roles = new ArrayList<>();
  private final List<TileId> tiles = new ArrayList<>();
  private final List<CollectionId> collections = new ArrayList<>();

  private TileId tile(String name, EntitlementId... needs) {
    return house.act(
        m ->
            PortalDecisions.makeTile(
                m,
                new FactValue.TileFace(
                    name,
                    "",
                    "key",
                    "tide",
                    house.app(needs.length == 0 ? roles.getFirst() : needs[0]),
                    new TreeSet<>(List.of(needs)))));
  }

  private CollectionId collection(String name, FactValue.Audience audience) {
    return house.act(
        m -> PortalDecisions.makeCollection(m, new FactValue.CollectionFace(name, ""), audience));
  }

  private void arrange(CollectionId id, List<PortalDecisions.Wanted> wanted) {
    house.act(
        m -> {
          List<TileId> base =
              PortalView.at(m).collection(id).orElseThrow().places().stream()
                  .map(Collection.Placed::tile)
                  .toList();
          return PortalDecisions.arrange(m, id, base, wanted);
        });
  }

  private PortalView view() {
    return PortalView.of(house.facts, house.directory(), house.now());
  }

  private static FactValue.Audience audience(FactValue.Subject... subjects) {
    return new FactValue.Audience(false, List.of(subjects));
  }

  /** The rules as they are written, tile by tile. */
  private List<String> naive(PersonId person, Set<EntitlementId> resolving) {
    Reference reference = new Reference(house.facts);
    PortalView view = view();
    AccessView access = house.access();
    List<String> lines = new ArrayList<>();
    Set<TileId> shown = new HashSet<>();
    for (Collection collection : view.collections()) {
      boolean sees =
          collection.audience().everyone()
              || collection.audience().subjects().stream()
                  .anyMatch(s -> reference.covers(s, person, house.now()));
      for (Collection.Placed placed : collection.places()) {
        Tile tile = view.tile(placed.tile()).orElseThrow();
        boolean open = access.apps().application(tile.face().application()).orElseThrow().open();
        Set<EntitlementId> needs = tile.face().needs();
        boolean held = needs.stream().anyMatch(e -> reference.holds(person, e, house.now()));
        boolean visible = sees && open && (needs.isEmpty() || held);
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
          tile.face().needs().stream().anyMatch(e -> reference.holds(person, e, house.now()));
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
      roles.add(house.role("App " + i, Weight.LIGHT));
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
    for (int act = 0; act < 60; act++) {
      step(random);
      Set<EntitlementId> resolving = new HashSet<>();
      roles.stream().filter(e -> random.nextBoolean()).forEach(resolving::add);
      for (PersonId person : people) {
        assertThat(told(view().visible(person, (p, e) -> resolving.contains(e))))
            .as("seed %d act %d", seed, act)
            .isEqualTo(naive(person, resolving));
      }
    }
  }

  private void step(SplittableRandom random) {
    EntitlementId role = roles.get(random.nextInt(roles.size()));
    PersonId person = people.get(random.nextInt(people.size()));
    switch (random.nextInt(4)) {
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
      case 2 -> {
        List<CollectionId> order =
            new ArrayList<>(view().collections().stream().map(Collection::id).toList());
        List<CollectionId> wanted = new ArrayList<>(order);
        wanted.add(wanted.remove(random.nextInt(wanted.size())));
        house.act(m -> PortalDecisions.arrangeFrontPage(m, order, wanted));
      }
      default -> {
        List<TileId> some = new ArrayList<>(tiles);
        some.removeIf(t -> random.nextBoolean());
        java.util.Collections.rotate(some, random.nextInt(5));
        arrange(
            collections.get(random.nextInt(3)),
            some.stream().map(t -> new PortalDecisions.Wanted(t, random.nextBoolean())).toList());
      }
    }
  }

  @Test
  void aCuratorOfOneCollectionArrangesItAndNothingElse() {
    roles.add(house.role("App", Weight.LIGHT));
    TileId tile = tile("Tile", roles.getFirst());
    PersonId curator = house.person("Curator", null);
    CollectionId own = collection("Own", audience());
    CollectionId other = collection("Other", audience());
    house.act(m -> PortalDecisions.setOwners(m, own, List.of(), List.of(curator)));
    List<PortalDecisions.Wanted> wanted = List.of(new PortalDecisions.Wanted(tile, false));
    house.act(house.authority(curator), m -> PortalDecisions.arrange(m, own, List.of(), wanted));
    assertThat(
            house.refused(
                house.authority(curator),
                m -> PortalDecisions.arrange(m, other, List.of(), wanted)))
        .isNotEmpty();
    assertThat(
            house.refused(
                house.authority(curator),
                m ->
                    PortalDecisions.setAudience(
                        m, own, audience(), new FactValue.Audience(true, List.of()))))
        .containsExactly("power");
    // What someone else arranged meanwhile is not overwritten.
    assertThat(
            house.refused(
                house.authority(curator),
                m -> PortalDecisions.arrange(m, own, List.of(), List.of())))
        .containsExactly("changed-meanwhile");
  }

  @Test
  void theShareOfAnAudienceThatCanOpenIt() {
    roles.add(house.role("App", Weight.LIGHT));
    roles.add(house.role("Other app", Weight.LIGHT));
    List<PersonId> three =
        List.of(
            house.person("A", "Safety"), house.person("B", "Safety"), house.person("C", "Safety"));
    CollectionId id =
        collection("Safety", audience(new FactValue.Subject.ByFilter("unit eq \"Safety\"")));
    arrange(
        id,
        List.of(
            new PortalDecisions.Wanted(tile("One", roles.get(0)), false),
            new PortalDecisions.Wanted(tile("Two", roles.get(1)), false)));
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
        .isEqualTo(new PortalView.Share(1, 1, 1));
  }
}
