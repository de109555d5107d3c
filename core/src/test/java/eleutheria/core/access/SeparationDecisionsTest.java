package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.House;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Duration;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What may be set apart, accepted and ended, and everything that is said where it may not. */
class SeparationDecisionsTest {
  private final House house = new House();
  private EntitlementId sells;
  private EntitlementId refunds;
  private PersonId oda;
  private RuleId rule;

  @BeforeEach
  void aRule() {
    sells = house.role("Farebox", Sensitivity.LOW);
    refunds = house.role("Refund Bench", Sensitivity.HIGH);
    oda = house.person("Oda", "Ticketing");
    rule = house.act(m -> SeparationDecisions.set(m, null, null, apart(), null, "asked for"));
  }

  private FactValue.Separation apart() {
    return terms("Refunds apart", "Whoever does both could pay themselves.");
  }

  private FactValue.Separation terms(String name, String why) {
    return new FactValue.Separation(name, why, set(sells), set(refunds));
  }

  private static TreeSet<EntitlementId> set(EntitlementId... all) {
    return new TreeSet<>(List.of(all));
  }

  private static Authority by(Power power, Reach reach, @Nullable PersonId person) {
    return new Authority(
        person, List.of(new Authority.Allowed("one", EnumSet.of(power), reach)), Set.of());
  }

  private LocalDate today() {
    return house.now().atZone(House.ZONE).toLocalDate();
  }

  private List<String> refusedNew(FactValue.Separation wanted, @Nullable LocalDate from) {
    return house.refused(
        Authority.SETUP, m -> SeparationDecisions.set(m, null, null, wanted, from, ""));
  }

  @Test
  void aRuleHasANameAReasonAndTwoSides() {
    assertThat(refusedNew(terms(" ", " "), null)).containsExactly("rule.no-name", "rule.no-why");
    assertThat(refusedNew(terms("x".repeat(121), "y".repeat(501)), null))
        .containsExactly("too-long", "too-long");
    // Names are compared as people read them.
    assertThat(refusedNew(terms("REFUNDS  apart".replace("  ", " "), "w"), null))
        .containsExactly("rule.name-taken");
    assertThat(refusedNew(new FactValue.Separation("A", "w", set(), set()), null))
        .containsExactly("rule.empty", "rule.empty");
    assertThat(refusedNew(new FactValue.Separation("A", "w", set(sells), set(sells)), null))
        .containsExactly("rule.overlap");
    assertThat(
            refusedNew(
                new FactValue.Separation(
                    "A", "w", set(sells), set(new EntitlementId(new UUID(9, 9)))),
                null))
        .containsExactly("absent");
    TreeSet<EntitlementId> many = new TreeSet<>();
    for (int i = 0; i <= SeparationDecisions.MOST; i++) {
      many.add(new EntitlementId(new UUID(9, i)));
    }
    assertThat(refusedNew(new FactValue.Separation("A", "w", many, set(sells)), null))
        .containsExactly("rule.many", "absent");
    assertThat(refusedNew(terms("A", "w"), today().minusDays(1))).containsExactly("rule.past");
    assertThat(house.facts.keys(FactKey.SeparationRule.class)).hasSize(1);
  }

  @Test
  void onlyWhoeverHasThePowerEverywhereSetsOne() {
    for (Authority lacks :
        List.of(
            Authority.NONE,
            by(Power.ACCESS_RULES, Reach.units("Ticketing"), null),
            by(Power.ACCESS_EXCEPT, Reach.ALL, null))) {
      assertThat(
              house.refused(
                  lacks, m -> SeparationDecisions.set(m, null, null, terms("A", "w"), null, "")))
          .containsExactly("power");
      assertThat(house.refused(lacks, m -> SeparationDecisions.end(m, rule, "over")))
          .containsExactly("power");
    }
  }

  /** A new wording from a day on leaves the old one in force until then. */
  @Test
  void aRuleIsWordedAnewFromADayOnByWhoeverSawTheLast() {
    FactValue.Separation next = terms("Refunds apart", "A better reason.");
    assertThat(
            house.refused(
                Authority.SETUP, m -> SeparationDecisions.set(m, rule, next, next, null, "")))
        .containsExactly("changed-meanwhile");
    house.act(m -> SeparationDecisions.set(m, rule, apart(), next, today().plusDays(3), ""));
    FactKey key = new FactKey.SeparationRule(rule);
    assertThat(house.facts.valueAt(key, house.now())).isEqualTo(apart());
    house.pass(Duration.ofDays(3));
    assertThat(house.facts.valueAt(key, house.now())).isEqualTo(next);
    // Its own name is not taken by itself.
    house.act(m -> SeparationDecisions.set(m, rule, next, terms("refunds APART", "w"), null, ""));
  }

  private List<String> refusedException(
      Authority by, RuleId id, PersonId person, EntitlementId other, LocalDate until, String why) {
    return house.refused(
        by, m -> SeparationDecisions.except(m, new Conflict(id, person, sells, other), until, why));
  }

  @Test
  void anExceptionIsForOnePairUntilADayWithinAYear() {
    LocalDate soon = today().plusDays(30);
    Authority all = Authority.SETUP;
    assertThat(refusedException(all, new RuleId(new UUID(1, 9)), oda, refunds, soon, "w"))
        .containsExactly("absent");
    assertThat(refusedException(all, rule, oda, sells, soon, "w")).containsExactly("rule.pair");
    assertThat(refusedException(all, rule, oda, refunds, today().minusDays(1), " "))
        .containsExactly("exception.over", "exception.no-reason");
    LocalDate longest = today().plusDays(SeparationDecisions.LONGEST_EXCEPTION);
    assertThat(refusedException(all, rule, oda, refunds, longest.plusDays(1), "w"))
        .containsExactly("exception.long");
    assertThat(refusedException(all, rule, oda, refunds, soon, "w".repeat(501)))
        .containsExactly("too-long");
    house.act(
        m -> SeparationDecisions.except(m, new Conflict(rule, oda, sells, refunds), longest, "w"));
  }

  @Test
  void nobodyExceptsThemselvesOrSomebodyOutOfReach() {
    LocalDate soon = today().plusDays(30);
    Authority own = by(Power.ACCESS_EXCEPT, Reach.ALL, oda);
    assertThat(refusedException(own, rule, oda, refunds, soon, "w")).containsExactly("own-gain");
    Authority deck = by(Power.ACCESS_EXCEPT, Reach.units("Deck crew"), null);
    assertThat(refusedException(deck, rule, oda, refunds, soon, "w")).containsExactly("power");
    Authority ticketing = by(Power.ACCESS_EXCEPT, Reach.units("Ticketing"), null);
    house.act(
        ticketing,
        m -> SeparationDecisions.except(m, new Conflict(rule, oda, sells, refunds), soon, "w"));
    assertThat(house.facts.valueAt(new FactKey.Excepted(rule, oda, sells, refunds), house.now()))
        .isNotNull();
  }

  @Test
  void aRuleEndsWithItsExceptionsAndAReason() {
    house.act(
        m ->
            SeparationDecisions.except(
                m, new Conflict(rule, oda, sells, refunds), today().plusDays(30), "w"));
    assertThat(house.refused(Authority.SETUP, m -> SeparationDecisions.end(m, rule, " ")))
        .containsExactly("rule.no-reason");
    house.act(m -> SeparationDecisions.end(m, rule, "done with"));
    assertThat(house.facts.valueAt(new FactKey.SeparationRule(rule), house.now())).isNull();
    assertThat(house.facts.valueAt(new FactKey.Excepted(rule, oda, sells, refunds), house.now()))
        .isNull();
    assertThat(house.refused(Authority.SETUP, m -> SeparationDecisions.end(m, rule, "again")))
        .containsExactly("absent");
  }
}
