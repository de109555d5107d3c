package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.ShippedMandate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.function.Function;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Handing back, in random organisations. Laws: nobody else loses or gains; the person gains
 * nothing; what was said to go is what goes, and what was said to remain is what remains; and what
 * can be given up is given up.
 */
class HandBackHistoryTest {
  private static final List<String> UNITS = List.of("Deck crew", "Safety", "Ticketing");

  private final House house = new House();
  private final List<PersonId> people = new ArrayList<>();
  private final List<GroupId> groups = new ArrayList<>();
  private final List<EntitlementId> roles = new ArrayList<>();

  private Map<PersonId, Set<EntitlementId>> held() {
    Map<PersonId, Set<EntitlementId>> held = new HashMap<>();
    for (PersonId person : people) {
      Set<EntitlementId> own = new HashSet<>();
      house.access().entitlements(person).forEach(e -> own.add(e.id()));
      held.put(person, own);
    }
    return held;
  }

  private HandBackDecisions.Plan plan(PersonId person, EntitlementId role) {
    return looked(person, m -> HandBackDecisions.plan(m, person, role));
  }

  private <T> T looked(PersonId person, Function<Moment, T> look) {
    List<T> found = new ArrayList<>();
    house.decide(
        house.authority(person),
        m -> {
          found.add(look.apply(m));
          return Outcome.refused();
        });
    return found.getFirst();
  }

  private static Outcome<EntitlementId> handBack(
      Moment m, PersonId person, EntitlementId role, HandBackDecisions.Plan plan) {
    return HandBackDecisions.handBack(
        m, person, role, Set.copyOf(plan.grants()), Set.copyOf(plan.groups()));
  }

  @ParameterizedTest
  @ValueSource(longs = {11, 12, 13, 14, 15, 16, 17, 18})
  void nobodyElseLosesAndWhatRemainsIsWhatWasSaid(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    for (int i = 0; i < 6; i++) {
      people.add(house.person("Person " + i, UNITS.get(i % 3)));
    }
    for (int i = 0; i < 5; i++) {
      String name = "Group " + i;
      FactValue.Form form =
          i == 4 ? new FactValue.Form.ByFilter("unit eq \"Safety\"") : new FactValue.Form.Listed();
      groups.add(house.act(m -> GroupDecisions.make(m, name, form, "")));
    }
    house.hold(ShippedMandate.AUDITOR.id(), groups.getFirst());
    for (int i = 0; i < 4; i++) {
      roles.add(house.role("App " + i, Sensitivity.LOW));
    }
    for (int act = 0; act < 60; act++) {
      something(random);
    }
    for (PersonId person : people) {
      for (EntitlementId role : roles) {
        if (!house.access().entitled(person, role)) {
          assertThat(
                  house.refused(
                      house.authority(person),
                      m -> HandBackDecisions.handBack(m, person, role, Set.of(), Set.of())))
              .containsExactly("absent");
          continue;
        }
        HandBackDecisions.Plan plan = plan(person, role);
        Map<PersonId, Set<EntitlementId>> before = held();
        int grounds = house.access().grounds(person, role).size();
        if (plan.isEmpty()) {
          assertThat(plan.remains()).hasSize(grounds);
          assertThat(house.refused(house.authority(person), m -> handBack(m, person, role, plan)))
              .containsExactly("hand-back.none");
          continue;
        }
        Set<EntitlementId> loses =
            looked(person, m -> HandBackDecisions.loses(m, person, role, plan));
        house.act(house.authority(person), m -> handBack(m, person, role, plan));
        Map<PersonId, Set<EntitlementId>> after = held();
        String where = "seed " + seed + " " + person + " " + role;
        for (PersonId other : people) {
          if (other.equals(person)) {
            assertThat(before.get(other)).as(where).containsAll(after.get(other));
            before.get(other).removeAll(after.get(other));
            assertThat(before.get(other)).as(where).isEqualTo(loses);
          } else {
            assertThat(after.get(other)).as(where).isEqualTo(before.get(other));
          }
        }
        assertThat(house.access().grounds(person, role).stream().map(g -> g.grant().id()))
            .as(where)
            .containsExactlyInAnyOrderElementsOf(
                plan.remains().stream().map(g -> g.grant().id()).toList());
      }
    }
  }

  private void something(SplittableRandom random) {
    PersonId person = people.get(random.nextInt(people.size()));
    GroupId listed = groups.get(random.nextInt(4));
    EntitlementId role = roles.get(random.nextInt(roles.size()));
    if (random.nextInt(3) > 0) {
      ObjectId member = random.nextInt(3) == 0 ? groups.get(random.nextInt(groups.size())) : person;
      house.decide(
          eleutheria.core.mandates.Authority.SETUP,
          m -> GroupDecisions.add(m, listed, List.of(member), null, ""));
      return;
    }
    FactValue.Subject subject =
        switch (random.nextInt(4)) {
          case 0 -> new FactValue.Subject.OfPerson(person);
          case 1 -> new FactValue.Subject.ByFilter("unit eq \"Deck crew\"");
          default -> new FactValue.Subject.OfGroup(groups.get(random.nextInt(groups.size())));
        };
    house.decide(
        eleutheria.core.mandates.Authority.SETUP,
        m -> GrantDecisions.give(m, role, List.of(subject), null, null, "tried"));
  }

  @Test
  void whatWasSeenMustStillBeSo() {
    PersonId oda = house.person("Oda Brekke", "Ticketing");
    EntitlementId role = house.role("Farebox", Sensitivity.LOW);
    house.act(
        m ->
            GrantDecisions.give(
                m, role, List.of(new FactValue.Subject.OfPerson(oda)), null, null, "for now"));
    HandBackDecisions.Plan seen = plan(oda, role);
    GroupId group =
        house.act(m -> GroupDecisions.make(m, "Counter", new FactValue.Form.Listed(), ""));
    house.act(m -> GroupDecisions.add(m, group, List.of(oda), null, ""));
    house.act(
        m ->
            GrantDecisions.give(
                m, role, List.of(new FactValue.Subject.OfGroup(group)), null, null, "and again"));
    assertThat(house.refused(house.authority(oda), m -> handBack(m, oda, role, seen)))
        .containsExactly("changed-meanwhile");
    assertThat(house.access().entitled(oda, role)).isTrue();
  }

  @Test
  void aGroupThatGivesPowersIsNotLeftThisWay() {
    PersonId oda = house.person("Oda Brekke", "Ticketing");
    EntitlementId role = house.role("Farebox", Sensitivity.LOW);
    GroupId group =
        house.act(m -> GroupDecisions.make(m, "Auditors", new FactValue.Form.Listed(), ""));
    house.act(m -> GroupDecisions.add(m, group, List.of(oda), null, ""));
    house.act(
        m ->
            GrantDecisions.give(
                m, role, List.of(new FactValue.Subject.OfGroup(group)), null, null, "work"));
    assertThat(plan(oda, role).groups()).containsExactly(group);
    house.hold(ShippedMandate.AUDITOR.id(), group);
    assertThat(plan(oda, role).isEmpty()).isTrue();
    assertThat(plan(oda, role).remains()).hasSize(1);
  }
}
