package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.departures.DepartureDecisions;
import eleutheria.core.directory.Deputies;
import eleutheria.core.directory.House;
import eleutheria.core.docket.Case;
import eleutheria.core.docket.Docket;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Errand;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class DeputyDecisionsTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);
  private static final SortedSet<Duty> ALL = new TreeSet<>(List.of(Duty.values()));

  private final House house = new House();
  private final PersonId petra = house.person("Petra Lindholm", "Ticketing");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId mina = house.person("Mina Sand", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Finance");
  private final PersonId maren = house.person("Maren Quist", "Finance");
  private final PersonId stranger = house.person("Siri Dahl", "Ticketing");
  private final PersonId ines = house.person("Ines Roth", null);
  private final EntitlementId role = house.role("Refund Bench", Sensitivity.LOW, nils);

  @BeforeEach
  void organisation() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
    house.manager(lena, petra);
    house.manager(mina, petra);
    house.manager(oda, lena);
    house.manager(nils, maren);
  }

  private LocalDate today() {
    return house.now().atZone(House.ZONE).toLocalDate();
  }

  private Outcome<PersonId> names(
      PersonId actor,
      PersonId person,
      PersonId deputy,
      @Nullable LocalDate from,
      LocalDate until,
      SortedSet<Duty> duties) {
    return house.decide(
        house.authority(actor), m -> DeputyDecisions.name(m, person, deputy, from, until, duties));
  }

  private Outcome.Done<PersonId> named(PersonId person, PersonId deputy, Duty... duties) {
    Outcome<PersonId> outcome =
        names(
            person,
            person,
            deputy,
            null,
            today().plusDays(7),
            duties.length == 0 ? ALL : new TreeSet<>(List.of(duties)));
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
    return (Outcome.Done<PersonId>) outcome;
  }

  private List<String> refused(
      PersonId actor,
      PersonId person,
      PersonId deputy,
      @Nullable LocalDate from,
      LocalDate until,
      SortedSet<Duty> duties) {
    return house.refused(
        house.authority(actor), m -> DeputyDecisions.name(m, person, deputy, from, until, duties));
  }

  private AccessRequest asks(PersonId asker) {
    return asks(asker, role);
  }

  private AccessRequest asks(PersonId asker, EntitlementId wanted) {
    return house.act(
        house.authority(asker),
        m ->
            RequestDecisions.ask(
                m, 2001, asker, wanted, null, "For the till.", Map.of(), List.of()));
  }

  private AccessRequest approves(PersonId who, AccessRequest request, int step) {
    return house.act(
        house.authority(who),
        m -> RequestDecisions.answer(m, request, step, true, null, "", TAKE_BACK));
  }

  private List<String> mayNot(PersonId who, AccessRequest request, int step) {
    return house.refused(
        house.authority(who),
        m -> RequestDecisions.answer(m, request, step, true, null, "", TAKE_BACK));
  }

  private Deciders deciders(AccessRequest request) {
    return Deciders.of(house.access(), request, (Stage.Open) request.stage());
  }

  // ---- naming

  @Test
  void oneNamesAPersonOneKnowsAndTheyAreTold() {
    assertThat(DeputyDecisions.candidates(house.directory(), lena))
        .as("her manager, whom she manages, and who has the same manager")
        .containsExactly(mina, oda, petra);
    assertThat(DeputyDecisions.candidates(house.directory(), nils)).containsExactly(maren);

    Outcome.Done<PersonId> done = named(lena, mina);

    assertThat(done.act().name()).isEqualTo(ActName.DEPUTY_NAME);
    assertThat(done.errands()).containsExactly(new Errand.TellOfDeputy(mina, lena, mina));
    assertThat(Deputies.of(house.facts, lena, house.now()))
        .singleElement()
        .satisfies(
            span -> {
              assertThat(span.deputy()).isEqualTo(mina);
              assertThat(span.duties()).isEqualTo(ALL);
              assertThat(span.until()).isEqualTo(Moments.endOf(today().plusDays(7), House.ZONE));
            });
    assertThat(Deputies.by(house.facts, mina, house.now())).hasSize(1);
  }

  @Test
  void whoIsNotKnownIsNotNamedAndNobodyIsFoundByTrying() {
    LocalDate until = today().plusDays(3);
    PersonId nobody = new PersonId(new java.util.UUID(7, 7));
    assertThat(refused(lena, lena, stranger, null, until, ALL))
        .isEqualTo(refused(lena, lena, nobody, null, until, ALL))
        .containsExactly("deputy.who");
    assertThat(refused(lena, lena, lena, null, until, ALL)).containsExactly("deputy.own");
    house.status(mina, PersonStatus.PAUSED);
    assertThat(refused(lena, lena, mina, null, until, ALL)).containsExactly("deputy.who");
  }

  @Test
  void daysAndDutiesThatMakeNoSense() {
    LocalDate day = today();
    assertThat(refused(lena, lena, mina, day.minusDays(1), day, ALL))
        .containsExactly("deputy.from");
    assertThat(refused(lena, lena, mina, day.plusDays(2), day.plusDays(1), ALL))
        .containsExactly("deputy.until");
    assertThat(refused(lena, lena, mina, day, day.plusDays(366), ALL))
        .containsExactly("deputy.long");
    assertThat(names(lena, lena, mina, day, day.plusDays(365), ALL))
        .isInstanceOf(Outcome.Done.class);
    assertThat(refused(lena, lena, petra, day, day, new TreeSet<>()))
        .containsExactly("deputy.duties");
  }

  @Test
  void aSecondTimeIsNoticedAndTenAreEnough() {
    named(lena, mina);
    assertThat(refused(lena, lena, mina, null, today(), ALL)).containsExactly("changed-meanwhile");
    for (int i = 0; i < DeputyDecisions.MOST - 1; i++) {
      PersonId one = house.person("Hand " + i, "Ticketing");
      house.manager(one, lena);
      named(lena, one);
    }
    assertThat(refused(lena, lena, oda, null, today(), ALL)).containsExactly("deputy.many");
  }

  @Test
  void inNeedAnAdministratorNamesOneAndBothAreTold() {
    Outcome<PersonId> outcome = names(ines, lena, stranger, null, today(), ALL);
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
    assertThat(((Outcome.Done<PersonId>) outcome).errands())
        .containsExactly(
            new Errand.TellOfDeputy(stranger, lena, stranger),
            new Errand.TellOfDeputy(lena, lena, stranger));

    assertThat(refused(ines, lena, ines, null, today(), ALL))
        .as("stepping in needs a reason each time")
        .containsExactly("deputy.own");
    assertThat(refused(petra, lena, mina, null, today(), ALL))
        .as("a manager is no administrator")
        .containsExactly("absent");
    house.status(lena, PersonStatus.DEPARTED);
    assertThat(refused(ines, lena, mina, null, today(), ALL)).hasSize(1);
  }

  @Test
  void oneOfTheTwoEndsItOrAnAdministrator() {
    for (PersonId who : List.of(lena, mina, ines)) {
      named(lena, mina);
      PersonId ended = house.act(house.authority(who), m -> DeputyDecisions.end(m, lena, mina));
      assertThat(ended).isEqualTo(mina);
      assertThat(Deputies.of(house.facts, lena, house.now())).isEmpty();
    }
    named(lena, mina);
    for (PersonId who : List.of(petra, nils)) {
      assertThat(house.refused(house.authority(who), m -> DeputyDecisions.end(m, lena, mina)))
          .hasSize(1);
    }
    assertThat(house.refused(house.authority(lena), m -> DeputyDecisions.end(m, lena, petra)))
        .hasSize(1);
  }

  // ---- deciding

  @Test
  void theDeputyDecidesForThemBesideThem() {
    named(lena, mina);
    AccessRequest request = asks(oda);

    assertThat(deciders(request))
        .isEqualTo(new Deciders(Deciders.Capacity.MANAGER, List.of(lena), Map.of(mina, lena)));
    AccessRequest after = approves(mina, request, 0);

    Decision decision = after.answers().getFirst();
    assertThat(decision.by()).isEqualTo(mina);
    assertThat(decision.behalf()).isEqualTo(lena);
    assertThat(decision.capacity()).isEqualTo(Deciders.Capacity.MANAGER);
    assertThat(decision.steppedIn()).isFalse();
    assertThat(((Stage.Open) after.stage()).step()).isEqualTo(1);
    assertThat(
            house
                .act(house.authority(mina), m -> RequestDecisions.takeBack(m, after, TAKE_BACK))
                .stage())
        .isEqualTo(request.stage());
    assertThat(approves(lena, request, 0).answers().getFirst().behalf())
        .as("she still decides herself")
        .isNull();
  }

  @Test
  void bothAreToldOfARequestAndItLiesOnBothDockets() {
    named(lena, mina);
    List<Errand> told = new ArrayList<>();
    Outcome<AccessRequest> asked =
        house.decide(
            house.authority(oda),
            m ->
                RequestDecisions.ask(
                    m, 2001, oda, role, null, "For the till.", Map.of(), List.of()));
    told.addAll(((Outcome.Done<AccessRequest>) asked).errands());
    assertThat(told)
        .extracting(errand -> ((Errand.TellOfRequest) errand).person())
        .containsExactly(lena, mina);

    AccessRequest request = ((Outcome.Done<AccessRequest>) asked).result();
    for (PersonId who : List.of(lena, mina)) {
      assertThat(docket(who, request)).as(who.text()).hasSize(1);
    }
    assertThat(docket(stranger, request)).isEmpty();
    house.pass(Duration.ofDays(9));
    assertThat(docket(mina, request)).as("the span is over").isEmpty();
    assertThat(docket(lena, request)).hasSize(1);
  }

  private List<Case> docket(PersonId who, AccessRequest request) {
    return Docket.of(
        house.access(),
        new Docket.Waits(List.of(request), List.of(), null, List.of(), List.of()),
        house.authority(who),
        house.now(),
        false);
  }

  @Test
  void onlyWhatTheyWereNamedForAndOnlyInThatSpan() {
    names(
        nils,
        nils,
        maren,
        today().plusDays(1),
        today().plusDays(2),
        new TreeSet<>(List.of(Duty.TEAM)));
    AccessRequest request = approves(lena, asks(oda), 0);
    house.pass(Duration.ofDays(1));
    assertThat(deciders(request).deputies()).as("of his team, not of his apps").isEmpty();

    house.act(house.authority(nils), m -> DeputyDecisions.end(m, nils, maren));
    names(
        nils,
        nils,
        maren,
        today().plusDays(1),
        today().plusDays(2),
        new TreeSet<>(List.of(Duty.APPS)));
    assertThat(mayNot(maren, request, 1)).as("not begun").hasSize(1);
    house.pass(Duration.ofDays(1));
    assertThat(deciders(request).deputies()).containsExactly(Map.entry(maren, nils));
    house.pass(Duration.ofDays(2));
    assertThat(mayNot(maren, request, 1)).as("over").hasSize(1);
  }

  @Test
  void notWhereTheyAskedNorWhereAnotherStepIsTheirs() {
    named(lena, oda);
    assertThat(deciders(asks(oda)).deputies()).as("her own request").isEmpty();

    // Nils owns what is asked for: as Lena's deputy he would say yes twice.
    house.act(
        house.authority(ines),
        m -> DeputyDecisions.name(m, lena, nils, null, today().plusDays(7), ALL));
    assertThat(deciders(asks(oda)).deputies()).isEmpty();

    // Mina is the deputy of both: she decides one of the steps.
    named(lena, mina);
    house.act(
        house.authority(ines),
        m -> DeputyDecisions.name(m, nils, mina, null, today().plusDays(7), ALL));
    AccessRequest after = approves(mina, asks(oda), 0);
    assertThat(deciders(after).deputies()).isEmpty();
    house.pass(TAKE_BACK);
    assertThat(mayNot(mina, after, 1)).containsExactly("request.not-yours");
  }

  @Test
  void whoStandsInForAManagerWhoOwnsDecidesBothByOneYes() {
    EntitlementId till = house.role("Till", Sensitivity.LOW, lena, nils);
    named(lena, mina);
    AccessRequest request = asks(oda, till);
    assertThat(deciders(request).decideAlso(owners(request))).isTrue();
    AccessRequest given = approves(mina, request, 0);
    assertThat(given.stage()).isInstanceOf(Stage.Given.class);
    assertThat(given.answers())
        .singleElement()
        .satisfies(answer -> assertThat(answer.behalf()).isEqualTo(lena));

    // For the team alone it is one step of two, and it is told so.
    house.act(house.authority(lena), m -> DeputyDecisions.end(m, lena, mina));
    named(lena, mina, Duty.TEAM);
    AccessRequest other = asks(siri(), till);
    assertThat(deciders(other).decideAlso(owners(other))).isFalse();
    AccessRequest half = approves(mina, other, 0);
    assertThat(((Stage.Open) half.stage()).step()).isEqualTo(1);
    assertThat(deciders(half).people()).containsExactly(lena, nils);
  }

  private Deciders owners(AccessRequest request) {
    return Deciders.of(house.access(), request, 1);
  }

  private PersonId siri() {
    house.manager(stranger, lena);
    return stranger;
  }

  @Test
  void aDeputyHasNoDeputyAndPassesNothingOn() {
    named(lena, mina);
    named(mina, petra);
    AccessRequest request = asks(oda);
    assertThat(deciders(request).deputies().keySet()).containsExactly(mina);

    assertThat(
            house.refused(
                house.authority(mina),
                m -> PassOnDecisions.passOn(m, request, List.of(), petra, "You know her better.")))
        .contains("request.deputy");
    // What was passed on to somebody by hand is theirs alone.
    AccessRequest passed =
        house
            .act(
                house.authority(lena),
                m -> PassOnDecisions.passOn(m, request, List.of(), petra, "You know her better."))
            .request();
    named(petra, lena);
    assertThat(deciders(passed))
        .isEqualTo(new Deciders(Deciders.Capacity.PASSED_ON, List.of(petra), Map.of()));
  }

  @Test
  void noPowerGoesOver() {
    // The steward decides where there is no manager; her deputy does not.
    house.act(
        house.authority(ines), m -> DeputyDecisions.name(m, petra, stranger, null, today(), ALL));
    PersonId lone = house.person("Lone Hand", "Ticketing");
    house.manager(ines, petra);
    named(ines, petra);
    assertThat(deciders(asks(lone)))
        .isEqualTo(new Deciders(Deciders.Capacity.STEWARD, List.of(ines), Map.of()));
    assertThat(house.authority(petra).powers()).isEmpty();
  }

  @Test
  void whoLeavesIsNoDeputyAndHasNone() {
    named(lena, mina);
    named(mina, petra);
    AccessRequest request = asks(oda);
    house.status(mina, PersonStatus.PAUSED);
    assertThat(deciders(request).deputies()).as("paused").isEmpty();
    house.status(mina, PersonStatus.ACTIVE);
    assertThat(deciders(request).deputies().keySet()).containsExactly(mina);

    house.act(house.authority(ines), m -> DepartureDecisions.depart(m, mina, 0, "Left us."));
    assertThat(Deputies.of(house.facts, lena, house.now())).isEmpty();
    assertThat(Deputies.of(house.facts, mina, house.now())).isEmpty();
    assertThat(deciders(request).deputies()).isEmpty();
  }

  @Test
  void aDeputyReadsTheThreadAndAsksBackWhileTheyAreOne() {
    AccessRequest request = asks(oda);
    assertThat(reads(mina, request)).isFalse();
    named(lena, mina);
    assertThat(reads(mina, request)).isTrue();
    ThreadDecisions.Spoken spoken =
        house.act(
            house.authority(mina),
            m -> ThreadDecisions.askBack(m, request, List.of(), "Which till?"));
    assertThat(((Stage.AskedBack) spoken.request().stage()).by()).isEqualTo(mina);
    house.act(house.authority(mina), m -> DeputyDecisions.end(m, lena, mina));
    assertThat(reads(mina, request)).isFalse();
  }

  private boolean reads(PersonId who, AccessRequest request) {
    return RequestReaders.readsThread(house.authority(who), house.access(), request, List.of())
        && RequestReaders.mayDecide(house.authority(who), house.access(), request);
  }

  // ---- to come

  private List<PersonId> coming(AccessRequest request) {
    return Deciders.coming(house.facts, house.access(), request, (Stage.Open) request.stage())
        .stream()
        .map(Deputies.Span::deputy)
        .toList();
  }

  private void namesFrom(PersonId person, PersonId deputy, int day, Duty... duties) {
    Outcome<PersonId> outcome =
        names(
            person,
            person,
            deputy,
            today().plusDays(day),
            today().plusDays(day + 5),
            duties.length == 0 ? ALL : new TreeSet<>(List.of(duties)));
    assertThat(outcome).isInstanceOf(Outcome.Done.class);
  }

  @Test
  void whoWillDecideAsDeputyIsToldWhileItWaits() {
    AccessRequest request = asks(oda);
    namesFrom(lena, mina, 3);
    assertThat(coming(request)).containsExactly(mina);
    house.status(mina, PersonStatus.PAUSED);
    assertThat(coming(request)).isEmpty();
    house.status(mina, PersonStatus.ACTIVE);
    assertThat(
            Deciders.coming(house.facts, house.access(), request, (Stage.Open) request.stage())
                .getFirst()
                .from())
        .isEqualTo(today().plusDays(3).atStartOfDay(House.ZONE).toInstant());
    // From that day on she decides, and is no longer to come.
    house.pass(Duration.ofDays(4));
    assertThat(coming(request)).isEmpty();
    assertThat(deciders(request).deputies()).containsEntry(mina, lena);
  }

  @Test
  void nobodyIsToldToComeWhoWillNotDecideIt() {
    AccessRequest request = asks(oda);
    // Not whoever asks, not for other kinds of requests, and not after it lapses.
    namesFrom(lena, oda, 3);
    namesFrom(lena, petra, 3, Duty.APPS);
    namesFrom(lena, mina, 20);
    assertThat(coming(request)).isEmpty();
  }
}
