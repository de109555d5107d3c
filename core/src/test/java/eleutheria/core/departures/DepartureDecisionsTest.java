package eleutheria.core.departures;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.Reference;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class DepartureDecisionsTest {
  private final House house = new House();
  private final PersonId steward = house.person("Ines Roth", "Yard");
  private final PersonId leaver = house.person("Tomas Ilves", "Yard");

  DepartureDecisionsTest() {
    house.hold(ShippedMandate.STEWARD.id(), steward);
  }

  private void give(EntitlementId role, FactValue.Subject subject) {
    house.act(m -> GrantDecisions.give(m, role, List.of(subject), null, null, "x"));
  }

  @Test
  void everythingEndsAndTheSlipTellsWhatStaysWithoutEffect() {
    EntitlementId own = house.role("Spare Shelf", Sensitivity.LOW);
    EntitlementId byGroup = house.role("Dry Dock", Sensitivity.HIGH);
    EntitlementId byFilter = house.role("Payrow", Sensitivity.LOW);
    GroupId listed =
        house.act(m -> GroupDecisions.make(m, "Keys", new FactValue.Form.Listed(), ""));
    GroupId filtered =
        house.act(
            m ->
                GroupDecisions.make(
                    m, "Yard", new FactValue.Form.ByFilter("unit eq \"Yard\""), ""));
    house.act(m -> GroupDecisions.add(m, listed, List.of(leaver), null, ""));
    house.act(m -> GroupDecisions.setOwners(m, listed, List.of(), List.of(leaver)));
    give(own, new FactValue.Subject.OfPerson(leaver));
    give(byGroup, new FactValue.Subject.OfGroup(listed));
    give(byFilter, new FactValue.Subject.ByFilter("unit eq \"Yard\""));
    house.hold(ShippedMandate.AUDITOR.id(), leaver);

    Slip slip =
        house.act(
            house.authority(steward),
            m -> DepartureDecisions.depart(m, leaver, 2, "left on good terms"));

    assertThat(slip.lost()).containsExactlyInAnyOrder(own, byGroup, byFilter);
    assertThat(slip.grants().stream().map(Slip.EndedGrant::entitlement)).containsExactly(own);
    assertThat(slip.memberships()).containsExactly(listed);
    assertThat(slip.mandates()).containsExactly(ShippedMandate.AUDITOR.id());
    assertThat(slip.byFilter()).contains(filtered);
    assertThat(slip.filterGrants()).containsExactly(byFilter);
    assertThat(slip.lone()).containsExactly(listed);
    assertThat(slip.requests()).isEqualTo(2);

    Reference reference = new Reference(house.facts);
    for (EntitlementId role : List.of(own, byGroup, byFilter)) {
      assertThat(reference.holds(leaver, role, house.now())).isFalse();
      // Nothing that was to begin later comes back either.
      assertThat(reference.holds(leaver, role, house.now().plus(Duration.ofDays(400)))).isFalse();
    }
    assertThat(house.authority(leaver).has(eleutheria.core.mandates.Power.LEDGER_READ)).isFalse();
    assertThat(house.directory().person(leaver).orElseThrow().status())
        .isEqualTo(PersonStatus.DEPARTED);
    // Others who were given it by group and filter keep it.
    assertThat(reference.entitled(steward, byFilter, house.now())).isTrue();
  }

  @Test
  void itIsRunOnceForAnotherWithPowerAndReason() {
    EntitlementId role = house.role("Payrow", Sensitivity.LOW);
    assertThat(role).isNotNull();
    PersonId clerk = house.person("Oda Brekke", "Ticketing");
    assertThat(
            house.refused(
                house.authority(clerk), m -> DepartureDecisions.depart(m, leaver, 0, "x")))
        .containsExactly("power");
    assertThat(
            house.refused(
                house.authority(steward), m -> DepartureDecisions.depart(m, steward, 0, "x")))
        .contains("departure.own");
    assertThat(
            house.refused(
                house.authority(steward), m -> DepartureDecisions.depart(m, leaver, 0, "")))
        .containsExactly("departure.no-reason");
    house.act(house.authority(steward), m -> DepartureDecisions.depart(m, leaver, 0, "x"));
    assertThat(
            house.refused(
                house.authority(steward), m -> DepartureDecisions.depart(m, leaver, 0, "x")))
        .containsExactly("changed-meanwhile");
  }
}
