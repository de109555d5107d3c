package eleutheria.core.drafts;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import eleutheria.core.portal.PortalView;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Who may publish what somebody else has gathered. */
class DraftDecisionsTest {
  private final House house = new House();
  private final FreshIds ids = new FreshIds(new SplittableRandom(44));

  private GroupId group(String name) {
    return house.act(m -> GroupDecisions.make(m, name, new FactValue.Form.Listed(), ""));
  }

  private DraftEdit added(int seq, PersonId author, GroupId group, ObjectId member) {
    Instant at = house.pass(Duration.ofSeconds(1)).now();
    Moment moment =
        new Moment(
            house.facts, house.directory(), at, House.ZONE, () -> ids.next(at), Authority.SETUP);
    Outcome.Done<Integer> done =
        (Outcome.Done<Integer>) GroupDecisions.add(moment, group, List.of(member), null, "");
    return new DraftEdit(seq, author, at, done.act(), done.edits());
  }

  private Outcome<Integer> published(PersonId by, List<DraftEdit> edits) {
    return house.decide(
        house.authority(by),
        m -> {
          Overlay overlay = Overlay.of(m.facts(), edits, m.at());
          Marks seen = Consequences.of(PortalView.at(m), overlay, m.at()).marks();
          return DraftDecisions.publish(
              m,
              new DraftDecisions.Publishing(
                  new DraftId(new UUID(9, 9)), edits, seen, "tried", false, null));
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
}
