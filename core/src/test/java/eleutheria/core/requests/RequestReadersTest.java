package eleutheria.core.requests;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Duration;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** What somebody wrote when they asked is between them and those whom it concerns. */
class RequestReadersTest {
  private final House house = new House();
  private final PersonId head = house.person("Una Head", "Ticketing");
  private final PersonId lena = house.person("Lena Aho", "Ticketing");
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId owner = house.person("Nils Sand", "Deck crew");
  private final PersonId other = house.person("Mina Sato", "Ticketing");
  private final EntitlementId role = house.role("Farebox", Sensitivity.LOW, owner);

  RequestReadersTest() {
    house.manager(oda, lena);
    house.manager(lena, head);
  }

  private AccessRequest asked() {
    return house.act(
        house.authority(oda),
        m -> RequestDecisions.ask(m, 1, oda, role, null, "for the counter", Map.of(), List.of()));
  }

  private AccessRequest decided(AccessRequest request) {
    AccessRequest after =
        house.act(
            house.authority(lena),
            m -> RequestDecisions.answer(m, request, 0, true, null, "yes", Duration.ofSeconds(10)));
    house.pass(Duration.ofSeconds(10));
    return after;
  }

  private boolean reads(PersonId who, AccessRequest request) {
    return RequestReaders.reads(house.authority(who), house.access(), request);
  }

  private boolean reads(Power power, Reach reach, AccessRequest request) {
    Authority authority =
        new Authority(
            other, List.of(new Authority.Allowed("one", EnumSet.of(power), reach)), Set.of());
    return RequestReaders.reads(authority, house.access(), request);
  }

  @Test
  void whoeverAsksDecidesOrOwnsTheAppReadsItAndNobodyElse() {
    AccessRequest request = asked();
    assertThat(List.of(oda, lena, owner)).allMatch(who -> reads(who, request));
    // A colleague does not, nor whoever would only decide if somebody else were away.
    assertThat(List.of(other, head)).noneMatch(who -> reads(who, request));
    assertThat(RequestReaders.reads(Authority.NONE, house.access(), request)).isFalse();
  }

  @Test
  void whoHasDecidedGoesOnReadingItAndWhoCameTooLateDoesNot() {
    AccessRequest request = decided(asked());
    house.manager(oda, other);
    assertThat(reads(lena, request)).as("she has decided").isTrue();
    assertThat(reads(other, request)).as("the step is over").isFalse();
    AccessRequest withdrawn =
        house.act(house.authority(oda), m -> RequestDecisions.withdraw(m, request));
    assertThat(List.of(oda, lena, owner)).allMatch(who -> reads(who, withdrawn));
  }

  @Test
  void whoDecidesIsWhoDecidesNow() {
    AccessRequest request = asked();
    house.status(lena, PersonStatus.DEPARTED);
    assertThat(reads(head, request)).as("her manager decides in her place").isTrue();
    house.manager(oda, other);
    assertThat(reads(other, request)).isTrue();
    assertThat(reads(head, request)).isFalse();
  }

  @Test
  void aPowerOverSuchAccessReadsItWithinItsReachAlone() {
    AccessRequest request = asked();
    String app = house.app(role).value().toString();
    assertThat(reads(Power.ACCESS_READ, Reach.ALL, request)).isTrue();
    assertThat(reads(Power.ACCESS_READ, Reach.units("Ticketing"), request)).isTrue();
    assertThat(reads(Power.ACCESS_READ, Reach.units("Deck crew"), request)).isFalse();
    assertThat(
            reads(
                Power.ACCESS_READ,
                new Reach(new TreeSet<>(List.of("Ticketing")), new TreeSet<>(List.of(app)), null),
                request))
        .isTrue();
    assertThat(
            reads(
                Power.ACCESS_READ,
                new Reach(null, new TreeSet<>(List.of(new UUID(9, 9).toString())), null),
                request))
        .isFalse();
    assertThat(reads(Power.REQUESTS_STEP_IN, Reach.ALL, request)).isTrue();
    assertThat(reads(Power.REQUESTS_STEP_IN, Reach.units("Deck crew"), request)).isFalse();
    for (Power power : List.of(Power.PEOPLE_READ, Power.APPS_READ, Power.APPS_EDIT)) {
      assertThat(reads(power, Reach.ALL, request)).as(power.word()).isFalse();
    }
  }

  @Test
  void whatIsAboutNothingOnRecordIsReadByNobody() {
    AccessRequest request = asked();
    EntitlementId gone = new EntitlementId(new UUID(9, 9));
    AccessRequest aboutNothing =
        new AccessRequest(
            request.id(),
            request.number(),
            Wish.own(request.asker(), gone),
            request.route(),
            request.until(),
            request.reason(),
            List.of(),
            request.asked(),
            request.answers(),
            request.stage(),
            request.messages());
    assertThat(reads(oda, aboutNothing)).isFalse();
    assertThat(reads(Power.ACCESS_READ, Reach.ALL, aboutNothing)).isFalse();
  }
}
