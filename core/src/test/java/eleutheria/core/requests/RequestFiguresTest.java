package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.GrantDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class RequestFiguresTest {
  private static final Duration TAKE_BACK = Duration.ofSeconds(10);

  private final House house = new House();
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId nils = house.person("Nils Sand", "Finance");
  private final PersonId ines = house.person("Ines Roth", null);
  private final EntitlementId role = house.role("Refund Bench", Sensitivity.LOW, nils);
  private final List<AccessRequest> requests = new ArrayList<>();
  private int number = 2000;

  @BeforeEach
  void steward() {
    house.hold(ShippedMandate.STEWARD.id(), ines);
  }

  /** Somebody new in Lena's team asks. */
  private AccessRequest asks() {
    PersonId asker = house.person("Hand " + number, "Ticketing");
    house.manager(asker, lena);
    return house.act(
        house.authority(asker),
        m ->
            RequestDecisions.ask(
                m, number++, asker, role, null, "For the till.", Map.of(), List.of()));
  }

  private AccessRequest decides(PersonId who, AccessRequest request, int step, boolean yes) {
    return house.act(
        house.authority(who),
        m -> RequestDecisions.answer(m, request, step, yes, null, "a word", TAKE_BACK));
  }

  private AccessRequest granted() {
    AccessRequest next = decides(lena, asks(), 0, true);
    house.pass(TAKE_BACK);
    return decides(nils, next, 1, true);
  }

  private RequestFigures figures() {
    return RequestFigures.of(house.access(), requests, house.now());
  }

  @Test
  void nothingAtAll() {
    assertThat(figures())
        .isEqualTo(
            new RequestFigures(List.of(0, 0, 0, 0, 0), 0, 0, 0, 0, 0, null, List.of(), List.of()));
  }

  @Test
  void whatIsOpenByAgeAndForWhomItWaits() {
    for (int days : new int[] {9, 4, 2, 1, 0}) {
      requests.add(asks());
      house.pass(Duration.ofDays(days));
    }
    // Asked 16, 7, 3, 1 and 0 days ago: a bound belongs to the older ones.
    RequestFigures figures = figures();
    assertThat(figures.open()).containsExactly(1, 1, 1, 1, 1);
    assertThat(figures.deciders())
        .singleElement()
        .satisfies(
            line -> {
              assertThat(line.person()).isEqualTo(lena);
              assertThat(line.waiting()).isEqualTo(5);
              assertThat(line.decided()).isZero();
              assertThat(line.pace()).isNull();
              assertThat(line.oldest()).isGreaterThanOrEqualTo(Duration.ofDays(16));
              assertThat(line.slow()).isTrue();
            });
  }

  @Test
  void aBoundBelongsToTheOlderOnes() {
    AccessRequest request = asks();
    List<Duration> ages = RequestFigures.AGES;
    for (int place = 0; place < ages.size(); place++) {
      Duration bound = ages.get(place);
      assertThat(openAt(request, bound.minusNanos(1_000)).get(place)).as("just below").isEqualTo(1);
      assertThat(openAt(request, bound).get(place + 1)).as("%s", bound).isEqualTo(1);
    }
  }

  private List<Integer> openAt(AccessRequest request, Duration age) {
    return RequestFigures.of(house.access(), List.of(request), request.asked().plus(age)).open();
  }

  @Test
  void slowIsMoreThanHalfOfTheTimeAfterWhichItLapses() {
    Duration bound = Duration.ofDays(7);
    Duration more = bound.plusSeconds(1);
    Pace fast = new Pace(5, Duration.ofHours(1), bound);
    Pace slow = new Pace(5, Duration.ofHours(1), more);
    assertThat(new RequestFigures.DeciderLine(lena, 5, fast, 1, bound).slow()).isFalse();
    assertThat(new RequestFigures.DeciderLine(lena, 5, fast, 1, more).slow()).isTrue();
    assertThat(new RequestFigures.DeciderLine(lena, 5, slow, 0, Duration.ZERO).slow()).isTrue();
    assertThat(new RequestFigures.DeciderLine(lena, 0, null, 1, bound).slow()).isFalse();
  }

  @Test
  void howLongEachTakesCountsFromWhenItLayThere() {
    for (int hours = 1; hours <= 6; hours++) {
      AccessRequest asked = asks();
      house.pass(Duration.ofHours(hours));
      AccessRequest next = decides(lena, asked, 0, true);
      house.pass(Duration.ofDays(8));
      requests.add(decides(nils, next, 1, hours > 2));
    }
    RequestFigures figures = figures();
    assertThat(figures.given()).isEqualTo(4);
    assertThat(figures.refused()).isEqualTo(2);
    assertThat(figures.steps())
        .extracting(RequestFigures.StepLine::capacity, RequestFigures.StepLine::decided)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(Deciders.Capacity.MANAGER, 6),
            org.assertj.core.groups.Tuple.tuple(Deciders.Capacity.OWNER, 6));
    Pace manager = figures.steps().getFirst().pace();
    assertThat(manager).isNotNull();
    assertThat(manager.half().toHours()).isEqualTo(3);
    assertThat(manager.most().toHours()).isEqualTo(6);
    // The slow one first, though both decided as many.
    assertThat(figures.deciders())
        .extracting(RequestFigures.DeciderLine::person)
        .containsExactly(nils, lena);
    assertThat(figures.deciders())
        .extracting(RequestFigures.DeciderLine::slow)
        .containsExactly(true, false);
    assertThat(figures.pace()).isNotNull();
    assertThat(figures.pace().half().toDays()).isEqualTo(8);
  }

  @Test
  void everyWayToEndCountsOnce() {
    AccessRequest withdrawn = asks();
    requests.add(
        house.act(
            house.authority(withdrawn.asker()), m -> RequestDecisions.withdraw(m, withdrawn)));
    AccessRequest left = asks();
    requests.add(RequestDecisions.lapsed(left, house.now()));
    requests.add(RequestDecisions.overtaken(asks(), house.now()));
    requests.add(decides(lena, asks(), 0, false));
    RequestFigures figures = figures();
    assertThat(
            List.of(
                figures.given(),
                figures.refused(),
                figures.withdrawn(),
                figures.lapsed(),
                figures.overtaken()))
        .containsExactly(0, 1, 1, 1, 1);
    assertThat(figures.open()).containsExactly(0, 0, 0, 0, 0);
  }

  /** What ended, is younger, or tells nothing, counts in neither. */
  @Test
  void grantedAndThenUnusedCountsWhatIsHeldStillAndKnown() {
    List<AccessRequest> given = new ArrayList<>();
    for (int i = 0; i < 5; i++) {
      given.add(granted());
    }
    house.pass(Duration.ofDays(1));
    Instant since = house.now();
    house.pass(Duration.ofDays(RequestFigures.UNUSED_DAYS));
    AccessRequest young = granted();
    AccessRequest ended = given.get(4);
    house.act(
        house.authority(ines),
        m ->
            GrantDecisions.end(
                m, List.of(((Stage.Given) ended.stage()).grant()), List.of(), "No longer needed."));
    PersonId used = given.get(0).person();
    PersonId unknown = given.get(1).person();
    requests.addAll(given);
    requests.add(young);
    requests.add(asks());
    assertThat(
            RequestFigures.unused(
                house.access(),
                requests,
                since,
                (person, id) ->
                    person.equals(unknown) ? Optional.empty() : Optional.of(!person.equals(used))))
        .containsExactly(new RequestFigures.UnusedLine(given.get(0).entitlement(), 3, 2));
    assertThat(
            RequestFigures.unused(
                house.access(), requests, since, (person, id) -> Optional.of(false)))
        .isEmpty();
  }

  /** A deputy's decisions are theirs; what waits is told of whom it waits for by the path. */
  @Test
  void aDeputyIsToldByTheirOwnName() {
    house.manager(ines, lena);
    house.act(
        house.authority(lena),
        m ->
            DeputyDecisions.name(
                m,
                lena,
                ines,
                null,
                m.today().plusDays(3),
                new java.util.TreeSet<>(List.of(eleutheria.core.facts.Duty.values()))));
    requests.add(decides(ines, asks(), 0, false));
    requests.add(asks());
    assertThat(figures().deciders())
        .extracting(
            RequestFigures.DeciderLine::person,
            RequestFigures.DeciderLine::decided,
            RequestFigures.DeciderLine::waiting)
        .containsExactlyInAnyOrder(
            org.assertj.core.groups.Tuple.tuple(ines, 1, 0),
            org.assertj.core.groups.Tuple.tuple(lena, 0, 1));
  }
}
