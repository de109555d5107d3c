package eleutheria.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.departures.DepartureDecisions;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.mandates.ShippedMandate;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What edits do to who may do what, by whatever way. */
class AuthorityJudgeTest {
  private final House house = new House();
  private PersonId ines;
  private PersonId oda;
  private PersonId nils;
  private GroupId helpers;

  @BeforeEach
  void people() {
    ines = house.person("Ines", "Yard");
    oda = house.person("Oda", "Ticketing");
    nils = house.person("Nils", "Deck crew");
    house.hold(ShippedMandate.STEWARD.id(), ines);
    helpers = group("Helpers", new FactValue.Form.Listed());
    house.hold(ShippedMandate.HELP_DESK.id(), helpers);
  }

  private GroupId group(String name, FactValue.Form form) {
    return house.act(m -> GroupDecisions.make(m, name, form, ""));
  }

  private Authority holder(String name, Reach reach, Power... powers) {
    PersonId person = house.person(name, "Yard");
    Set<String> words = new TreeSet<>();
    for (Power power : powers) {
      words.add(power.word());
    }
    MandateId mandate = new MandateId(new UUID(7, name.hashCode()));
    house.set(
        new FactKey.Mandate(mandate), new FactValue.Terms(name, "", new TreeSet<>(words), reach));
    house.hold(mandate, person);
    return house.authority(person);
  }

  /** What the judge says of an act; nothing is done. */
  private <T> List<String> judged(
      Authority authority, Function<Moment, Outcome<T>> decision, Outcome.Right right) {
    List<String> codes = new ArrayList<>();
    house.watch(
        (before, directory, edits, moves, at) ->
            AuthorityJudge.judge(
                    new Moment(before, directory, at, House.ZONE, UUID::randomUUID, authority),
                    edits,
                    moves,
                    right)
                .forEach(problem -> codes.add(problem.code())));
    house.decide(Authority.SETUP, decision);
    house.watch((before, directory, edits, moves, at) -> {});
    return codes;
  }

  private List<String> judged(Authority authority, FactKey key, FactValue value) {
    return judged(authority, setting(key, value), Outcome.Right.BY_EFFECT);
  }

  private static Function<Moment, Outcome<Integer>> setting(FactKey key, FactValue value) {
    return m -> {
      var edits = m.edits();
      edits.put(key, value);
      return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
    };
  }

  private FactKey unit(PersonId person) {
    return Attributes.key(person, Attributes.UNIT, false, "");
  }

  @Test
  void anAttributeThatLeadsIntoAGroupWithAMandateWeighsAsMuchAsTheMandate() {
    GroupId safety = group("Safety", new FactValue.Form.ByFilter("unit eq \"Safety\""));
    Authority importer = holder("Importer", Reach.ALL, Power.PEOPLE_IMPORT, Power.PEOPLE_EDIT);
    assertThat(judged(importer, unit(oda), new FactValue.Text("Safety"))).isEmpty();
    house.act(m -> GroupDecisions.add(m, helpers, List.of(safety), null, ""));
    assertThat(judged(importer, unit(nils), new FactValue.Text("Safety")))
        .containsExactly("power-lacked");
    assertThat(judged(house.authority(ines), unit(nils), new FactValue.Text("Deck crew")))
        .isEmpty();
  }

  @Test
  void nestingAGroupBelowAMandateGivesItToAllInIt() {
    GroupId safety = group("Safety", new FactValue.Form.ByFilter("unit eq \"Ticketing\""));
    Authority editor = holder("Editor", Reach.ALL, Power.GROUPS_EDIT);
    assertThat(
            judged(
                editor,
                setting(new FactKey.Membership(helpers, safety), FactValue.Present.PRESENT),
                Outcome.Right.AS_GROUP_OWNER))
        .containsExactly("power-lacked");
  }

  @Test
  void nobodyGivesAPowerBeyondTheirReachNorOneToThemselves() {
    Authority near = holder("Near", Reach.units("Yard"), Power.values());
    assertThat(
            judged(
                near,
                new FactKey.MandateHeld(ShippedMandate.AUDITOR.id(), oda),
                FactValue.Present.PRESENT))
        .containsExactly("power-lacked");
    Authority far = holder("Far", Reach.ALL, Power.values());
    assertThat(
            judged(
                far,
                new FactKey.MandateHeld(ShippedMandate.AUDITOR.id(), far.person()),
                FactValue.Present.PRESENT))
        .containsExactly("own-gain");
  }

  @Test
  void aMandateThatBeginsOnADayToComeIsJudgedToday() {
    Authority editor = holder("Editor", Reach.ALL, Power.GROUPS_EDIT);
    GroupId later = group("Later", new FactValue.Form.Listed());
    house.act(
        m -> {
          var edits = m.edits();
          edits.timeline(
              new FactKey.MandateHeld(ShippedMandate.AUDITOR.id(), later),
              List.of(
                  new Spell(
                      FactValue.Present.PRESENT,
                      m.at().plus(Duration.ofDays(5)),
                      Moments.FOREVER)));
          return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
        });
    assertThat(
            judged(
                editor,
                setting(new FactKey.Membership(later, oda), FactValue.Present.PRESENT),
                Outcome.Right.AS_GROUP_OWNER))
        .containsExactly("power-lacked");
  }

  @Test
  void whoIsLetBackToWorkWithAMandateIsGivenItsPowers() {
    house.hold(ShippedMandate.AUDITOR.id(), oda);
    house.status(oda, PersonStatus.PAUSED);
    Authority editor = holder("Editor", Reach.ALL, Power.PEOPLE_EDIT);
    assertThat(judged(editor, new FactKey.Status(oda), FactValue.Standing.of(PersonStatus.ACTIVE)))
        .containsExactly("power-lacked");
  }

  @Test
  void aDepartureTakesPowersFromAnybodyButTheLastWhoHasThemAll() {
    house.hold(ShippedMandate.AUDITOR.id(), oda);
    Authority leavers = holder("Leavers", Reach.ALL, Power.DEPARTURES_RUN);
    assertThat(
            judged(
                leavers, m -> DepartureDecisions.depart(m, oda, 0, "left"), Outcome.Right.BY_RULE))
        .isEmpty();
    assertThat(
            judged(
                leavers, m -> DepartureDecisions.depart(m, ines, 0, "left"), Outcome.Right.BY_RULE))
        .containsExactly(AuthorityJudge.LAST);
  }

  @Test
  void whoMakesAnOwnerMayDoWhatOwnersDo() {
    EntitlementId role = house.role("Farebox", Sensitivity.LOW);
    Authority editor = holder("Apps", Reach.ALL, Power.APPS_EDIT);
    FactKey owner = new FactKey.Ownership(house.app(role), nils);
    assertThat(judged(editor, owner, FactValue.Present.PRESENT)).containsExactly("power-lacked");
    Authority reader = holder("Reads", Reach.ALL, Power.APPS_EDIT, Power.ACCESS_READ);
    GroupId desk = group("Desk", new FactValue.Form.Listed());
    house.act(
        m ->
            GrantDecisions.give(
                m, role, List.of(new FactValue.Subject.OfGroup(desk)), null, null, "why"));
    Authority groups = holder("Groups", Reach.ALL, Power.GROUPS_EDIT);
    FactKey ofDesk = new FactKey.Ownership(desk, nils);
    assertThat(judged(groups, ofDesk, FactValue.Present.PRESENT)).containsExactly("power-lacked");
    assertThat(
            judged(reader, new FactKey.Ownership(house.app(role), oda), FactValue.Present.PRESENT))
        .isEmpty();
  }

  @Test
  void nobodyMakesThemselvesTheManagerOfPeopleWhoseAccessTheyMayNotSee() {
    Authority importer = holder("Importer", Reach.ALL, Power.PEOPLE_IMPORT);
    FactValue self = new FactValue.Text(importer.person().value().toString());
    FactKey manager = Attributes.key(oda, Attributes.MANAGER, false, "");
    assertThat(judged(importer, manager, self)).containsExactly("own-gain");
    assertThat(judged(importer, manager, new FactValue.Text(nils.value().toString()))).isEmpty();
  }

  // ---- random histories against the definitions

  /**
   * Every random act is judged for somebody who may give one mandate and not another. The judge
   * refuses exactly where, at some moment, somebody would hold or lose the other mandate by it.
   */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void refusesWhereTheDefinitionsSaySomebodyGainsOrLosesWhatTheActorLacks(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<PersonId> people = new ArrayList<>(List.of(oda, nils));
    List<String> units = List.of("Deck crew", "Safety", "Ticketing");
    for (int i = 0; i < 4; i++) {
      people.add(house.person("Person " + i, units.get(i % 3)));
    }
    List<GroupId> groups = new ArrayList<>(List.of(helpers));
    for (int i = 0; i < 4; i++) {
      groups.add(
          group(
              "Group " + i,
              i == 3
                  ? new FactValue.Form.ByFilter("unit eq \"Safety\"")
                  : new FactValue.Form.Listed()));
    }
    house.hold(ShippedMandate.AUDITOR.id(), groups.get(1));
    List<Power> all = new ArrayList<>();
    for (String word : ShippedMandate.HELP_DESK.terms().powers()) {
      all.add(Power.of(word).orElseThrow());
    }
    all.add(Power.MANDATES_EDIT);
    Authority actor = holder("Actor", Reach.ALL, all.toArray(Power[]::new));
    int refusals = 0;
    for (int act = 0; act < 60; act++) {
      String where = "seed " + seed + " act " + act;
      Function<Moment, Outcome<Integer>> step = step(random, people, groups, units);
      boolean[] expected = {false};
      List<String> codes = new ArrayList<>();
      house.watch(
          (before, directory, edits, moves, at) -> {
            expected[0] = moves(before, before.with(moves), at, ShippedMandate.AUDITOR.id());
            AuthorityJudge.judge(
                    new Moment(before, directory, at, House.ZONE, UUID::randomUUID, actor),
                    edits,
                    moves,
                    Outcome.Right.BY_EFFECT)
                .forEach(problem -> codes.add(problem.code()));
          });
      house.decide(Authority.SETUP, step);
      assertThat(codes.contains("power-lacked")).as(where).isEqualTo(expected[0]);
      refusals += expected[0] ? 1 : 0;
      if (random.nextInt(5) == 0) {
        house.pass(Duration.ofHours(random.nextInt(60)));
      }
    }
    assertThat(refusals).isPositive();
  }

  private Function<Moment, Outcome<Integer>> step(
      SplittableRandom random, List<PersonId> people, List<GroupId> groups, List<String> units) {
    PersonId person = people.get(random.nextInt(people.size()));
    GroupId listed = groups.get(random.nextInt(4));
    GroupId other = groups.get(random.nextInt(groups.size()));
    Duration from = random.nextBoolean() ? Duration.ZERO : Duration.ofDays(random.nextInt(4));
    Duration until = random.nextBoolean() ? null : from.plusDays(1 + random.nextInt(5));
    String unit = units.get(random.nextInt(3));
    return switch (random.nextInt(6)) {
      case 0, 1 -> spell(new FactKey.Membership(listed, person), from, until);
      case 2 ->
          m ->
              m.directory().below(other).contains(listed)
                  ? Outcome.done(Act.of(ActName.SETTINGS_BEGIN), List.of(), 0)
                  : spell(new FactKey.Membership(listed, other), Duration.ZERO, until).apply(m);
      case 3 ->
          m -> {
            var edits = m.edits();
            edits.end(new FactKey.Membership(listed, person));
            return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
          };
      case 4 -> setting(unit(person), new FactValue.Text(unit));
      default ->
          setting(
              new FactKey.GroupForm(groups.getLast()),
              new FactValue.Form.ByFilter("unit eq \"%s\"".formatted(unit)));
    };
  }

  private static Function<Moment, Outcome<Integer>> spell(
      FactKey key, Duration from, Duration until) {
    return m -> {
      var edits = m.edits();
      edits.timeline(
          key,
          List.of(
              new Spell(
                  FactValue.Present.PRESENT,
                  m.at().plus(from),
                  until == null ? Moments.FOREVER : m.at().plus(until))));
      return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
    };
  }

  /** Whether who holds a mandate differs at any moment, by the definitions. */
  private static boolean moves(Facts before, Facts after, Instant at, MandateId mandate) {
    Set<Instant> instants = new TreeSet<>(Set.of(at));
    for (Facts facts : List.of(before, after)) {
      facts.forEach(
          (key, spells) ->
              spells.forEach(
                  spell -> {
                    instants.add(spell.from());
                    instants.add(spell.until());
                  }));
    }
    return instants.stream()
        .filter(t -> !t.isBefore(at) && t.isBefore(Moments.FOREVER))
        .anyMatch(t -> !holders(before, t, mandate).equals(holders(after, t, mandate)));
  }

  private static Set<PersonId> holders(Facts facts, Instant at, MandateId mandate) {
    Set<PersonId> found = new HashSet<>();
    for (FactKey.MandateHeld key : facts.keys(FactKey.MandateHeld.class)) {
      if (key.subject().equals(mandate) && facts.valueAt(key, at) != null) {
        collect(facts, at, key.holder(), new HashSet<>(), found);
      }
    }
    return found;
  }

  private static void collect(
      Facts facts, Instant at, ObjectId holder, Set<ObjectId> seen, Set<PersonId> into) {
    if (!seen.add(holder)) {
      return;
    }
    if (holder instanceof PersonId person) {
      into.add(person);
    } else if (holder instanceof GroupId group) {
      if (facts.valueAt(new FactKey.GroupForm(group), at)
          instanceof FactValue.Form.ByFilter(String filter)) {
        DirectoryView directory = DirectoryView.of(facts, at);
        if (FilterParser.parse(filter, directory.schema())
            instanceof FilterParser.Parsed.Good good) {
          directory.people().stream()
              .filter(p -> good.filter().matches(p::values))
              .forEach(p -> into.add(p.id()));
        }
      }
      for (FactKey.Membership key : facts.keys(FactKey.Membership.class)) {
        if (key.subject().equals(group) && facts.valueAt(key, at) != null) {
          collect(facts, at, key.member(), seen, into);
        }
      }
    }
  }
}
