package eleutheria.core.docket;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ParkedDecisionsTest {
  private final House house = new House();
  private final PersonId oda = house.person("Oda Brekke", "Ticketing");
  private final Case.Parked parked = new Case.Parked("e7", "reset", oda, house.now(), 12);

  private static Authority holding(Reach reach) {
    return new Authority(
        null,
        List.of(new Authority.Allowed("m", EnumSet.of(Power.SETTINGS_EDIT), reach)),
        Set.of());
  }

  @Test
  void theLedgerTellsWhatWasTriedAgainOrDroppedAndWhy() {
    Authority everywhere = holding(Reach.ALL);
    assertThat(house.decide(everywhere, m -> ParkedDecisions.retry(m, parked, 41)))
        .isInstanceOfSatisfying(
            Outcome.Done.class,
            done -> {
              assertThat(done.act().name()).isEqualTo(ActName.PARKED_RETRY);
              assertThat(done.act().objects()).isEqualTo(List.of(oda));
              assertThat(done.act().details()).isEqualTo(Map.of("kind", "reset", "cites", 41L));
              assertThat(done.edits()).isEmpty();
            });
    assertThat(house.decide(everywhere, m -> ParkedDecisions.drop(m, parked, 41, " no address ")))
        .isInstanceOfSatisfying(
            Outcome.Done.class, done -> assertThat(done.act().reason()).isEqualTo("no address"));
  }

  @Test
  void nobodyDropsWithoutAReasonOrWithinAReachOnly() {
    for (String reason : List.of("", "  ", "x".repeat(1_001))) {
      assertThat(house.decide(holding(Reach.ALL), m -> ParkedDecisions.drop(m, parked, 41, reason)))
          .isInstanceOfSatisfying(
              Outcome.Refused.class,
              refused ->
                  assertThat(((Problem) refused.problems().getFirst()).field())
                      .isEqualTo("reason"));
    }
    // It may be about anybody, so a part of the organisation is not enough.
    Authority some = holding(Reach.units("Ticketing"));
    assertThat(ParkedDecisions.answers(some)).isFalse();
    assertThat(house.decide(some, m -> ParkedDecisions.retry(m, parked, 41)))
        .isInstanceOf(Outcome.Refused.class);
    assertThat(house.decide(some, m -> ParkedDecisions.drop(m, parked, 41, "why")))
        .isInstanceOf(Outcome.Refused.class);
  }
}
