package eleutheria.core.suggestions;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.TileDecisions;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SuggestionsTest {
  private static final String WEATHER = "https://weather.skerry.example/charts";

  private final House house = new House();
  private final PersonId ines = house.person("Ines Roth", "Yard");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");

  SuggestionsTest() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
  }

  private ListingId listed(String name, String address) {
    return house.act(
        house.authority(ines),
        m ->
            SelfServiceDecisions.list(
                m,
                new FactValue.Listing(name, address, "", "Weather", "wind", "tide"),
                List.of(lena)));
  }

  private SelfService selfService() {
    return SelfService.at(house.facts, house.now());
  }

  private FactValue.SelfServiceLine rule(PersonId person) {
    return selfService().of(person, portal()::has);
  }

  private PortalView portal() {
    return PortalView.of(house.facts, house.directory(), house.now());
  }

  private void policy(FactValue.SelfServiceLine... rules) {
    FactValue.SelfService base = SelfService.policy(house.facts, house.now());
    house.act(
        house.authority(ines),
        m ->
            SelfServiceDecisions.setPolicy(
                m, base, new FactValue.SelfService(List.of(rules)), audience -> List.of()));
  }

  private static FactValue.SelfServiceLine forUnit(
      String unit, FactValue.Links links, boolean suggest) {
    return new FactValue.SelfServiceLine(
        new FactValue.Audience(
            false, List.of(new FactValue.Subject.ByFilter("unit eq \"%s\"".formatted(unit)))),
        links,
        suggest);
  }

  private List<String> wrong(PersonId person, String name, String address) {
    return OwnLink.problems(
            new OwnLink(UUID.randomUUID(), name, address, "wind", "tide"),
            List.of(),
            selfService(),
            rule(person))
        .stream()
        .map(Problem::code)
        .toList();
  }

  @ParameterizedTest
  @CsvSource({
    "https://a.example/x, https://a.example/x, true",
    "https://a.example/x, https://A.example:443/x/y?z=1#q, true",
    "https://a.example/, https://a.example, true",
    "https://a.example/x, https://a.example/xy, false",
    "https://a.example/x, https://a.example/x/../y, false",
    "https://a.example/x, https://a.example/x/%2e%2e/y, false",
    "https://a.example/x, https://a.example/x%2f..%2fy, false",
    "https://a.example/x, http://a.example/x, false",
    "https://a.example/x, https://a.example:8443/x, false",
    "https://a.example/x, https://a.example.evil.example/x, false",
    "https://a.example/x, https://a.example@evil.example/x, false",
    "https://a.example/x, https://evil.example/https://a.example/x, false",
    "https://a.example/x, javascript:alert(1), false",
    "https://a.example/x, not an address, false"
  })
  void anEntryLetsInWhatLiesAtOrBelowIt(String entry, String address, boolean in) {
    assertThat(Approved.covers(entry, address)).isEqualTo(in);
  }

  @Test
  void theFirstRuleThatFitsCounts() {
    listed("Skerry Weather", WEATHER);
    assertThat(wrong(oda, "Wind", WEATHER + "/today")).isEmpty();
    assertThat(wrong(oda, "Else", "https://else.example/")).containsExactly("link.not-approved");
    policy(
        forUnit("Ticketing", FactValue.Links.NOTHING, false),
        forUnit("Ticketing", FactValue.Links.ANYTHING, true),
        forUnit("Yard", FactValue.Links.ANYTHING, true));
    assertThat(wrong(oda, "Wind", WEATHER)).containsExactly("link.none");
    assertThat(wrong(ines, "Else", "https://else.example/")).isEmpty();
    assertThat(wrong(ines, " ", "javascript:alert(1)"))
        .containsExactlyInAnyOrder("link.no-name", "app.address");
  }

  @Test
  void whoKeepsAnEntryChangesItAndNobodyElseDoes() {
    ListingId id = listed("Skerry Weather", WEATHER);
    FactValue.Listing base = selfService().approved().entry(id).orElseThrow().listing();
    FactValue.Listing other =
        new FactValue.Listing("Skerry", base.address(), "Wind", "Weather", "wind", "tide");
    assertThat(
            house.refused(
                house.authority(oda), m -> SelfServiceDecisions.change(m, id, base, other)))
        .containsExactly("power");
    house.act(house.authority(lena), m -> SelfServiceDecisions.change(m, id, base, other));
    assertThat(
            house.refused(
                house.authority(ines), m -> SelfServiceDecisions.change(m, id, base, other)))
        .as("somebody else was quicker")
        .containsExactly("changed-meanwhile");
    assertThat(
            house.refused(
                house.authority(ines),
                m ->
                    SelfServiceDecisions.list(
                        m,
                        new FactValue.Listing(
                            "Twice", WEATHER + "/", "", "Weather", "wind", "tide"),
                        List.of())))
        .containsExactly("listing.twice");
    assertThat(wrong(oda, "Wind", WEATHER)).isEmpty();
    house.act(house.authority(ines), m -> SelfServiceDecisions.end(m, id));
    assertThat(wrong(oda, "Wind", WEATHER)).containsExactly("link.not-approved");
  }

  private Suggestion suggest(PersonId person, int number, String address, List<Suggestion> mine) {
    return house.act(
        house.authority(person),
        m ->
            SuggestionDecisions.suggest(
                m,
                number,
                person,
                "Queue Minder",
                address,
                "The counters",
                "Paper",
                mine,
                rule(person)));
  }

  private Outcome<List<Suggestion>> accept(
      eleutheria.core.directory.Moment m, List<Suggestion> fold) {
    return SuggestionDecisions.accept(
        m,
        fold,
        new SuggestionDecisions.Wanted(
            new FactValue.Profile(
                "Queue Minder", "Who is next", "users", "plum", Sensitivity.LOW, ""),
            "https://queue.example/app",
            lena,
            "User",
            true,
            null,
            "Good idea."),
        (then, face) -> TileDecisions.make(then, TileDecisions.Terms.of(face)));
  }

  @Test
  void whatIsLetInIsOpenHasATileAndIsHeldByThoseWhoAsked() {
    Suggestion one = suggest(lena, 1001, "https://queue.example/app", List.of());
    Suggestion other = suggest(oda, 1002, "https://QUEUE.example/app/", List.of());
    assertThat(one.likeness()).isEqualTo(other.likeness());
    List<Suggestion> decided =
        house.act(house.authority(ines), m -> accept(m, List.of(one, other)));
    assertThat(decided).noneMatch(Suggestion::waits);
    PortalView portal = portal();
    assertThat(portal.tiles())
        .singleElement()
        .satisfies(
            tile -> {
              assertThat(tile.name()).isEqualTo("Queue Minder");
              assertThat(portal.held(tile, oda)).isTrue();
              assertThat(portal.held(tile, lena)).isTrue();
              assertThat(portal.held(tile, ines)).isFalse();
            });
    assertThat(portal.access().apps().applications())
        .singleElement()
        .satisfies(
            app -> {
              assertThat(app.state()).isEqualTo(ApplicationState.OPEN);
              assertThat(app.owners()).containsExactly(lena);
            });
    assertThat(
            house.refused(
                house.authority(oda),
                m ->
                    SuggestionDecisions.suggest(
                        m,
                        1003,
                        oda,
                        "Again",
                        "https://queue.example/app?x=1",
                        "Us",
                        "Why",
                        List.of(),
                        rule(oda))))
        .as("it is here already")
        .containsExactly("suggestion.here");
  }

  @Test
  void whoHasDepartedMeanwhileGetsNothing() {
    Suggestion one = suggest(lena, 1001, "https://queue.example/app", List.of());
    Suggestion other = suggest(oda, 1002, "https://queue.example/app", List.of());
    house.status(oda, PersonStatus.DEPARTED);
    house.act(house.authority(ines), m -> accept(m, List.of(one, other)));
    assertThat(house.access().entitlements(lena)).hasSize(1);
    assertThat(house.access().entitlements(oda)).isEmpty();
  }

  @Test
  void nobodyDecidesOnTheirOwnNorTwiceNorOnUnlikeOnesTogether() {
    Suggestion own = suggest(ines, 1001, "https://queue.example/app", List.of());
    Suggestion other = suggest(oda, 1002, "https://else.example/", List.of());
    assertThat(house.refused(house.authority(ines), m -> accept(m, List.of(own))))
        .containsExactly("own-suggestion");
    assertThat(house.refused(house.authority(oda), m -> accept(m, List.of(own)))).contains("power");
    assertThat(
            house.refused(
                house.authority(ines), m -> SuggestionDecisions.decline(m, List.of(other), " ")))
        .containsExactly("suggestion.no-answer");
    Suggestion third = suggest(lena, 1003, "https://third.example/", List.of());
    assertThat(
            house.refused(
                house.authority(ines),
                m -> SuggestionDecisions.decline(m, List.of(other, third), "No.")))
        .containsExactly("suggestion.unlike");
    Suggestion declined =
        house
            .act(
                house.authority(ines),
                m -> SuggestionDecisions.decline(m, List.of(other), "We have one."))
            .getFirst();
    assertThat(house.refused(house.authority(ines), m -> accept(m, List.of(declined))))
        .contains("changed-meanwhile");
    assertThat(house.refused(house.authority(oda), m -> SuggestionDecisions.withdraw(m, declined)))
        .containsExactly("changed-meanwhile");
    assertThat(house.refused(house.authority(lena), m -> SuggestionDecisions.withdraw(m, other)))
        .containsExactly("absent");
  }

  @Test
  void puttingForwardSaysAllThatIsMissingAndFollowsThePolicy() {
    Suggestion waits = suggest(oda, 1001, "https://queue.example/app", List.of());
    assertThat(
            house.refused(
                house.authority(oda),
                m ->
                    SuggestionDecisions.suggest(
                        m, 1002, oda, "", "ftp://x", "", "", List.of(), rule(oda))))
        .containsExactlyInAnyOrder(
            "suggestion.no-name", "app.address", "suggestion.no-whom", "suggestion.no-why");
    assertThat(
            house.refused(
                house.authority(oda),
                m ->
                    SuggestionDecisions.suggest(
                        m,
                        1002,
                        oda,
                        "Q",
                        "https://queue.example/app/",
                        "Us",
                        "Why",
                        List.of(waits),
                        rule(oda))))
        .containsExactly("suggestion.twice");
    policy(forUnit("Ticketing", FactValue.Links.APPROVED, false));
    assertThat(
            house.refused(
                house.authority(oda),
                m ->
                    SuggestionDecisions.suggest(
                        m,
                        1002,
                        oda,
                        "Q",
                        "https://q.example/",
                        "Us",
                        "Why",
                        List.of(),
                        rule(oda))))
        .containsExactly("suggestion.none");
  }
}
