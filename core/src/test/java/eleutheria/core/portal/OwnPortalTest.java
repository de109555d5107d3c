package eleutheria.core.portal;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Outcome;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class OwnPortalTest {
  private final House house = new House();
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final EntitlementId asker = house.role("Refund Bench", Sensitivity.LOW);

  /**
   * What is kept pinned, held against a plain list from which things are removed and to which they
   * are added.
   */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void whatIsKeptCloseKeepsItsOrder(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<TileId> tiles = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      tiles.add(new TileId(new UUID(seed, i)));
    }
    OwnPortal own = OwnPortal.NEW;
    List<TileId> plain = new ArrayList<>();
    for (int step = 0; step < 300; step++) {
      TileId tile = tiles.get(random.nextInt(tiles.size()));
      TileId behind = random.nextInt(4) == 0 ? null : tiles.get(random.nextInt(tiles.size()));
      if (random.nextInt(3) == 0) {
        own = own.with(new OwnPortal.Wish.Unpin(tile));
        plain.remove(tile);
      } else {
        OwnPortal.Wish wish = new OwnPortal.Wish.Pin(tile, behind);
        own = own.with(wish);
        assertThat(own.with(new OwnPortal.Wish.Pin(tile, behind))).as("twice").isEqualTo(own);
        plain.remove(tile);
        int at =
            behind == null
                ? 0
                : plain.indexOf(behind) < 0 ? plain.size() : plain.indexOf(behind) + 1;
        plain.add(at, tile);
      }
      assertThat(own.pinned()).as("seed %d step %d", seed, step).containsExactlyElementsOf(plain);
    }
  }

  @Test
  void wishesHaveBounds() {
    OwnPortal own = OwnPortal.NEW;
    for (int i = 0; i < OwnPortal.MOST_PINNED; i++) {
      own = own.with(new OwnPortal.Wish.Pin(new TileId(new UUID(1, i)), null));
    }
    assertThat(own.problem(new OwnPortal.Wish.Pin(new TileId(new UUID(1, 0)), null))).isEmpty();
    assertThat(own.problem(new OwnPortal.Wish.Pin(new TileId(new UUID(2, 0)), null)))
        .hasValueSatisfying(p -> assertThat(p.code()).isEqualTo("portal.pinned"));
    assertThat(own.problem(new OwnPortal.Wish.Draw(OwnPortal.Device.PHONE, "cubes"))).isPresent();
    OwnPortal drawn =
        own.with(new OwnPortal.Wish.Draw(OwnPortal.Device.PHONE, "marks"))
            .with(new OwnPortal.Wish.Hide(new CollectionId(new UUID(3, 3))))
            .with(new OwnPortal.Wish.Seen(OwnPortal.Tip.MENU));
    assertThat(drawn.forms()).containsOnlyKeys(OwnPortal.Device.PHONE);
    assertThat(drawn.tips()).containsExactly(OwnPortal.Tip.MENU);
    OwnPortal hushed = OwnPortal.NEW;
    for (int i = 0; i < 150; i++) {
      hushed = hushed.with(new OwnPortal.Wish.Hush("notice " + i));
    }
    assertThat(hushed.hushed()).hasSize(100).contains("notice 149").doesNotContain("notice 1");
  }

  // ---- what tiles tell

  private PortalView portal() {
    return PortalView.of(house.facts, house.directory(), house.now());
  }

  private TileId tile(String name, EntitlementId... needs) {
    return house.act(
        m ->
            TileDecisions.make(
                m,
                TileDecisions.Terms.of(
                    new FactValue.TileFace(
                        name,
                        "",
                        "receipt",
                        "plum",
                        house.app(asker),
                        new TreeSet<>(List.of(needs))))));
  }

  private void give(EntitlementId role, int days) {
    house.act(
        m ->
            GrantDecisions.give(
                m,
                role,
                List.of(new FactValue.Subject.OfPerson(oda)),
                null,
                days == 0 ? null : m.today().plusDays(days),
                "work"));
  }

  private Tidings tidings(TileId id, Instant since, @Nullable Instant opened) {
    PortalView portal = portal();
    return Tidings.of(
        portal.access(), oda, portal.tile(id).orElseThrow(), e -> since, opened, house.now());
  }

  @Test
  void aTileIsNewUntilItIsOpenedOrAWeekHasGone() {
    TileId bench = tile("Refund Bench", asker);
    house.pass(Duration.ofDays(30));
    give(asker, 0);
    Instant given = house.now();
    assertThat(tidings(bench, given, null).isNew()).isTrue();
    house.pass(Duration.ofDays(2));
    assertThat(tidings(bench, given, null).isNew()).isTrue();
    assertThat(tidings(bench, given, house.now()).isNew()).as("opened").isFalse();
    house.pass(Duration.ofDays(6));
    assertThat(tidings(bench, given, null)).isEqualTo(Tidings.NONE);
  }

  @Test
  void aTileIsChangedUntilItIsOpenedAgain() {
    give(asker, 0);
    TileId bench = tile("Refund Bench", asker);
    Instant since = house.now();
    house.pass(Duration.ofDays(30));
    Instant opened = house.now();
    house.pass(Duration.ofDays(1));
    FactValue.TileFace face = portal().tile(bench).orElseThrow().face();
    FactValue.TileFace other =
        new FactValue.TileFace(
            "Refunds", face.line(), face.picture(), face.hue(), face.application(), face.needs());
    house.act(
        m ->
            TileDecisions.change(
                m, bench, TileDecisions.Terms.of(face), TileDecisions.Terms.of(other)));
    assertThat(tidings(bench, since, opened).changed()).isTrue();
    assertThat(tidings(bench, since, house.now().plusSeconds(1)).changed()).isFalse();
    house.pass(Duration.ofDays(8));
    assertThat(tidings(bench, since, opened)).isEqualTo(Tidings.NONE);
  }

  @Test
  void whatEndsSoonSaysWhatGoesAndWhatStays() {
    EntitlementId approver = role("Approver");
    TileId bench = tile("Refund Bench", asker, approver);
    TileId queue = tile("Refund Queue", approver);
    give(asker, 0);
    give(approver, 3);
    List<Endings.Ending> endings = Endings.of(portal(), oda, house.now(), (p, e) -> true);
    assertThat(endings)
        .singleElement()
        .satisfies(
            ending -> {
              assertThat(ending.entitlement().id()).isEqualTo(approver);
              assertThat(ending.stays()).extracting(e -> e.id()).containsExactly(asker);
              assertThat(ending.goes()).extracting(Tile::id).containsExactly(queue);
              assertThat(ending.askable()).isTrue();
            });
    assertThat(tidings(bench, house.now(), house.now()).ends()).as("the other role stays").isNull();
    assertThat(tidings(queue, house.now(), house.now()).ends())
        .isEqualTo(endings.getFirst().until());
    house.pass(Duration.ofDays(10));
    assertThat(Endings.of(portal(), oda, house.now(), (p, e) -> true)).isEmpty();
    give(approver, 30);
    assertThat(Endings.of(portal(), oda, house.now(), (p, e) -> true)).as("not soon").isEmpty();
  }

  private EntitlementId role(String name) {
    return house.act(
        m ->
            eleutheria.core.apps.AppDecisions.addEntitlement(
                m,
                house.app(asker),
                new eleutheria.core.apps.AppDecisions.WantedRole(name, "", Sensitivity.LOW, true)));
  }

  // ---- problems with tiles

  @Test
  void aReportGoesToWhoOwnsTheAppOrToWhoMayChangeItWhereNobodyDoes() {
    PersonId lena = house.person("Lena Aho", "Ticketing");
    PersonId ines = house.person("Ines Roth", "Yard");
    house.hold(eleutheria.core.mandates.ShippedMandate.STEWARD.id(), ines);
    TileId bench = tile("Refund Bench", asker);
    give(asker, 0);
    Complaint complaint =
        house.act(
            house.authority(oda),
            m -> ComplaintDecisions.make(m, 1001, oda, bench, "It is slow.", shown(), List.of()));
    AccessView access = house.access();
    assertThat(complaint.isFor(access, house.authority(ines))).as("nobody owns it").isTrue();
    house.set(new FactKey.Ownership(house.app(asker), lena), FactValue.Present.PRESENT);
    assertThat(complaint.isFor(house.access(), house.authority(lena))).isTrue();
    assertThat(complaint.isFor(house.access(), house.authority(ines))).isFalse();
    assertThat(
            house.refused(house.authority(lena), m -> ComplaintDecisions.answer(m, complaint, " ")))
        .containsExactly("complaint.no-answer");
    Complaint answered =
        house.act(house.authority(lena), m -> ComplaintDecisions.answer(m, complaint, "Mended."));
    assertThat(answered.waits()).isFalse();
    assertThat(
            house.refused(
                house.authority(ines), m -> ComplaintDecisions.answer(m, answered, "Again.")))
        .containsExactly("changed-meanwhile");
    PersonId other = house.person("Nils Sand", "Ticketing");
    assertThat(
            house.refused(
                house.authority(other), m -> ComplaintDecisions.answer(m, complaint, "Mine.")))
        .as("none of theirs")
        .containsExactly("absent");
    assertThat(
            house.refused(
                house.authority(other),
                m ->
                    ComplaintDecisions.make(
                        m,
                        1002,
                        other,
                        bench,
                        "?",
                        portal().visible(other, (p, e) -> false),
                        List.of())))
        .as("no tile of theirs")
        .containsExactly("absent");
  }

  private FrontPage shown() {
    return portal().visible(oda, (p, e) -> false);
  }

  @Test
  void whoReportedItCanTakeItBack() {
    TileId bench = tile("Refund Bench", asker);
    give(asker, 0);
    Complaint complaint =
        house.act(
            house.authority(oda),
            m -> ComplaintDecisions.make(m, 1001, oda, bench, "It is slow.", shown(), List.of()));
    Outcome<Complaint> outcome =
        house.decide(house.authority(oda), m -> ComplaintDecisions.answer(m, complaint, ""));
    assertThat(outcome)
        .isInstanceOfSatisfying(
            Outcome.Done.class, done -> assertThat(done.errands()).as("nobody is told").isEmpty());
  }
}
