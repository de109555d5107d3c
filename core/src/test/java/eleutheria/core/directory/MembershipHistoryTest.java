package eleutheria.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Random histories of groups, nested and ended, tried cycles and lasting memberships, against a
 * model that follows the words: who is in a group directly or through any chain. The state that was
 * built step by step must equal the one built from nothing, and the past must not move.
 */
class MembershipHistoryTest {
  private static final int ACTS = 250;

  @ParameterizedTest
  @ValueSource(longs = {21, 22, 23, 24, 25, 26, 27, 28})
  void membersAreAsTheWordsSay(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    House house = new House();
    List<PersonId> people = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      people.add(house.person("Person " + i, i % 3 == 0 ? "Deck crew" : "Safety"));
    }
    List<GroupId> groups = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      String name = "Group " + i;
      FactValue.Form form =
          i == 7 ? new FactValue.Form.ByFilter("unit eq \"Safety\"") : new FactValue.Form.Listed();
      groups.add(house.act(m -> GroupDecisions.make(m, name, form, "")));
    }
    Map<Instant, Map<GroupId, Set<PersonId>>> remembered = new HashMap<>();
    for (int act = 0; act < ACTS; act++) {
      step(random, house, people, groups);
      if (random.nextInt(10) == 0) {
        house.pass(Duration.ofHours(random.nextInt(40)));
      }
      Map<GroupId, Set<PersonId>> now = new HashMap<>();
      DirectoryView fromNothing = DirectoryView.of(house.facts, house.now());
      for (GroupId group : groups) {
        Set<PersonId> expected = naive(house, group, house.now(), new HashSet<>());
        String where = "seed " + seed + " act " + act;
        assertThat(house.directory().members(group)).as(where).isEqualTo(expected);
        assertThat(fromNothing.members(group)).as(where).isEqualTo(expected);
        now.put(group, expected);
        for (PersonId person : people) {
          boolean chained =
              house.directory().groupsOf(person).stream().anyMatch(b -> b.group().equals(group));
          assertThat(chained).as(where).isEqualTo(expected.contains(person));
        }
      }
      assertThat(house.directory().people()).isEqualTo(fromNothing.people());
      assertThat(house.directory().groups()).isEqualTo(fromNothing.groups());
      // It may wake too early, never too late.
      assertThat(house.directory().until()).isBeforeOrEqualTo(fromNothing.until());
      if (random.nextInt(20) == 0) {
        remembered.put(house.now(), now);
      }
    }
    remembered.forEach(
        (moment, members) -> {
          DirectoryView past = DirectoryView.of(house.facts, moment);
          members.forEach((group, expected) -> assertThat(past.members(group)).isEqualTo(expected));
        });
  }

  private static void step(
      SplittableRandom random, House house, List<PersonId> people, List<GroupId> groups) {
    GroupId group = groups.get(random.nextInt(7));
    ObjectId member =
        random.nextInt(3) == 0
            ? groups.get(random.nextInt(groups.size()))
            : people.get(random.nextInt(people.size()));
    boolean cyclic =
        member instanceof GroupId nested && house.directory().below(nested).contains(group);
    switch (random.nextInt(5)) {
      case 0, 1 -> {
        Outcome<GroupId> taken =
            house.decide(Authority.SETUP, m -> GroupDecisions.remove(m, group, member, ""));
        assertThat(taken).isNotNull();
      }
      case 2 -> {
        LocalDate until = house.now().atZone(House.ZONE).toLocalDate().plusDays(random.nextInt(4));
        Outcome<Integer> added =
            house.decide(
                Authority.SETUP, m -> GroupDecisions.add(m, group, List.of(member), until, ""));
        assertThat(added instanceof Outcome.Refused<Integer>).isEqualTo(cyclic);
      }
      default -> {
        Outcome<Integer> added =
            house.decide(
                Authority.SETUP, m -> GroupDecisions.add(m, group, List.of(member), null, ""));
        assertThat(added instanceof Outcome.Refused<Integer>).isEqualTo(cyclic);
      }
    }
  }

  /** Word for word: directly, by filter, or through any group that is in it. */
  private static Set<PersonId> naive(House house, GroupId group, Instant at, Set<GroupId> seen) {
    Set<PersonId> found = new HashSet<>();
    if (!seen.add(group)) {
      return found;
    }
    FactValue form = house.facts.valueAt(new FactKey.GroupForm(group), at);
    if (form instanceof FactValue.Form.ByFilter) {
      for (Person person : house.directory().people()) {
        FactValue unit =
            house.facts.valueAt(new FactKey.Attribute(person.id(), Attributes.UNIT, ""), at);
        if (unit instanceof FactValue.Text text && text.text().equals("Safety")) {
          found.add(person.id());
        }
      }
    }
    house.facts.forEach(
        (key, spells) -> {
          if (key instanceof FactKey.Membership membership
              && membership.subject().equals(group)
              && house.facts.valueAt(key, at) != null) {
            switch (membership.member()) {
              case PersonId person -> found.add(person);
              case GroupId nested -> found.addAll(naive(house, nested, at, seen));
              default -> throw new IllegalStateException();
            }
          }
        });
    return found;
  }
}
