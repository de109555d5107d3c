package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class PassOnDecisionsTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);

  private final House house = new House();
  private final PersonId head = house.person("Petra Lindholm", "Ticketing");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId mina = house.person("Mina Sand", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Finance");
  private final PersonId stranger = house.person("Siri Dahl", "Ticketing");
  private final PersonId ines = house.person("Ines Roth", null);
  private final EntitlementId role = house.role("Refund Bench", Sensitivity.LOW, nils);
  private final List<Message> thread = new ArrayList<>();
  private AccessRequest request;

  @BeforeEach
  void asks() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
    house.manager(lena, head);
    house.manager(oda, lena);
    house.manager(mina, lena);
    request =
        house.act(
            house.authority(oda),
            m ->
                RequestDecisions.ask(
                    m, 2001, oda, role, null, "For the till.", Map.of(), List.of()));
  }

  private Stage.Open open() {
    return (Stage.Open) request.stage();
  }

  private List<PersonId> may(PersonId who) {
    return PassOnDecisions.to(house.access(), request, open(), who);
  }

  private Outcome.Done<ThreadDecisions.Spoken> passes(PersonId who, PersonId to) {
    Outcome<ThreadDecisions.Spoken> outcome =
        house.decide(
            house.authority(who),
            m -> PassOnDecisions.passOn(m, request, thread, to, " Mina knows the till. "));
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
    Outcome.Done<ThreadDecisions.Spoken> done = (Outcome.Done<ThreadDecisions.Spoken>) outcome;
    request = done.result().request();
    thread.add(done.result().message());
    return done;
  }

  private List<String> refused(PersonId who, PersonId to, String word) {
    return house.refused(
        house.authority(who), m -> PassOnDecisions.passOn(m, request, thread, to, word));
  }

  private void decides(PersonId who, int step) {
    request =
        house.act(
            house.authority(who),
            m -> RequestDecisions.answer(m, request, step, true, null, "", TAKE_BACK));
  }

  @Test
  void itGoesToWhoeverItWasPassedOnToAndTheyDecide() {
    Stage.Open before = open();
    Outcome.Done<ThreadDecisions.Spoken> done = passes(lena, mina);
    assertThat(done.act().name()).isEqualTo(ActName.REQUEST_PASS_ON);
    assertThat(done.act().objects()).contains(request.id(), oda, role, mina);
    // The words stand in the thread alone.
    assertThat(done.act().reason()).isEmpty();
    assertThat(done.result().message())
        .isEqualTo(
            new Message(lena, Message.Kind.PASSED, "Mina knows the till.", house.now(), mina));
    assertThat(done.errands())
        .containsExactly(
            new Errand.TellOfRequest(mina, request.id(), Errand.Tale.TO_DECIDE, Duration.ZERO));
    assertThat(open().lapses()).isEqualTo(before.lapses());
    assertThat(Deciders.of(house.access(), request, open()))
        .isEqualTo(new Deciders(Deciders.Capacity.PASSED_ON, List.of(mina)));
    // Whoever has passed it on reads along, and does not decide any more.
    assertThat(RequestReaders.readsThread(house.authority(lena), house.access(), request, thread))
        .isTrue();
    assertThat(
            house.refused(
                house.authority(lena),
                m -> RequestDecisions.answer(m, request, 0, true, null, "", TAKE_BACK)))
        .containsExactly("request.not-yours");
    assertThat(RequestReaders.reads(house.authority(lena), house.access(), request)).isTrue();
    decides(mina, 0);
    assertThat(RequestReaders.reads(house.authority(lena), house.access(), request)).isTrue();
    assertThat(RequestReaders.reads(house.authority(stranger), house.access(), request)).isFalse();
    assertThat(request.answers().getFirst().capacity()).isEqualTo(Deciders.Capacity.PASSED_ON);
    // The next step has its own people again.
    assertThat(open().passed()).isNull();
    assertThat(Deciders.of(house.access(), request, open()).people()).containsExactly(nils);
    // Taken back, it lies with her as before.
    request =
        house.act(house.authority(mina), m -> RequestDecisions.takeBack(m, request, TAKE_BACK));
    assertThat(open().passed()).isEqualTo(new Stage.PassedOn(mina, lena));
  }

  @Test
  void onlyTheirOwnPeopleAreNamedNeverTheAskerNorWhoDecidesAlready() {
    // Nils decides the next step, so that this one is not for him as well.
    assertThat(may(lena)).containsExactlyInAnyOrder(head, mina, ines);
    house.status(mina, PersonStatus.PAUSED);
    assertThat(may(lena)).doesNotContain(mina, oda, lena, stranger);
    for (PersonId nobody : List.of(oda, lena, stranger, mina, nils)) {
      assertThat(refused(lena, nobody, "Yours.")).containsExactly("request.pass-on");
    }
    // Managers in a circle: it ends where it closes.
    house.manager(head, oda);
    assertThat(may(lena)).containsExactlyInAnyOrder(head, ines);
  }

  /** She manages and owns, and would have decided both by one yes: it can come back to her. */
  @Test
  void itComesBackToWhoeverDecidesItByThePath() {
    EntitlementId own = house.role("Tide Book", Sensitivity.LOW, lena);
    request =
        house.act(
            house.authority(oda),
            m ->
                RequestDecisions.ask(
                    m, 2002, oda, own, null, "For the pier.", Map.of(), List.of()));
    passes(lena, mina);
    assertThat(may(mina)).containsExactlyInAnyOrder(head, lena, ines);
    passes(mina, lena);
    decides(lena, 0);
    assertThat(request.stage()).isInstanceOf(Stage.Given.class);
  }

  @Test
  void nobodyWhoHasDecidedOneStepIsHandedTheNext() {
    decides(lena, 0);
    house.pass(TAKE_BACK);
    assertThat(may(nils)).containsExactlyInAnyOrder(head, ines);
    assertThat(refused(nils, lena, "Yours.")).containsExactly("request.pass-on");
    passes(nils, head);
    decides(head, 1);
    assertThat(request.stage()).isInstanceOf(Stage.Given.class);
  }

  @Test
  void onlyWhoeverDecidesPassesItOnAndSaysWhy() {
    assertThat(refused(stranger, head, "Yours.")).containsExactly("absent");
    assertThat(refused(oda, head, "Yours.")).containsExactly("request.not-yours");
    assertThat(refused(lena, mina, "  ")).containsExactly("request.no-text");
    assertThat(refused(lena, mina, "x".repeat(ThreadDecisions.LONGEST_TEXT + 1))).hasSize(1);
    passes(lena, mina);
    assertThat(refused(lena, head, "Yours.")).containsExactly("request.not-yours");
    // A steward may move it where it lies still; she may hand it back where she cannot decide.
    passes(ines, head);
    passes(head, lena);
    assertThat(Deciders.of(house.access(), request, open()).people()).containsExactly(lena);
    decides(lena, 0);
    assertThat(refused(lena, mina, "Yours.")).containsExactly("changed-meanwhile");
  }

  @Test
  void whoLeavesGivesItBackToThosePeopleWhoDecideByThePath() {
    passes(lena, mina);
    house.status(mina, PersonStatus.DEPARTED);
    assertThat(Deciders.of(house.access(), request, open()))
        .isEqualTo(new Deciders(Deciders.Capacity.MANAGER, List.of(lena)));
    passes(lena, ines);
    request = house.act(house.authority(oda), m -> RequestDecisions.withdraw(m, request));
    assertThat(refused(ines, lena, "Yours.")).containsExactly("changed-meanwhile");
  }

  @Test
  void aQuestionStaysAskedWhenItIsPassedOn() {
    Outcome<ThreadDecisions.Spoken> asked =
        house.decide(
            house.authority(lena), m -> ThreadDecisions.askBack(m, request, thread, "Which till?"));
    request = ((Outcome.Done<ThreadDecisions.Spoken>) asked).result().request();
    passes(lena, mina);
    assertThat(request.stage()).isInstanceOf(Stage.AskedBack.class);
    Outcome<ThreadDecisions.Spoken> said =
        house.decide(
            house.authority(oda), m -> ThreadDecisions.say(m, request, thread, "The first."));
    // The answer reaches whoever asked, and whoever decides now.
    assertThat(((Outcome.Done<ThreadDecisions.Spoken>) said).errands())
        .containsExactly(
            new Errand.TellOfRequest(lena, request.id(), Errand.Tale.ANSWERED, Duration.ZERO),
            new Errand.TellOfRequest(mina, request.id(), Errand.Tale.ANSWERED, Duration.ZERO));
    request = ((Outcome.Done<ThreadDecisions.Spoken>) said).result().request();
    assertThat(open().passed()).isEqualTo(new Stage.PassedOn(mina, lena));
    assertThat(Deciders.of(house.access(), request, open()).people()).containsExactly(mina);
  }
}
