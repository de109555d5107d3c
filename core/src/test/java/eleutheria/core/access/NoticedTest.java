package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class NoticedTest {
  private final House house = new House();
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final PersonId emre = house.person("Emre Demir", "Ticketing");
  private final EntitlementId role = house.role("Farebox", Sensitivity.LOW);
  private final AtomicInteger heard = new AtomicInteger();

  private void give(PersonId person, GrantSource source) {
    house.act(
        m -> {
          Edits edits = m.edits();
          GrantId id = new GrantId(m.ids().get());
          edits.timeline(
              new FactKey.Grant(id),
              List.of(
                  new Spell(
                      new FactValue.Given(new FactValue.Subject.OfPerson(person), role, source),
                      m.at(),
                      Moments.FOREVER)));
          return Outcome.done(Act.of(ActName.ACCESS_GIVE, id), edits.list(), id);
        });
  }

  /** Who is known to know, where both lose it now and these have heard of it. */
  private Map<EntitlementId, Set<PersonId>> knew(AccessView earlier, PersonId... told) {
    return Noticed.of(
        Map.of(role, Set.of(oda, emre)),
        earlier,
        house.access(),
        () -> {
          heard.incrementAndGet();
          return List.of(Map.of(role, Set.of(told)));
        });
  }

  @Test
  void whoHasHeldItForADayKnowsOfItAndNobodyElseNeedBeAskedAbout() {
    give(oda, GrantSource.HAND);
    give(emre, GrantSource.HAND);
    AccessView earlier = house.access();
    house.pass(Noticed.AFTER);
    assertThat(knew(earlier)).isEqualTo(Map.of(role, Set.of(oda, emre)));
    assertThat(heard).hasValue(0);
  }

  @Test
  void whoGotItSinceKnowsOfItWhereTheyAskedForItOrHeardOfIt() {
    AccessView earlier = house.access();
    house.pass(Duration.ofHours(1));
    give(oda, GrantSource.REQUEST);
    give(emre, GrantSource.HAND);
    assertThat(knew(earlier)).isEqualTo(Map.of(role, Set.of(oda)));
    assertThat(knew(earlier, emre)).isEqualTo(Map.of(role, Set.of(oda, emre)));
    // Who is told of something that they do not lose is told of nothing here.
    assertThat(knew(earlier, house.person("Ines Roth", "Platform")))
        .isEqualTo(Map.of(role, Set.of(oda)));
  }
}
