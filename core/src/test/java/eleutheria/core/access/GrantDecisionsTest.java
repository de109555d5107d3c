package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class GrantDecisionsTest {
  private final House house = new House();
  private final PersonId steward = house.person("Ines Roth", "Yard");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Deck crew");
  private final EntitlementId role = house.role("Farebox", Sensitivity.LOW);
  private final GroupId desk =
      house.act(m -> GroupDecisions.make(m, "Refund desk", new FactValue.Form.Listed(), ""));

  GrantDecisionsTest() {
    house.hold(ShippedMandate.STEWARD.id(), steward);
  }

  private static FactValue.Subject of(PersonId person) {
    return new FactValue.Subject.OfPerson(person);
  }

  private LocalDate day(int after) {
    return house.now().atZone(House.ZONE).toLocalDate().plusDays(after);
  }

  private Outcome<Integer> give(
      FactValue.Subject subject, @Nullable LocalDate from, @Nullable LocalDate until) {
    return house.decide(
        Authority.SETUP,
        m -> GrantDecisions.give(m, role, List.of(subject), from, until, "because"));
  }

  private GrantId only() {
    assertThat(house.access().grants(role)).hasSize(1);
    return house.access().grants(role).getFirst().id();
  }

  private static List<String> codes(Outcome<?> outcome) {
    assertThat(outcome).isInstanceOf(Outcome.Refused.class);
    return ((Outcome.Refused<?>) outcome).problems().stream().map(Problem::code).toList();
  }

  @Test
  void fromAFirstDayUntilALastDayInTheZone() {
    give(of(oda), day(1), day(2));
    assertThat(house.access().holds(oda, role)).isFalse();
    // Begun at midnight in Oslo, an hour before midnight in UTC.
    house.pass(
        Duration.between(house.now(), day(1).atStartOfDay(House.ZONE).toInstant().minusMillis(1)));
    assertThat(house.access().holds(oda, role)).isFalse();
    house.pass(Duration.ofMillis(2));
    assertThat(house.access().holds(oda, role)).isTrue();
    house.pass(Duration.ofHours(47).plusMinutes(59));
    assertThat(house.access().holds(oda, role)).isTrue();
    house.pass(Duration.ofMinutes(2));
    assertThat(house.access().holds(oda, role)).isFalse();
  }

  @Test
  void everythingThatIsWrongIsTold() {
    assertThat(codes(give(of(oda), day(-1), day(1)))).containsExactly("grant.past");
    assertThat(codes(give(of(oda), day(2), day(1)))).containsExactly("grant.over");
    assertThat(codes(give(new FactValue.Subject.ByFilter("unit qe \"x\""), null, null)))
        .containsExactly("filter.wrong");
    assertThat(codes(give(of(new PersonId(new UUID(1, 1))), null, null))).containsExactly("absent");
    house.status(nils, PersonStatus.DEPARTED);
    assertThat(
            house.refused(
                Authority.SETUP,
                m -> GrantDecisions.give(m, role, List.of(of(nils)), null, null, " ")))
        .containsExactlyInAnyOrder("grant.departed", "grant.no-reason");
    assertThat(
            house.refused(
                Authority.SETUP, m -> GrantDecisions.give(m, role, List.of(), null, null, "x")))
        .containsExactly("grant.nobody");
    give(of(oda), null, null);
    assertThat(codes(give(of(oda), null, day(3)))).containsExactly("grant.there");
    house.state(house.app(role), ApplicationState.OPEN, ApplicationState.RETIRED);
    assertThat(codes(give(new FactValue.Subject.OfGroup(desk), null, null)))
        .containsExactly("grant.app");
  }

  @Test
  void aHoldingStaysWhileAGroundIsLeft() {
    house.act(m -> GroupDecisions.add(m, desk, List.of(oda), null, ""));
    give(of(oda), null, null);
    give(new FactValue.Subject.OfGroup(desk), null, null);
    give(new FactValue.Subject.ByFilter("unit eq \"Ticketing\""), null, null);
    List<Ground> grounds = house.access().grounds(oda, role);
    assertThat(grounds).hasSize(3);
    GrantId own = grounds.getFirst().grant().id();
    house.act(
        m ->
            GrantDecisions.end(
                m, List.of(own), List.of(new GrantDecisions.Place(desk, oda)), "not needed"));
    assertThat(house.access().holds(oda, role)).isTrue();
    assertThat(house.access().grounds(oda, role))
        .singleElement()
        .satisfies(
            g -> {
              assertThat(g.grant().given().subject())
                  .isInstanceOf(FactValue.Subject.ByFilter.class);
              assertThat(g.matched()).containsEntry("unit", List.of("Ticketing"));
            });
    house.set(new FactKey.Attribute(oda, "unit", ""), new FactValue.Text("Safety"));
    assertThat(house.access().holds(oda, role)).isFalse();
  }

  @Test
  void anEndIsOnceAndHasAReason() {
    give(of(oda), null, null);
    GrantId grant = only();
    assertThat(
            house.refused(
                Authority.SETUP, m -> GrantDecisions.end(m, List.of(grant), List.of(), "")))
        .containsExactly("grant.no-reason");
    house.act(m -> GrantDecisions.end(m, List.of(grant), List.of(), "over"));
    assertThat(
            house.refused(
                Authority.SETUP, m -> GrantDecisions.end(m, List.of(grant), List.of(), "over")))
        .containsExactly("grant.ended");
    assertThat(
            house.refused(
                Authority.SETUP, m -> GrantDecisions.end(m, List.of(), List.of(), "over")))
        .containsExactly("grant.none");
  }

  @Test
  void theEndIsMovedFromWhatTheEditorSaw() {
    give(of(oda), null, day(5));
    GrantId grant = only();
    house.act(m -> GrantDecisions.setUntil(m, grant, day(5), day(9), "longer"));
    assertThat(
            house.refused(
                Authority.SETUP, m -> GrantDecisions.setUntil(m, grant, day(5), null, "mine")))
        .containsExactly("changed-meanwhile");
    house.pass(Duration.ofDays(7));
    assertThat(house.access().holds(oda, role)).isTrue();
    house.pass(Duration.ofDays(4));
    assertThat(house.access().holds(oda, role)).isFalse();
  }

  // ---- power by effect

  /** What the judge says of a decision, before it is taken. */
  private <T> List<String> judged(
      Authority authority,
      Function<eleutheria.core.directory.Moment, Outcome<T>> decision,
      Outcome.Right right) {
    List<String> codes = new ArrayList<>();
    house.watch(
        (before, directory, edits, moves, at) ->
            EffectJudge.judge(
                    new eleutheria.core.directory.Moment(
                        before, directory, at, House.ZONE, UUID::randomUUID, authority),
                    AccessView.of(before, directory, at),
                    Effects.of(before, directory, edits, moves, at),
                    edits,
                    right)
                .forEach(problem -> codes.add(problem.code())));
    house.decide(authority, decision);
    house.watch((before, directory, edits, moves, at) -> {});
    return codes;
  }

  private Authority keeper(String unit, String... powers) {
    PersonId keeper = house.person("Keeper of " + unit, unit);
    MandateId mandate = new MandateId(new UUID(5, unit.hashCode()));
    house.set(
        new FactKey.Mandate(mandate),
        new FactValue.Terms("Keeper", "", new TreeSet<>(List.of(powers)), Reach.units(unit)));
    house.hold(mandate, keeper);
    return house.authority(keeper);
  }

  @Test
  void puttingSomeoneIntoAGroupNeedsThePowerToGiveWhatItLeadsTo() {
    give(new FactValue.Subject.OfGroup(desk), null, null);
    Authority groupsOnly = keeper("Ticketing", "groups.edit", "people.read");
    assertThat(
            judged(
                groupsOnly,
                m -> GroupDecisions.add(m, desk, List.of(oda), null, ""),
                Outcome.Right.BY_EFFECT))
        .containsExactly("effect");
  }

  @Test
  void whatWillBeGivenLaterNeedsThePowerNow() {
    house.act(
        m ->
            GrantDecisions.give(
                m, role, List.of(new FactValue.Subject.OfGroup(desk)), day(20), null, "soon"));
    Authority groupsOnly = keeper("Ticketing", "groups.edit", "people.read");
    assertThat(
            judged(
                groupsOnly,
                m -> GroupDecisions.add(m, desk, List.of(oda), null, ""),
                Outcome.Right.BY_EFFECT))
        .containsExactly("effect");
  }

  @Test
  void whoOwnsAGroupFillsItButForWhatIsHeavy() {
    give(new FactValue.Subject.OfGroup(desk), null, null);
    assertThat(
            judged(
                keeper("Ticketing", "people.read"),
                m -> GroupDecisions.add(withAll(m), desk, List.of(oda), null, ""),
                Outcome.Right.AS_GROUP_OWNER))
        .isEmpty();
    EntitlementId high = house.role("Refund Bench", Sensitivity.HIGH);
    house.act(
        m ->
            GrantDecisions.give(
                m, high, List.of(new FactValue.Subject.OfGroup(desk)), null, null, "x"));
    assertThat(
            judged(
                keeper("Safety", "people.read"),
                m -> GroupDecisions.add(withAll(m), desk, List.of(nils), null, ""),
                Outcome.Right.AS_GROUP_OWNER))
        .containsExactly("effect");
  }

  /** The same moment with all powers: what is judged here is the effect, not the form. */
  private static eleutheria.core.directory.Moment withAll(eleutheria.core.directory.Moment m) {
    return new eleutheria.core.directory.Moment(
        m.facts(), m.directory(), m.at(), m.zone(), m.ids(), Authority.SETUP);
  }

  @Test
  void nobodyGainsByTheirOwnAct() {
    PersonId other = house.person("Uma Second", "Yard");
    house.hold(ShippedMandate.STEWARD.id(), other);
    assertThat(
            judged(
                house.authority(steward),
                m -> GrantDecisions.give(m, role, List.of(of(steward)), null, null, "me"),
                Outcome.Right.BY_EFFECT))
        .containsExactly("own-gain");
    assertThat(
            judged(
                house.authority(steward),
                m -> GrantDecisions.give(m, role, List.of(of(oda)), null, null, "her"),
                Outcome.Right.BY_EFFECT))
        .isEmpty();
  }
}
