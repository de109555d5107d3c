package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.SourceId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class GroupDecisionsTest {
  private final House house = new House();
  private PersonId steward;
  private PersonId clerk;
  private PersonId deckhand;
  private GroupId desk;

  @BeforeEach
  void people() {
    steward = house.person("Ines", "Yard");
    clerk = house.person("Oda", "Ticketing");
    deckhand = house.person("Nils", "Deck crew");
    house.hold(ShippedMandate.STEWARD.id(), steward);
    desk = make("Refund desk");
  }

  private GroupId make(String name) {
    return house.act(m -> GroupDecisions.make(m, name, new FactValue.Form.Listed(), ""));
  }

  /** Someone whose powers reach only one unit. */
  private Authority keeperOf(String unit) {
    PersonId keeper = house.person("Keeper of " + unit, unit);
    MandateId mandate = new MandateId(new UUID(5, unit.hashCode()));
    house.act(
        m -> {
          var edits = m.edits();
          edits.put(
              new FactKey.Mandate(mandate),
              new FactValue.Terms(
                  "Keeper",
                  "",
                  new TreeSet<>(List.of("people.read", "groups.edit", "people.import")),
                  Reach.units(unit)));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    house.hold(mandate, keeper);
    return house.authority(keeper);
  }

  @Test
  void aMembershipUntilADayEndsAtItsEndInTheOrganisationsZone() {
    house.act(
        m -> GroupDecisions.add(m, desk, List.of(clerk), LocalDate.parse("2026-03-04"), "cover"));
    assertThat(house.directory().members(desk)).containsExactly(clerk);
    assertThat(house.directory().until()).isEqualTo("2026-03-04T23:00:00Z");
    house.pass(Duration.ofDays(2).plusHours(14));
    assertThat(house.directory().members(desk)).containsExactly(clerk);
    house.pass(Duration.ofHours(2));
    assertThat(house.directory().members(desk)).isEmpty();
  }

  @Test
  void whoReachesOneUnitMovesOnlyItsPeople() {
    Authority keeper = keeperOf("Ticketing");
    house.act(keeper, m -> GroupDecisions.add(m, desk, List.of(clerk), null, ""));
    assertThat(house.refused(keeper, m -> GroupDecisions.add(m, desk, List.of(deckhand), null, "")))
        .containsExactly("reach");
    FactValue.Form wide = new FactValue.Form.ByFilter("unit pr");
    assertThat(house.refused(keeper, m -> GroupDecisions.make(m, "Wide", wide, "")))
        .containsExactly("reach");
    FactValue.Form own = new FactValue.Form.ByFilter("unit eq \"Ticketing\"");
    house.act(keeper, m -> GroupDecisions.make(m, "Own", own, ""));
  }

  @Test
  void nobodyRenamesOrEndsAGroupWithPeopleOutOfTheirReach() {
    Authority keeper = keeperOf("Ticketing");
    house.act(m -> GroupDecisions.add(m, desk, List.of(clerk), null, ""));
    house.act(keeper, m -> GroupDecisions.rename(m, desk, "Refund desk", "Refunds"));
    house.act(m -> GroupDecisions.add(m, desk, List.of(deckhand), null, ""));
    assertThat(house.refused(keeper, m -> GroupDecisions.rename(m, desk, "Refunds", "Mine")))
        .containsExactly("reach");
    assertThat(house.refused(keeper, m -> GroupDecisions.end(m, desk, "")))
        .containsExactly("reach");
  }

  @Test
  void anOwnerFillsTheirListedGroupAndNothingElse() {
    house.act(m -> GroupDecisions.setOwners(m, desk, List.of(), List.of(clerk)));
    Authority owner = house.authority(clerk);
    house.act(owner, m -> GroupDecisions.add(m, desk, List.of(deckhand), null, ""));
    assertThat(house.refused(owner, m -> GroupDecisions.rename(m, desk, "Refund desk", "Mine")))
        .containsExactly("power");
    GroupId other = make("Other");
    assertThat(house.refused(owner, m -> GroupDecisions.add(m, other, List.of(clerk), null, "")))
        .containsExactly("power");
  }

  @Test
  void nobodyGivesAPowerTheyLackNorOneToThemselves() {
    GroupId helpers = make("Helpers");
    GroupId inner = make("Inner");
    house.act(m -> GroupDecisions.add(m, helpers, List.of(inner), null, ""));
    house.hold(ShippedMandate.HELP_DESK.id(), helpers);
    house.act(m -> GroupDecisions.setOwners(m, inner, List.of(), List.of(clerk)));
    Authority owner = house.authority(clerk);
    assertThat(house.refused(owner, m -> GroupDecisions.add(m, inner, List.of(deckhand), null, "")))
        .containsExactly("power-lacked");
    Authority ines = house.authority(steward);
    house.act(ines, m -> GroupDecisions.add(m, inner, List.of(deckhand), null, ""));
    assertThat(house.refused(ines, m -> GroupDecisions.add(m, inner, List.of(steward), null, "")))
        .containsExactly("own-gain");
    assertThat(house.authority(deckhand).mandates()).containsExactly("Help desk");
  }

  @Test
  void whoChangesWhatAnotherHasChangedIsTold() {
    house.act(m -> GroupDecisions.rename(m, desk, "Refund desk", "Refunds"));
    assertThat(
            house.refused(
                Authority.SETUP, m -> GroupDecisions.rename(m, desk, "Refund desk", "Desk")))
        .containsExactly("changed-meanwhile");
    assertThat(house.directory().group(desk).orElseThrow().name()).isEqualTo("Refunds");
  }

  @Test
  void allThatIsWrongIsSaidAtOnce() {
    FactValue.Form bad = new FactValue.Form.ByFilter("unti eq 1");
    assertThat(house.refused(Authority.SETUP, m -> GroupDecisions.make(m, "REFUND DESK", bad, "")))
        .containsExactly("group.name-taken", "filter.wrong");
  }

  @Test
  void endingAGroupEndsItsMembershipsAndItsPlacesInOthers() {
    GroupId outer = make("Outer");
    house.act(m -> GroupDecisions.add(m, outer, List.of(desk), null, ""));
    house.act(m -> GroupDecisions.add(m, desk, List.of(clerk), null, ""));
    house.act(m -> GroupDecisions.end(m, desk, "no longer"));
    assertThat(house.directory().group(desk)).isEmpty();
    assertThat(house.directory().members(outer)).isEmpty();
    assertThat(house.directory().groupsOf(clerk)).isEmpty();
    house.hold(ShippedMandate.AUDITOR.id(), outer);
    assertThat(house.refused(house.authority(steward), m -> GroupDecisions.end(m, outer, "")))
        .containsExactly("group.holds-mandate");
  }

  @Test
  void onlyTheActiveMayDoAnything() {
    house.act(
        m -> {
          var edits = m.edits();
          edits.put(
              new FactKey.Status(steward),
              FactValue.Standing.of(eleutheria.core.facts.PersonStatus.PAUSED));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    assertThat(house.authority(steward).powers()).isEmpty();
  }

  private <T> List<String> refused(java.util.function.Function<Moment, Outcome<T>> decision) {
    return house.refused(Authority.SETUP, decision);
  }

  @Test
  void aGroupHasANameAndAFormOfItsOwn() {
    FactValue.Form listed = new FactValue.Form.Listed();
    assertThat(refused(m -> GroupDecisions.make(m, " ", listed, "")))
        .containsExactly("group.no-name");
    assertThat(refused(m -> GroupDecisions.make(m, "x".repeat(121), listed, "")))
        .containsExactly("group.long-name");
    // A mirrored one comes with a file, and a filter must be one.
    SourceId source = new SourceId(new UUID(3, 3));
    assertThat(refused(m -> GroupDecisions.make(m, "A", new FactValue.Form.Mirrored(source), "")))
        .containsExactly("group.mirrored");
    assertThat(refused(m -> GroupDecisions.make(m, "A", new FactValue.Form.ByFilter("unit ="), "")))
        .containsExactly("filter.wrong");
    assertThat(refused(m -> GroupDecisions.setFilter(m, desk, "", "unit pr", "")))
        .containsExactly("group.no-filter");
  }

  @Test
  void whoIsAddedIsThereAndTheLastDayIsToCome() {
    LocalDate today = house.now().atZone(House.ZONE).toLocalDate();
    assertThat(refused(m -> GroupDecisions.add(m, desk, List.of(), today.minusDays(1), "")))
        .containsExactly("membership.over", "membership.nobody");
    PersonId gone = house.person("Mina", "Ticketing");
    house.status(gone, PersonStatus.DEPARTED);
    MandateId mandate = new MandateId(new UUID(5, 9));
    assertThat(
            refused(
                m ->
                    GroupDecisions.add(
                        m, desk, List.of(gone, new PersonId(new UUID(9, 9)), mandate), null, "")))
        .containsExactly("membership.departed", "absent", "membership.kind");
  }

  @Test
  void noGroupIsInItself() {
    GroupId inner = make("Inner");
    GroupId inmost = make("Inmost");
    house.act(m -> GroupDecisions.add(m, desk, List.of(inner), null, ""));
    house.act(m -> GroupDecisions.add(m, inner, List.of(inmost), null, ""));
    for (GroupId each : List.of(inmost, inner, desk)) {
      assertThat(refused(m -> GroupDecisions.add(m, inmost, List.of(each), null, "")))
          .containsExactly("membership.cycle");
    }
  }

  @Test
  void aGroupThatFollowsAFilterTakesNobodyByHand() {
    GroupId deck =
        house.act(
            m ->
                GroupDecisions.make(
                    m, "Deck", new FactValue.Form.ByFilter("unit eq \"Deck crew\""), ""));
    assertThat(refused(m -> GroupDecisions.add(m, deck, List.of(clerk), null, "")))
        .containsExactly("group.by-filter");
    assertThat(refused(m -> GroupDecisions.remove(m, deck, deckhand, "")))
        .containsExactly("group.by-filter");
  }

  @Test
  void nobodyWhoHasDepartedOwnsAnything() {
    PersonId gone = house.person("Mina", "Ticketing");
    house.status(gone, PersonStatus.DEPARTED);
    assertThat(refused(m -> GroupDecisions.setOwners(m, desk, List.of(), List.of(gone))))
        .containsExactly("owner.departed");
    house.act(m -> GroupDecisions.setOwners(m, desk, List.of(), List.of(clerk)));
    // Whoever has seen other owners has seen something else.
    assertThat(refused(m -> GroupDecisions.setOwners(m, desk, List.of(), List.of(steward))))
        .containsExactly("changed-meanwhile");
  }
}
