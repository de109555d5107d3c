package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Asking on somebody else's behalf: for whom, who decides it then, and who is told. */
class AskingTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);

  private final House house = new House();
  private final PersonId steward = house.person("Ines Roth", "Yard");
  private final PersonId head = house.person("Una Head", "Ticketing");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Deck crew");
  private final PersonId siri = house.person("Siri Vik", "Deck crew");
  private final EntitlementId role = house.role("Refund Bench", Sensitivity.LOW, nils, siri);

  AskingTest() {
    house.hold(ShippedMandate.STEWARD.id(), steward);
    house.manager(oda, lena);
    house.manager(lena, head);
    house.manager(siri, nils);
  }

  private Outcome<AccessRequest> tries(
      PersonId asker, PersonId person, Collection<AccessRequest> others) {
    return house.decide(
        house.authority(asker),
        m -> RequestDecisions.ask(m, 1, person, role, null, "for the counter", Map.of(), others));
  }

  private AccessRequest asks(PersonId asker, PersonId person) {
    return ((Outcome.Done<AccessRequest>) tries(asker, person, List.of())).result();
  }

  private List<String> refused(PersonId asker, PersonId person, Collection<AccessRequest> others) {
    return ((Outcome.Refused<AccessRequest>) tries(asker, person, others))
        .problems().stream().map(problem -> problem.sentence()).toList();
  }

  private Outcome<AccessRequest> decides(PersonId who, AccessRequest request, int step) {
    Outcome<AccessRequest> outcome =
        house.decide(
            house.authority(who),
            m -> RequestDecisions.answer(m, request, step, true, null, "a word", TAKE_BACK));
    house.pass(TAKE_BACK);
    return outcome;
  }

  private AccessRequest yes(PersonId who, AccessRequest request, int step) {
    return ((Outcome.Done<AccessRequest>) decides(who, request, step)).result();
  }

  private static List<String> told(Outcome<AccessRequest> outcome) {
    return ((Outcome.Done<AccessRequest>) outcome)
        .errands().stream()
            .map(Errand.TellOfRequest.class::cast)
            .map(errand -> errand.tale() + " " + errand.person().value())
            .toList();
  }

  private static String tale(Errand.Tale tale, PersonId to) {
    return tale + " " + to.value();
  }

  @Test
  void managersAskForAllBelowThemAndNobodyElseDoes() {
    assertThat(asks(lena, oda).wish()).isEqualTo(new Wish(lena, oda, role));
    assertThat(asks(head, oda).wish()).isEqualTo(new Wish(head, oda, role));
    // A steward reaches everybody; an owner sees who holds it, and not the people.
    assertThat(asks(steward, oda).wish()).isEqualTo(new Wish(steward, oda, role));
    for (PersonId asker : List.of(oda, nils)) {
      assertThat(refused(asker, lena, List.of()))
          .containsExactly("You cannot ask for this person.");
    }
    // Nobody is found by trying: it is the same for somebody whom there is not.
    assertThat(refused(lena, new PersonId(new UUID(7, 7)), List.of()))
        .containsExactly("You cannot ask for this person.");
  }

  @Test
  void neitherWhoAsksNorWhomItIsForDecides() {
    AccessRequest request = asks(lena, oda);
    // Her manager has asked, so the one above decides.
    Deciders first = Deciders.of(house.access(), request, 0);
    assertThat(first).isEqualTo(new Deciders(Deciders.Capacity.MANAGERS_MANAGER, List.of(head)));
    for (PersonId one : List.of(lena, oda)) {
      assertThat(decides(one, request, 0)).isInstanceOf(Outcome.Refused.class);
      assertThat(RequestReaders.mayDecide(house.authority(one), house.access(), request)).isFalse();
    }
    // A steward who has asked does not step in either, and an owner who would hold it is left out.
    AccessRequest stewards = asks(steward, siri);
    assertThat(decides(steward, stewards, 0)).isInstanceOf(Outcome.Refused.class);
    assertThat(Deciders.of(house.access(), stewards, 1).people()).containsExactly(nils);
  }

  @Test
  void whatOnlyAStewardCouldDecideIsNotAskedByTheOnlyOne() {
    PersonId alone = house.person("Mina Sato", "Ticketing");
    assertThat(refused(steward, alone, List.of()))
        .containsExactly("Nobody could decide on this; tell a steward.");
    PersonId second = house.person("Una Vik", "Yard");
    house.hold(ShippedMandate.STEWARD.id(), second);
    AccessRequest request = asks(steward, alone);
    assertThat(Deciders.of(house.access(), request, 0).people()).containsExactly(second);
    // Where the second leaves as well, nobody is left: it comes to its end by the clock.
    house.status(second, PersonStatus.DEPARTED);
    house.pass(Duration.ofDays(14));
    assertThat(
            house.act(m -> RequestDecisions.lapse(m, request, house.now()).orElseThrow()).stage())
        .isInstanceOf(Stage.Lapsed.class);
  }

  @Test
  void whomItIsForGetsItAndBothAreTold() {
    Outcome<AccessRequest> outcome = tries(lena, oda, List.of());
    assertThat(told(outcome))
        .containsExactlyInAnyOrder(
            tale(Errand.Tale.TO_DECIDE, head), tale(Errand.Tale.ASKED_FOR_YOU, oda));
    AccessRequest request = ((Outcome.Done<AccessRequest>) outcome).result();
    AccessRequest second = yes(head, request, 0);
    Outcome<AccessRequest> last = decides(nils, second, 1);
    assertThat(told(last))
        .containsExactlyInAnyOrder(tale(Errand.Tale.GIVEN, lena), tale(Errand.Tale.GIVEN, oda));
    assertThat(house.access().entitled(oda, role)).isTrue();
    assertThat(house.access().entitled(lena, role)).isFalse();
    // The ledger finds it by either.
    assertThat(((Outcome.Done<AccessRequest>) last).act().objects())
        .contains(lena, oda)
        .doesNotHaveDuplicates();
  }

  @Test
  void bothReadItAnswerAndWithdraw() {
    AccessRequest request = asks(lena, oda);
    Outcome<ThreadDecisions.Spoken> question =
        house.decide(
            house.authority(head),
            m -> ThreadDecisions.askBack(m, request, List.of(), "For how long?"));
    AccessRequest asked = ((Outcome.Done<ThreadDecisions.Spoken>) question).result().request();
    List<Message> thread = new ArrayList<>();
    thread.add(((Outcome.Done<ThreadDecisions.Spoken>) question).result().message());
    for (PersonId one : List.of(lena, oda)) {
      AccessRequest after =
          house
              .act(house.authority(one), m -> ThreadDecisions.say(m, asked, thread, "Until May."))
              .request();
      assertThat(after.stage()).isInstanceOf(Stage.Waiting.class);
      AccessRequest withdrawn =
          house.act(house.authority(one), m -> RequestDecisions.withdraw(m, request));
      assertThat(withdrawn.stage()).isInstanceOf(Stage.Withdrawn.class);
    }
    assertThat(house.refused(house.authority(siri), m -> RequestDecisions.withdraw(m, request)))
        .containsExactly("absent");
  }

  @Test
  void theSameIsNotAskedForTwiceWhoeverAsks() {
    AccessRequest own = asks(oda, oda);
    assertThat(refused(lena, oda, List.of(own)))
        .containsExactly("Someone has asked for it for Oda Brekke already: R-1 is waiting.");
    AccessRequest other = asks(lena, oda);
    assertThat(refused(lena, oda, List.of(other)))
        .containsExactly("You have asked for Oda Brekke already: R-1 is waiting.");
    assertThat(refused(oda, oda, List.of(other)))
        .containsExactly("Someone has asked for it for you already: R-1 is waiting.");
    // What waits for somebody else does not count.
    assertThat(tries(lena, lena, List.of(own, other))).isInstanceOf(Outcome.Done.class);
  }

  @Test
  void nothingIsAskedForThoseWhoHoldItOrHaveLeft() {
    AccessRequest request = asks(lena, oda);
    yes(nils, yes(head, request, 0), 1);
    assertThat(refused(lena, oda, List.of()))
        .containsExactly("Oda Brekke holds Refund Bench · User already.");
    house.status(oda, PersonStatus.DEPARTED);
    assertThat(refused(steward, oda, List.of())).contains("Oda Brekke has departed.");
  }

  @Test
  void aDeputyForWhomItIsAskedOrWhoAsksDoesNotDecide() {
    for (PersonId deputy : List.of(oda, lena)) {
      house.set(
          new FactKey.Deputy(head, deputy),
          new FactValue.Duties(new TreeSet<>(List.of(Duty.values()))));
    }
    AccessRequest request = asks(lena, oda);
    assertThat(Deciders.of(house.access(), request, 0).deputies()).isEmpty();
    // For somebody else of the team the same deputies may.
    PersonId mina = house.person("Mina Sato", "Ticketing");
    house.manager(mina, lena);
    AccessRequest another = asks(lena, mina);
    assertThat(Deciders.of(house.access(), another, 0).deputies()).containsOnlyKeys(oda);
  }
}
