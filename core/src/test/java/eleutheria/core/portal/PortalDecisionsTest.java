package eleutheria.core.portal;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What cannot be arranged on the portal, and that each is said at its field. */
class PortalDecisionsTest {
  private static final FactValue.Audience EVERYONE = FactValue.Audience.EVERYONE;

  private final House house = new House();
  private EntitlementId role;
  private CollectionId counter;
  private TileId farebox;

  @BeforeEach
  void aPortal() {
    role = house.role("Farebox", Sensitivity.LOW);
    counter = house.act(m -> CollectionDecisions.make(m, face("Counter"), EVERYONE));
    farebox = house.act(m -> TileDecisions.make(m, TileDecisions.Terms.of(tile("Farebox"))));
  }

  private static FactValue.CollectionFace face(String name) {
    return new FactValue.CollectionFace(name, "");
  }

  private FactValue.TileFace tile(String name) {
    return new FactValue.TileFace(
        name, "", "key", "tide", house.app(role), new TreeSet<>(List.of(role)));
  }

  private LocalDate today() {
    return house.now().atZone(House.ZONE).toLocalDate();
  }

  private <T> List<String> refused(Function<Moment, Outcome<T>> decision) {
    return house.refused(Authority.SETUP, decision);
  }

  private List<String> refusedTile(
      FactValue.TileFace face, @Nullable LocalDate from, @Nullable LocalDate until) {
    return refused(
        m -> TileDecisions.make(m, new TileDecisions.Terms(face, EVERYONE, from, until)));
  }

  @Test
  void aTileHasANameAPictureAColourAndNeedsThatItsAppHas() {
    assertThat(refusedTile(tile(" "), null, null)).containsExactly("tile.no-name");
    assertThat(refusedTile(tile("x".repeat(61)), null, null)).containsExactly("too-long");
    EntitlementId foreign = house.role("Tide Table", Sensitivity.LOW);
    FactValue.TileFace wrong =
        new FactValue.TileFace(
            "A",
            "",
            "own:nothex",
            "mauve",
            house.app(role),
            new TreeSet<>(List.of(foreign)),
            "javascript:alert(1)",
            "y".repeat(201),
            false,
            false);
    assertThat(refusedTile(wrong, null, null))
        .containsExactly("too-long", "tile.picture", "tile.hue", "app.address", "tile.needs");
    assertThat(refusedTile(tile("A"), today().plusDays(3), today().plusDays(2)))
        .containsExactly("tile.dates");
    assertThat(refusedTile(tile("A"), null, today().minusDays(1))).containsExactly("tile.dates");
  }

  @Test
  void aCollectionHasANameOfItsOwn() {
    assertThat(refused(m -> CollectionDecisions.make(m, face(" "), EVERYONE)))
        .containsExactly("collection.no-name");
    assertThat(refused(m -> CollectionDecisions.make(m, face("COUNTER"), EVERYONE)))
        .containsExactly("collection.name-taken");
    // Its own name is not taken by itself.
    house.act(m -> CollectionDecisions.describe(m, counter, face("Counter"), face("counter")));
  }

  @Test
  void anAudienceNamesWhoIsThereAndNotTooMany() {
    PersonId nobody = new PersonId(new UUID(9, 9));
    FactValue.Subject group = new FactValue.Subject.OfGroup(new GroupId(new UUID(9, 8)));
    List<FactValue.Subject> absent = List.of(new FactValue.Subject.OfPerson(nobody), group);
    assertThat(
            refused(
                m -> CollectionDecisions.make(m, face("A"), new FactValue.Audience(false, absent))))
        .containsExactly("absent", "absent");
    assertThat(
            refused(
                m ->
                    CollectionDecisions.make(
                        m,
                        face("A"),
                        new FactValue.Audience(
                            false, List.of(new FactValue.Subject.ByFilter("unit eq"))))))
        .containsExactly("filter.wrong");
    for (int days : new int[] {-1, 367}) {
      assertThat(
              refused(
                  m ->
                      CollectionDecisions.make(
                          m, face("A"), new FactValue.Audience(true, List.of(), days))))
          .containsExactly("audience.first-days");
    }
    PersonId oda = house.person("Oda", "Ticketing");
    List<FactValue.Subject> many = Collections.nCopies(201, new FactValue.Subject.OfPerson(oda));
    assertThat(
            refused(
                m -> CollectionDecisions.make(m, face("A"), new FactValue.Audience(false, many))))
        .containsExactly("audience.many");
  }

  @Test
  void aTileIsPutOnceAndAgainstWhatIsThere() {
    Placing.Spot<TileId> first = new Placing.Spot<>(null, false);
    Placing<TileId, FactValue.Place> put = new Placing<>(farebox, null, first);
    assertThat(refused(m -> CollectionDecisions.arrange(m, counter, List.of(put, put))))
        .containsExactly("collection.twice");
    house.act(m -> CollectionDecisions.arrange(m, counter, List.of(put)));
    assertThat(refused(m -> CollectionDecisions.arrange(m, counter, List.of(put))))
        .containsExactly("changed-meanwhile");
    TileId gone = new TileId(new UUID(9, 9));
    assertThat(
            refused(
                m ->
                    CollectionDecisions.arrange(
                        m, counter, List.of(new Placing<>(gone, null, first)))))
        .containsExactly("absent");
  }

  @Test
  void aCollectionHoldsSoManyTilesAndNoMore() {
    List<Placing<TileId, FactValue.Place>> moves = new ArrayList<>();
    for (int i = 0; i <= CollectionDecisions.MOST_TILES; i++) {
      String name = "Tile " + i;
      TileId tile = house.act(m -> TileDecisions.make(m, TileDecisions.Terms.of(tile(name))));
      moves.add(new Placing<>(tile, null, new Placing.Spot<>(null, false)));
    }
    assertThat(refused(m -> CollectionDecisions.arrange(m, counter, moves)))
        .containsExactly("collection.full");
    house.act(m -> CollectionDecisions.arrange(m, counter, moves.subList(1, moves.size())));
  }

  private static FrontPageDecisions.Terms page(
      String name,
      FactValue.Audience audience,
      List<FrontPageDecisions.Wave> waves,
      FrontPageDecisions.@Nullable Notice notice) {
    return new FrontPageDecisions.Terms(name, false, audience, waves, notice);
  }

  private List<String> refusedPage(
      String name,
      List<FrontPageDecisions.Wave> waves,
      FrontPageDecisions.@Nullable Notice notice) {
    return refused(m -> FrontPageDecisions.make(m, page(name, EVERYONE, waves, notice)));
  }

  @Test
  void aFrontPageHasANameOfItsOwnAndANoticeThatSaysSomething() {
    house.act(m -> FrontPageDecisions.make(m, page("On board", EVERYONE, List.of(), null)));
    assertThat(refusedPage(" ", List.of(), null)).containsExactly("front-page.no-name");
    assertThat(refusedPage("ON BOARD", List.of(), null)).containsExactly("front-page.name-taken");
    assertThat(
            refusedPage(
                "A", Collections.nCopies(51, new FrontPageDecisions.Wave(EVERYONE, null)), null))
        .containsExactly("front-page.waves");
    assertThat(refusedPage("A", List.of(), new FrontPageDecisions.Notice(" ", null, null)))
        .containsExactly("front-page.notice");
    assertThat(
            refusedPage(
                "A",
                List.of(),
                new FrontPageDecisions.Notice("n".repeat(501), null, today().minusDays(1))))
        .containsExactly("too-long", "front-page.notice");
    assertThat(
            refusedPage(
                "A",
                List.of(),
                new FrontPageDecisions.Notice("Drill", today().plusDays(2), today().plusDays(1))))
        .containsExactly("front-page.notice");
  }

  @Test
  void theLastFrontPageIsForEveryone() {
    FrontPageDecisions.Terms now =
        FrontPageDecisions.terms(house.facts, FrontPageId.EVERYONE, house.now(), House.ZONE);
    FactValue.Audience some = new FactValue.Audience(false, List.of());
    assertThat(
            refused(
                m ->
                    FrontPageDecisions.change(
                        m, FrontPageId.EVERYONE, now, page("", some, List.of(), null))))
        .contains("front-page.everyones");
  }

  @Test
  void whoeverArrangesOneCollectionArrangesNoOther() {
    CollectionId other = house.act(m -> CollectionDecisions.make(m, face("Other"), EVERYONE));
    Reach reach = new Reach(null, null, new TreeSet<>(List.of(counter.value().toString())));
    Authority curator =
        new Authority(
            null,
            List.of(new Authority.Allowed("one", EnumSet.of(Power.PORTAL_ARRANGE), reach)),
            Set.of());
    Placing<TileId, FactValue.Place> put =
        new Placing<>(farebox, null, new Placing.Spot<>(null, false));
    assertThat(house.refused(curator, m -> CollectionDecisions.arrange(m, other, List.of(put))))
        .containsExactly("power");
    house.act(curator, m -> CollectionDecisions.arrange(m, counter, List.of(put)));
    // An owner arranges without any power, but does not say for whom it is.
    PersonId oda = house.person("Oda", "Ticketing");
    Authority owner = new Authority(oda, List.of(), Set.of(other));
    house.act(owner, m -> CollectionDecisions.arrange(m, other, List.of(put)));
    assertThat(
            house.refused(
                owner,
                m ->
                    CollectionDecisions.setAudience(
                        m, other, EVERYONE, new FactValue.Audience(false, List.of()))))
        .containsExactly("power");
  }
}
