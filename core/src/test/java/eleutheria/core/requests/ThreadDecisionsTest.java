package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class ThreadDecisionsTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);

  private final House house = new House();
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Finance");
  private final PersonId stranger = house.person("Siri Dahl", "Ticketing");
  private final PersonId ines = house.person("Ines Roth", null);
  private final EntitlementId role = house.role("Refund Bench", Sensitivity.LOW, nils);
  private final List<Message> thread = new ArrayList<>();
  private AccessRequest request;

  @BeforeEach
  void asks() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
    house.manager(oda, lena);
    request =
        house.act(
            house.authority(oda),
            m ->
                RequestDecisions.ask(
                    m,
                    2001,
                    oda,
                    role,
                    null,
                    "I close the till on Saturdays.",
                    Map.of(),
                    List.of()));
  }

  private Outcome.Done<ThreadDecisions.Spoken> does(
      PersonId who, Function<Moment, Outcome<ThreadDecisions.Spoken>> decision) {
    Outcome<ThreadDecisions.Spoken> outcome = house.decide(house.authority(who), decision);
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
    Outcome.Done<ThreadDecisions.Spoken> done = (Outcome.Done<ThreadDecisions.Spoken>) outcome;
    request = done.result().request();
    if (done.result().message() != null) {
      thread.add(done.result().message());
    }
    return done;
  }

  private List<String> refused(
      Authority who, Function<Moment, Outcome<ThreadDecisions.Spoken>> decision) {
    return house.refused(who, decision);
  }

  private Outcome.Done<ThreadDecisions.Spoken> asksBack(PersonId who, String question) {
    return does(who, m -> ThreadDecisions.askBack(m, request, thread, question));
  }

  private Outcome.Done<ThreadDecisions.Spoken> says(PersonId who, String text) {
    return does(who, m -> ThreadDecisions.say(m, request, thread, text));
  }

  /** What something comes to at this moment, without doing it. */
  private <T> Optional<T> at(Function<Moment, Optional<T>> what) {
    AtomicReference<Optional<T>> found = new AtomicReference<>(Optional.empty());
    house.decide(
        Authority.NONE,
        moment -> {
          found.set(what.apply(moment));
          return Outcome.refused(Problem.absent("nothing"));
        });
    return found.get();
  }

  private Instant lapses() {
    return ((Stage.Open) request.stage()).lapses();
  }

  @Test
  void theClockStandsUntilTheAskerAnswers() {
    Instant before = lapses();
    house.pass(Duration.ofDays(2));
    Outcome.Done<ThreadDecisions.Spoken> asked = asksBack(lena, " Which till? ");
    assertThat(asked.act().name()).isEqualTo(ActName.REQUEST_ASK_BACK);
    // What was written stands in the thread, and not in the ledger.
    assertThat(asked.act().reason()).isEmpty();
    assertThat(thread.getLast().text()).isEqualTo("Which till?");
    assertThat(asked.errands())
        .containsExactly(
            new Errand.TellOfRequest(oda, request.id(), Errand.Tale.ASKED_BACK, Duration.ZERO));
    house.pass(Duration.ofDays(3));
    Outcome.Done<ThreadDecisions.Spoken> answered = says(oda, "Harrow Quay, the second one.");
    assertThat(answered.act().name()).isEqualTo(ActName.REQUEST_ANSWER_BACK);
    assertThat(thread.getLast().kind()).isEqualTo(Message.Kind.ANSWERED);
    assertThat(answered.errands())
        .containsExactly(
            new Errand.TellOfRequest(lena, request.id(), Errand.Tale.ANSWERED, Duration.ZERO));
    assertThat(request.stage()).isInstanceOf(Stage.Waiting.class);
    assertThat(Duration.between(before, lapses()))
        .isBetween(Duration.ofDays(3), Duration.ofDays(3).plusSeconds(5));
  }

  @Test
  void nobodyElsesWordIsTheAnswer() {
    asksBack(lena, "Which till?");
    says(lena, "I mean, on which quay?");
    assertThat(request.stage()).isInstanceOf(Stage.AskedBack.class);
    assertThat(thread.getLast().kind()).isEqualTo(Message.Kind.SAID);
    // Asked a second time, one waits for the answer to the first.
    assertThat(
            refused(
                house.authority(ines),
                m -> ThreadDecisions.askBack(m, request, thread, "And why?")))
        .containsExactly("request.asked-back");
  }

  @Test
  void itCanBeDecidedWithoutAnAnswerAndTakenBackToTheQuestion() {
    asksBack(lena, "Which till?");
    Stage before = request.stage();
    request =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, true, null, "I know now", TAKE_BACK));
    assertThat(((Stage.Waiting) request.stage()).step()).isEqualTo(1);
    request =
        house.act(house.authority(lena), m -> RequestDecisions.takeBack(m, request, TAKE_BACK));
    assertThat(request.stage()).isEqualTo(before);
    assertThat(request.answers()).isEmpty();
  }

  @Test
  void itGoesOnByItselfAndTellsWhoAsked() {
    asksBack(lena, "Which till?");
    Stage.AskedBack asked = (Stage.AskedBack) request.stage();
    assertThat(at(m -> ThreadDecisions.goesOn(m, request, asked.goesOn().minusSeconds(1))))
        .isEmpty();
    assertThat(at(m -> RequestDecisions.lapse(m, request, asked.lapses()))).isEmpty();
    Outcome.Done<AccessRequest> done =
        at(m -> ThreadDecisions.goesOn(m, request, asked.goesOn())).orElseThrow();
    assertThat(done.errands())
        .containsExactly(
            new Errand.TellOfRequest(lena, request.id(), Errand.Tale.UNANSWERED, Duration.ZERO));
    AccessRequest after = done.result();
    assertThat(after).isEqualTo(ThreadDecisions.gone(request));
    assertThat(((Stage.Waiting) after.stage()).lapses()).isEqualTo(asked.lapses());
    // What does not wait for an answer does not go on.
    assertThat(at(m -> ThreadDecisions.goesOn(m, after, asked.lapses()))).isEmpty();
    assertThat(ThreadDecisions.gone(after)).isEqualTo(after);
  }

  @Test
  void theClockStandsSevenDaysAtAStepHoweverOftenSomebodyAsks() {
    for (int i = 0; i < 3; i++) {
      asksBack(lena, "And then?");
      house.pass(Duration.ofDays(2));
      says(oda, "This.");
    }
    asksBack(lena, "And then?");
    assertThat(
            Duration.between(
                ((Stage.AskedBack) request.stage()).since(),
                ((Stage.AskedBack) request.stage()).goesOn()))
        .isLessThanOrEqualTo(Duration.ofDays(1));
    request = ThreadDecisions.gone(request);
    house.pass(Duration.ofDays(1));
    assertThat(
            refused(
                house.authority(lena),
                m -> ThreadDecisions.askBack(m, request, thread, "And then?")))
        .containsExactly("request.stood");
    // They can still talk.
    says(lena, "Tell me when you know.");
  }

  @Test
  void onlyWhoAskedWithdrawsTheQuestion() {
    asksBack(lena, "Which till?");
    assertThat(
            refused(
                house.authority(ines), m -> ThreadDecisions.withdrawQuestion(m, request, thread)))
        .containsExactly("request.not-asked");
    does(lena, m -> ThreadDecisions.withdrawQuestion(m, request, thread));
    assertThat(request.stage()).isInstanceOf(Stage.Waiting.class);
    assertThat(
            refused(
                house.authority(lena), m -> ThreadDecisions.withdrawQuestion(m, request, thread)))
        .containsExactly("changed-meanwhile");
  }

  @Test
  void whoHasNoPartInItNeitherReadsNorWrites() {
    Authority owner = house.authority(nils);
    Authority nobody = house.authority(stranger);
    // Who owns the app reads it once it waits for them, not before.
    for (Authority each : List.of(owner, nobody, Authority.NONE)) {
      assertThat(RequestReaders.readsThread(each, house.access(), request, thread)).isFalse();
      assertThat(refused(each, m -> ThreadDecisions.say(m, request, thread, "Hello")))
          .containsExactly("absent");
      assertThat(refused(each, m -> ThreadDecisions.askBack(m, request, thread, "Hello?")))
          .containsExactly("absent");
      assertThat(refused(each, m -> ThreadDecisions.withdrawQuestion(m, request, thread)))
          .containsExactly("absent");
    }
    assertThat(refused(house.authority(oda), m -> ThreadDecisions.askBack(m, request, thread, "?")))
        .containsExactly("request.not-yours");
    request =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, true, null, "", TAKE_BACK));
    assertThat(RequestReaders.readsThread(owner, house.access(), request, thread)).isTrue();
    // Until the step before can be taken back no more, nobody asks.
    assertThat(refused(owner, m -> ThreadDecisions.askBack(m, request, thread, "Why?")))
        .containsExactly("changed-meanwhile");
    house.pass(TAKE_BACK);
    asksBack(nils, "Why?");
    // Who decided before reads on.
    assertThat(RequestReaders.readsThread(house.authority(lena), house.access(), request, thread))
        .isTrue();
  }

  @Test
  void aWordIsNeitherEmptyNorEndless() {
    assertThat(refused(house.authority(oda), m -> ThreadDecisions.say(m, request, thread, " ")))
        .containsExactly("request.no-text");
    assertThat(
            refused(
                house.authority(oda),
                m -> ThreadDecisions.say(m, request, thread, "x".repeat(2001))))
        .containsExactly("too-long");
    Message word = new Message(oda, Message.Kind.SAID, "x", house.now());
    List<Message> full = java.util.Collections.nCopies(ThreadDecisions.MOST, word);
    assertThat(refused(house.authority(oda), m -> ThreadDecisions.say(m, request, full, "x")))
        .containsExactly("request.long-thread");
  }

  @Test
  void nothingIsSaidOfWhatIsOver() {
    request = house.act(house.authority(oda), m -> RequestDecisions.withdraw(m, request));
    for (PersonId each : List.of(oda, ines)) {
      assertThat(refused(house.authority(each), m -> ThreadDecisions.say(m, request, thread, "x")))
          .containsExactly("changed-meanwhile");
    }
    assertThat(
            refused(house.authority(ines), m -> ThreadDecisions.askBack(m, request, thread, "x")))
        .containsExactly("changed-meanwhile");
  }

  @Test
  void whoDecidesIsWorkedOutWhenTheyAsk() {
    house.status(lena, PersonStatus.DEPARTED);
    assertThat(
            refused(house.authority(lena), m -> ThreadDecisions.askBack(m, request, thread, "?")))
        .containsExactly("absent");
    // There is no manager above her: it is the stewards' to decide, and to ask.
    asksBack(ines, "Who leads you now?");
    assertThat(((Stage.AskedBack) request.stage()).by()).isEqualTo(ines);
  }
}
