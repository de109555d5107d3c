package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.Conflict;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.directory.House;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Who decides what, in single cases; the laws over all of them are in RequestHistoryTest. */
class RequestDecisionsTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);

  private final House house = new House();
  private final PersonId steward = house.person("Ines Roth", "Yard");
  private final PersonId head = house.person("Una Head", "Ticketing");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId owner = house.person("Nils Sand", "Deck crew");

  RequestDecisionsTest() {
    house.hold(ShippedMandate.STEWARD.id(), steward);
    house.manager(oda, lena);
    house.manager(lena, head);
  }

  private AccessRequest ask(EntitlementId role, @Nullable LocalDate until) {
    return house.act(
        house.authority(oda),
        m -> RequestDecisions.ask(m, 1, oda, role, until, "for the counter", Map.of(), List.of()));
  }

  private LocalDate inDays(int days) {
    return house.now().atZone(House.ZONE).toLocalDate().plusDays(days);
  }

  private AccessRequest yes(PersonId who, AccessRequest request, int step) {
    AccessRequest after =
        house.act(
            house.authority(who),
            m -> RequestDecisions.answer(m, request, step, true, null, "a word", TAKE_BACK));
    house.pass(TAKE_BACK);
    return after;
  }

  private List<String> refused(PersonId who, AccessRequest request, int step, boolean yes) {
    return house.refused(
        house.authority(who),
        m -> RequestDecisions.answer(m, request, step, yes, null, "a word", TAKE_BACK));
  }

  private Deciders deciders(EntitlementId role, int step) {
    return Deciders.of(house.access(), Wish.own(oda, role), FactValue.Route.SHIPPED, step);
  }

  @Test
  void theManagerThenAnOwner() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest request = ask(role, inDays(20));
    assertThat(refused(owner, request, 1, true)).contains("changed-meanwhile");
    assertThat(refused(owner, request, 0, true)).contains("request.not-yours");
    AccessRequest half = yes(lena, request, 0);
    assertThat(house.access().holds(oda, role)).isFalse();
    AccessRequest given = yes(owner, half, 1);
    assertThat(given.stage()).isInstanceOf(Stage.Given.class);
    assertThat(house.access().holds(oda, role)).isTrue();
    // It ends by itself after its day.
    house.pass(Duration.ofDays(22));
    assertThat(house.access().holds(oda, role)).isFalse();
  }

  private Optional<Outcome.Done<AccessRequest>> remind(AccessRequest request, Instant due) {
    house.pass(Duration.between(house.now(), due));
    List<Optional<Outcome.Done<AccessRequest>>> found = new ArrayList<>();
    house.decide(
        Authority.NONE,
        m -> {
          found.add(RequestDecisions.remind(m, request, due));
          return Outcome.done(Act.of(ActName.REQUEST_REMIND), List.of(), 1);
        });
    return found.getFirst();
  }

  @Test
  void whoeverDecidesIsRemindedSevenAndTwoDaysBeforeItLapses() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest request = ask(role, inDays(60));
    Instant lapses = ((Stage.Open) request.stage()).lapses();
    List<Instant> moments = RequestDecisions.reminders(request, house.now());
    assertThat(moments)
        .containsExactly(lapses.minus(Duration.ofDays(7)), lapses.minus(Duration.ofDays(2)));
    assertThat(remind(request, moments.getFirst().minusSeconds(60))).as("not due").isEmpty();

    Outcome.Done<AccessRequest> done = remind(request, moments.getFirst()).orElseThrow();
    assertThat(done.result()).as("it stays as it is").isEqualTo(request);
    assertThat(done.edits()).isEmpty();
    assertThat(done.errands())
        .containsExactly(
            new Errand.TellOfRequest(lena, request.id(), Errand.Tale.REMIND, Duration.ZERO));
    assertThat(RequestDecisions.reminders(request, house.now()))
        .as("the first is over")
        .containsExactly(moments.getLast());

    // Decided meanwhile: the owner’s step has moments of its own.
    AccessRequest half = yes(lena, request, 0);
    assertThat(remind(half, moments.getLast())).isEmpty();
    Instant next = RequestDecisions.reminders(half, house.now()).getFirst();
    assertThat(remind(half, next).orElseThrow().errands())
        .extracting(errand -> ((Errand.TellOfRequest) errand).person())
        .containsExactly(owner);
  }

  @Test
  void nobodyIsRemindedWhileTheClockStandsAndLaterWhenItGoesOn() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest request = ask(role, inDays(60));
    Instant first = RequestDecisions.reminders(request, house.now()).getFirst();
    house.pass(Duration.ofDays(1));
    AccessRequest asked =
        house
            .act(
                house.authority(lena),
                m -> ThreadDecisions.askBack(m, request, List.of(), "Which till?"))
            .request();
    assertThat(RequestDecisions.reminders(asked, house.now())).isEmpty();
    assertThat(remind(asked, first)).isEmpty();

    AccessRequest on = ThreadDecisions.gone(asked);
    assertThat(remind(on, first)).as("its time has moved").isEmpty();
    assertThat(RequestDecisions.reminders(on, house.now()))
        .containsExactly(first.plus(ThreadDecisions.LONGEST), first.plus(Duration.ofDays(12)));
  }

  /** What a rule keeps apart is accepted with the yes, begins with it, and goes with it. */
  @Test
  void aConflictIsAnsweredWithTheYesThatGives() {
    EntitlementId held = house.role("Till", Sensitivity.LOW, owner);
    EntitlementId asked = house.role("Refunds", Sensitivity.LOW, owner, lena);
    house.act(
        m ->
            GrantDecisions.give(
                m, held, List.of(new FactValue.Subject.OfPerson(oda)), null, null, "has it"));
    RuleId rule =
        house.act(
            m ->
                SeparationDecisions.set(
                    m,
                    null,
                    null,
                    new FactValue.Separation(
                        "Apart",
                        "One checks the other.",
                        new TreeSet<>(List.of(held)),
                        new TreeSet<>(List.of(asked))),
                    null,
                    ""));
    Conflict conflict = new Conflict(rule, oda, held, asked);
    SeparationRules rules = SeparationRules.of(house.facts, house.now());
    assertThat(rules.caused(house.access(), oda, asked)).containsExactly(conflict);
    assertThat(rules.caused(house.access(), lena, asked)).as("holds nothing of it").isEmpty();
    List<SeparationDecisions.Acceptance> accepted =
        List.of(new SeparationDecisions.Acceptance(conflict, inDays(30)));
    AccessRequest request = ask(asked, null);
    assertThat(
            house.refused(
                house.authority(lena),
                m ->
                    RequestDecisions.answer(
                        m, request, 0, true, null, "a word", accepted, TAKE_BACK)))
        .as("she keeps no rules")
        .contains("power");
    house.hold(ShippedMandate.RULE_KEEPER.id(), lena);
    AccessRequest given =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, true, null, "a word", accepted, TAKE_BACK));
    assertThat(SeparationRules.of(house.facts, house.now()).accepted(conflict))
        .as("it has not begun")
        .isEmpty();
    assertThat(SeparationRules.of(house.facts, house.now().plus(TAKE_BACK)).accepted(conflict))
        .isPresent();
    house.act(house.authority(lena), m -> RequestDecisions.takeBack(m, given, TAKE_BACK));
    assertThat(SeparationRules.of(house.facts, house.now().plus(TAKE_BACK)).accepted(conflict))
        .as("taken back with the yes")
        .isEmpty();
  }

  @Test
  void reasonsAndNotesHaveALength() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    String most = "x".repeat(RequestDecisions.LONGEST_REASON);
    assertThat(
            house.refused(
                house.authority(oda),
                m -> RequestDecisions.ask(m, 1, oda, role, null, most + "x", Map.of(), List.of())))
        .hasSize(1);
    AccessRequest request =
        house.act(
            house.authority(oda),
            m -> RequestDecisions.ask(m, 1, oda, role, null, most, Map.of(), List.of()));
    assertThat(
            house.refused(
                house.authority(lena),
                m -> RequestDecisions.answer(m, request, 0, true, null, most + "x", TAKE_BACK)))
        .hasSize(1);
    house.act(
        house.authority(lena),
        m -> RequestDecisions.answer(m, request, 0, true, null, most, TAKE_BACK));
  }

  @Test
  void whoComesTooLateIsToldWhoHasDecidedAndWhen() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest half = yes(lena, ask(role, null), 0);
    Outcome<AccessRequest> late =
        house.decide(
            house.authority(steward),
            m -> RequestDecisions.answer(m, half, 0, true, null, "late", TAKE_BACK));
    String at =
        half.answers().getFirst().at().atZone(House.ZONE).toLocalTime().withNano(0).toString();
    assertThat(((Outcome.Refused<AccessRequest>) late).problems())
        .extracting(problem -> problem.sentence())
        .containsExactly("Lena Aho approved this at " + at + ".");
  }

  /** Taking a yes back takes only what was accepted with it. */
  @Test
  void whatWasAcceptedEarlierStays() {
    EntitlementId held = house.role("Till", Sensitivity.LOW, owner);
    EntitlementId asked = house.role("Refunds", Sensitivity.LOW, owner, lena);
    EntitlementId other = house.role("Prices", Sensitivity.LOW, owner);
    house.act(
        m ->
            GrantDecisions.give(
                m, held, List.of(new FactValue.Subject.OfPerson(oda)), null, null, "has it"));
    house.hold(ShippedMandate.RULE_KEEPER.id(), lena);
    Conflict earlier = new Conflict(apart(held, other), oda, held, other);
    Conflict conflict = new Conflict(apart(held, asked), oda, held, asked);
    house.act(
        house.authority(lena),
        m ->
            SeparationDecisions.except(
                m,
                new SeparationDecisions.Acceptance(earlier, inDays(30)),
                m.at(),
                "for the summer"));
    AccessRequest request = ask(asked, null);
    AccessRequest given =
        house.act(
            house.authority(lena),
            m ->
                RequestDecisions.answer(
                    m,
                    request,
                    0,
                    true,
                    null,
                    "a word",
                    List.of(new SeparationDecisions.Acceptance(conflict, inDays(30))),
                    TAKE_BACK));
    house.act(house.authority(lena), m -> RequestDecisions.takeBack(m, given, TAKE_BACK));
    SeparationRules after = SeparationRules.of(house.facts, house.now().plus(TAKE_BACK));
    assertThat(after.accepted(conflict)).isEmpty();
    assertThat(after.accepted(earlier)).isPresent();
  }

  private RuleId apart(EntitlementId one, EntitlementId other) {
    return house.act(
        m ->
            SeparationDecisions.set(
                m,
                null,
                null,
                new FactValue.Separation(
                    "Apart " + other.text(),
                    "One checks the other.",
                    new TreeSet<>(List.of(one)),
                    new TreeSet<>(List.of(other))),
                null,
                ""));
  }

  @Test
  void whoManagesAndOwnsDecidesBothByOneYes() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner, lena);
    assertThat(yes(lena, ask(role, null), 0).stage()).isInstanceOf(Stage.Given.class);
  }

  @Test
  void withoutAManagerTheirManagerThenTheStewards() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    assertThat(deciders(role, 0)).isEqualTo(new Deciders(Deciders.Capacity.MANAGER, List.of(lena)));
    house.status(lena, PersonStatus.DEPARTED);
    assertThat(deciders(role, 0))
        .isEqualTo(new Deciders(Deciders.Capacity.MANAGERS_MANAGER, List.of(head)));
    house.status(head, PersonStatus.DEPARTED);
    assertThat(deciders(role, 0))
        .isEqualTo(new Deciders(Deciders.Capacity.STEWARD, List.of(steward)));
  }

  @Test
  void managersInACircleEndAtTheStewards() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    house.manager(head, oda);
    house.status(lena, PersonStatus.PAUSED);
    house.status(head, PersonStatus.PAUSED);
    assertThat(deciders(role, 0).capacity()).isEqualTo(Deciders.Capacity.STEWARD);
  }

  @Test
  void whoOwnsItAloneIsDecidedOnByASteward() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, oda);
    assertThat(deciders(role, 1))
        .isEqualTo(new Deciders(Deciders.Capacity.STEWARD, List.of(steward)));
    AccessRequest half = yes(lena, ask(role, null), 0);
    assertThat(refused(oda, half, 1, true)).contains("request.own");
    assertThat(yes(steward, half, 1).stage()).isInstanceOf(Stage.Given.class);
  }

  @Test
  void whoMayStepInSaysWhyAndNobodyStepsInForThemselves() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest request = ask(role, null);
    assertThat(
            house.refused(
                house.authority(steward),
                m -> RequestDecisions.answer(m, request, 0, true, null, " ", TAKE_BACK)))
        .containsExactly("request.step-in");
    assertThat(yes(steward, request, 0).answers().getFirst().steppedIn()).isTrue();
    house.hold(ShippedMandate.STEWARD.id(), oda);
    assertThat(refused(oda, request, 0, true)).contains("request.own");
  }

  @Test
  void aStewardOfOneUnitDecidesForThatUnitOnly() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    PersonId keeper = house.person("Maren Quist", "Ticketing");
    MandateId mandate = new MandateId(new UUID(5, 5));
    house.set(
        new FactKey.Mandate(mandate),
        new FactValue.Terms(
            "Keeper", "", new TreeSet<>(List.of("requests.step-in")), Reach.units("Ticketing")));
    house.hold(mandate, keeper);
    house.status(lena, PersonStatus.DEPARTED);
    house.status(head, PersonStatus.DEPARTED);
    assertThat(deciders(role, 0).people()).containsExactlyInAnyOrder(keeper, steward);
    // The owner of the app works on deck, and has no manager.
    assertThat(
            Deciders.of(house.access(), Wish.own(owner, role), FactValue.Route.SHIPPED, 0).people())
        .containsExactly(steward);
    AccessRequest other =
        house.act(
            house.authority(owner),
            m ->
                RequestDecisions.ask(m, 2, owner, role, null, "for the deck", Map.of(), List.of()));
    assertThat(refused(keeper, other, 0, true)).contains("request.not-yours");
  }

  @Test
  void aYesWhileTheAppIsPausedCountsOnceItIsOpenAgain() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, lena);
    AccessRequest request = ask(role, null);
    house.state(house.app(role), ApplicationState.OPEN, ApplicationState.PAUSED);
    yes(lena, request, 0);
    house.pass(Duration.ofSeconds(1));
    assertThat(house.access().holds(oda, role)).isFalse();
    house.state(house.app(role), ApplicationState.PAUSED, ApplicationState.OPEN);
    assertThat(house.access().holds(oda, role)).isTrue();
  }

  @Test
  void aRetiredAppCanOnlyBeRefusedAndARefusalSaysWhy() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest request = ask(role, null);
    house.state(house.app(role), ApplicationState.OPEN, ApplicationState.RETIRED);
    assertThat(refused(lena, request, 0, true)).containsExactly("request.app");
    assertThat(
            house.refused(
                house.authority(lena),
                m -> RequestDecisions.answer(m, request, 0, false, null, "", TAKE_BACK)))
        .containsExactly("request.no-word");
    AccessRequest after =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, false, null, "not now", TAKE_BACK));
    assertThat(after.stage()).isInstanceOf(Stage.Refused.class);
  }

  @Test
  void aDecisionIsTakenBackForTenSecondsByWhoMadeIt() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, lena);
    AccessRequest request = ask(role, null);
    AccessRequest given =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, true, null, "", TAKE_BACK));
    house.pass(Duration.ofSeconds(9));
    assertThat(house.access().holds(oda, role)).as("not yet").isFalse();
    assertThat(
            house.refused(
                house.authority(steward), m -> RequestDecisions.takeBack(m, given, TAKE_BACK)))
        .containsExactly("take-back.not-yours");
    AccessRequest back =
        house.act(house.authority(lena), m -> RequestDecisions.takeBack(m, given, TAKE_BACK));
    assertThat(back.stage()).isInstanceOf(Stage.Waiting.class);
    house.pass(Duration.ofMinutes(1));
    assertThat(house.access().holds(oda, role)).isFalse();
    AccessRequest again = yes(lena, back, 0);
    house.pass(Duration.ofSeconds(1));
    assertThat(
            house.refused(
                house.authority(lena), m -> RequestDecisions.takeBack(m, again, TAKE_BACK)))
        .containsExactly("changed-meanwhile");
    assertThat(house.access().holds(oda, role)).isTrue();
  }

  @Test
  void whatIsHeavyHasAnEndAndADecisionCanOnlyShortenIt() {
    EntitlementId role = house.role("Refund Bench", Sensitivity.HIGH, owner);
    assertThat(askedWrong(role, null)).containsExactly("request.no-end");
    assertThat(askedWrong(role, inDays(400))).containsExactly("request.long");
    assertThat(askedWrong(role, inDays(-1))).contains("request.over");
    AccessRequest request = ask(role, inDays(100));
    assertThat(
            house.refused(
                house.authority(lena),
                m -> RequestDecisions.answer(m, request, 0, true, inDays(101), "", TAKE_BACK)))
        .containsExactly("request.longer");
    AccessRequest shorter =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, true, inDays(30), "", TAKE_BACK));
    assertThat(shorter.lastDay()).isEqualTo(inDays(30));
  }

  private List<String> askedWrong(EntitlementId role, @Nullable LocalDate until) {
    return house.refused(
        house.authority(oda),
        m -> RequestDecisions.ask(m, 1, oda, role, until, "because", Map.of(), List.of()));
  }

  @Test
  void nothingIsAskedForTwiceOrInVain() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, lena);
    AccessRequest request = ask(role, null);
    assertThat(
            house.refused(
                house.authority(oda),
                m ->
                    RequestDecisions.ask(
                        m, 2, oda, role, null, "again", Map.of(), List.of(request))))
        .containsExactly("request.open");
    yes(lena, request, 0);
    house.pass(Duration.ofSeconds(1));
    assertThat(askedWrong(role, null)).containsExactly("request.held");
    house.state(house.app(role), ApplicationState.OPEN, ApplicationState.PAUSED);
    assertThat(askedWrong(role, null)).contains("request.app");
    assertThat(
            house.refused(
                house.authority(oda),
                m ->
                    RequestDecisions.ask(
                        m,
                        3,
                        oda,
                        new EntitlementId(new java.util.UUID(1, 1)),
                        null,
                        "x",
                        Map.of(),
                        List.of())))
        .containsExactly("absent");
  }

  @Test
  void aRequestThatNobodyDecidesLapsesAtItsTimeAndNotBefore() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);
    AccessRequest request = ask(role, null);
    Stage.Waiting waiting = (Stage.Waiting) request.stage();
    house.decide(
        house.authority(steward),
        m -> {
          assertThat(RequestDecisions.lapse(m, request, waiting.lapses().minusSeconds(1)))
              .isEmpty();
          return Outcome.refused(List.of());
        });
    house.pass(Duration.ofDays(14));
    AccessRequest lapsed =
        house.act(m -> RequestDecisions.lapse(m, request, waiting.lapses()).orElseThrow());
    assertThat(lapsed.stage()).isInstanceOf(Stage.Lapsed.class);
    assertThat(refused(lena, lapsed, 0, true)).containsExactly("changed-meanwhile");
  }

  @Test
  void theSecondDeciderIsTooLateAndTold() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner, head);
    AccessRequest half = yes(lena, ask(role, null), 0);
    AccessRequest given = yes(owner, half, 1);
    Outcome<AccessRequest> late =
        house.decide(
            house.authority(head),
            m -> RequestDecisions.answer(m, given, 1, false, null, "no", TAKE_BACK));
    assertThat(((Outcome.Refused<AccessRequest>) late).problems().getFirst().sentence())
        .startsWith("Nils Sand approved this");
  }
}
