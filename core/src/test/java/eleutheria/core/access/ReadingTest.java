package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class ReadingTest {
  private final House house = new House();
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final ApplicationId farebox = new ApplicationId(new UUID(1, 1));
  private final ApplicationId crewsheet = new ApplicationId(new UUID(1, 2));

  private Reading reading(List<Reach> use, ObjectId... owned) {
    return new Reading(
        new Authority(
            null,
            use.stream()
                .map(reach -> new Authority.Allowed("m", EnumSet.of(Power.USE_READ), reach))
                .toList(),
            Set.of(owned)),
        house.directory());
  }

  private static Reach only(ApplicationId app) {
    return new Reach(null, new TreeSet<>(Set.of(app.value().toString())), null);
  }

  @Test
  void figuresOfFewPeopleAreToldToWhoeverMaySeeEachOfThem() {
    Reading owner = reading(List.of(), farebox);
    assertThat(owner.seesFigures(farebox, Reading.FEWEST - 1)).isFalse();
    assertThat(owner.seesFigures(farebox, Reading.FEWEST)).isTrue();
    assertThat(owner.seesFigures(crewsheet, 1_000)).isFalse();
    Reading ofAUnit = reading(List.of(Reach.units("Ticketing")));
    assertThat(ofAUnit.seesFigures(farebox, Reading.FEWEST - 1)).isFalse();
    assertThat(ofAUnit.seesFigures(farebox, Reading.FEWEST)).isTrue();
    assertThat(reading(List.of(only(farebox))).seesFigures(farebox, 0)).isTrue();
    assertThat(reading(List.of(only(farebox))).seesFigures(crewsheet, 1_000)).isFalse();
  }

  @Test
  void whatReachesOneAppTellsNothingOfAnotherAndNothingOfSigningIn() {
    Reading one = reading(List.of(only(farebox)));
    assertThat(one.seesUse(farebox, oda)).isTrue();
    assertThat(one.seesUse(crewsheet, oda)).isFalse();
    assertThat(one.seesAllUse(oda)).isFalse();
    // Not even together: each reaches its own.
    Reading both = reading(List.of(only(farebox), only(crewsheet)));
    assertThat(both.seesAllUse(oda)).isFalse();
    assertThat(reading(List.of(Reach.units("Ticketing"))).seesAllUse(oda)).isTrue();
    assertThat(reading(List.of(Reach.units("Safety"))).seesAllUse(oda)).isFalse();
    // An owner sees how often, and not who.
    assertThat(reading(List.of(), farebox).seesUse(farebox, oda)).isFalse();
  }
}
