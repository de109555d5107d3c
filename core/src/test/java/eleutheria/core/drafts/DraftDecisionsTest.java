package eleutheria.core.drafts;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.SecondYes;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.core.portal.PortalView;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Who may publish what somebody else has gathered. */
class DraftDecisionsTest {
  private final House house = new House();
  private final FreshIds ids = new FreshIds(new SplittableRandom(44));

  private GroupId group(String name) {
    return house.act(m -> GroupDecisions.make(m, name, new FactValue.Form.Listed(), ""));
  }

  private Moment moment() {
    Instant at = house.pass(Duration.ofSeconds(1)).now();
    return new Moment(
        house.facts, house.directory(), at, House.ZONE, () -> ids.next(at), Authority.SETUP);
  }

  private DraftEdit added(int seq, PersonId author, GroupId group, ObjectId member) {
    Moment moment = moment();
    Outcome.Done<Integer> done =
        (Outcome.Done<Integer>) GroupDecisions.add(moment, group, List.of(member), null, "");
    return new DraftEdit(seq, author, moment.at(), done.act(), done.edits());
  }

  private DraftEdit edit(Outcome.Done<?> done) {
    return new DraftEdit(1, new PersonId(new UUID(1, 1)), house.now(), done.act(), done.edits());
  }

  private Outcome<Integer> published(PersonId by, List<DraftEdit> edits) {
    return published(by, edits, null);
  }

  private Outcome<Integer> published(PersonId by, List<DraftEdit> edits, @Nullable PersonId asker) {
    return house.decide(
        house.authority(by),
        m -> {
          Overlay overlay = Overlay.of(m.facts(), edits, m.at());
          Marks seen = Consequences.of(PortalView.at(m), overlay, m.at()).marks();
          return DraftDecisions.publish(
              m,
              new DraftDecisions.Publishing(
                  new DraftId(new UUID(9, 9)), edits, seen, "tried", false, asker));
        });
  }

  /** The way to a mandate may be made by the draft itself, step by step. */
  @Test
  void nobodyPublishesAMandateThatTheyCannotGive() {
    PersonId ines = house.person("Ines Roth", "Yard");
    PersonId petra = house.person("Petra Lindholm", "Yard");
    PersonId oda = house.person("Oda Brekke", "Ticketing");
    GroupId stewards = group("Stewards");
    GroupId middle = group("Middle");
    GroupId low = group("Low");
    house.hold(ShippedMandate.STEWARD.id(), ines);
    house.hold(ShippedMandate.STEWARD.id(), stewards);
    house.hold(ShippedMandate.JOINERS_AND_LEAVERS.id(), petra);
    List<DraftEdit> draft =
        List.of(
            added(1, ines, low, oda),
            added(2, ines, middle, low),
            added(3, ines, stewards, middle));
    assertThat(published(petra, draft)).isInstanceOf(Outcome.Refused.class);
    assertThat(((Outcome.Refused<Integer>) published(petra, draft)).problems())
        .extracting("code")
        .contains("power-lacked");
    assertThat(published(petra, draft.subList(0, 2))).isInstanceOf(Outcome.Done.class);
    assertThat(published(ines, draft.subList(2, 3))).isInstanceOf(Outcome.Done.class);
    assertThat(house.authority(oda).hasEverywhere(Power.MANDATES_EDIT)).isTrue();
  }

  private RuleId rule(EntitlementId one, EntitlementId other) {
    return house.act(
        m ->
            SeparationDecisions.set(
                m,
                null,
                null,
                new FactValue.Separation(
                    "Apart " + m.at(),
                    "One checks the other.",
                    new TreeSet<>(Set.of(one)),
                    new TreeSet<>(Set.of(other))),
                null,
                ""));
  }

  private List<DraftEdit> ending(RuleId rule) {
    return List.of(
        edit((Outcome.Done<RuleId>) SeparationDecisions.end(moment(), rule, "not needed")));
  }

  /** Whoever may be told to make it a draft can open one. */
  @Test
  void whoCanChangeSomethingThatADraftGathersWorksWithDrafts() {
    PersonId keeper = house.person("Rasmus Keep", "Yard");
    PersonId auditor = house.person("Jonas Weir", "Yard");
    PersonId owner = house.person("Nils Sand", "Deck crew");
    house.hold(ShippedMandate.RULE_KEEPER.id(), keeper);
    house.hold(ShippedMandate.AUDITOR.id(), auditor);
    house.role("Refunds", Sensitivity.LOW, owner);
    assertThat(DraftDecisions.works(house.authority(keeper))).isTrue();
    assertThat(DraftDecisions.works(house.authority(owner))).isTrue();
    assertThat(DraftDecisions.works(house.authority(auditor))).isFalse();
  }

  /**
   * A rule for something of high sensitivity is not loosened by one person, as long as there is a
   * second.
   */
  @Test
  void looseningARuleForSomethingHeavyNeedsASecondPerson() {
    PersonId ines = house.person("Ines Roth", "Yard");
    PersonId una = house.person("Una Head", "Yard");
    PersonId owner = house.person("Nils Sand", "Deck crew");
    house.hold(ShippedMandate.STEWARD.id(), ines);
    EntitlementId high = house.role("Refunds", Sensitivity.HIGH, owner);
    EntitlementId low = house.role("Till", Sensitivity.LOW, owner);
    EntitlementId other = house.role("Berths", Sensitivity.LOW, owner);
    List<DraftEdit> loosened = ending(rule(high, low));
    List<DraftEdit> harmless = ending(rule(other, low));
    Outcome<Integer> alone = published(ines, loosened);
    assertThat(alone).as("nobody else could say yes").isInstanceOf(Outcome.Done.class);
    assertThat(((Outcome.Done<Integer>) alone).act().isAlone()).isTrue();
    house.hold(ShippedMandate.STEWARD.id(), una);
    loosened = ending(rule(high, low));
    assertThat(((Outcome.Refused<Integer>) published(ines, loosened)).problems())
        .extracting("code")
        .containsExactly(SecondYes.CODE);
    assertThat(published(una, loosened, ines)).as("the second").isInstanceOf(Outcome.Done.class);
    Outcome<Integer> light2 = published(ines, harmless);
    assertThat(light2).isInstanceOf(Outcome.Done.class);
    assertThat(((Outcome.Done<Integer>) light2).act().isAlone()).isFalse();
  }
}
