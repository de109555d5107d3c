package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.Ground;
import eleutheria.core.access.Reference;
import eleutheria.core.directory.NameOrder;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.roaringbitmap.IntConsumer;
import org.roaringbitmap.RoaringBitmap;

/**
 * Random histories in which the fast engine must say what the definitions say: after each act for
 * every person, group and entitlement, and now and then for every other query. Because each act is
 * checked, a failure names the shortest prefix of its history.
 */
class EngineHistoryTest {
  private static final int ACTS = 220;

  private RandomWorld world;
  private Engine engine;
  private String where = "";
  private final List<Instant> instants = new ArrayList<>();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("engine.histories", 40));
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void fastSaysWhatTheDefinitionsSay(long seed) {
    world = new RandomWorld(seed);
    engine = Engine.of(world.facts, world.now);
    Set<String> before = held(world.now);
    for (int act = 1; act <= ACTS; act++) {
      if (world.random.nextInt(5) == 0) {
        world.pass();
        if (world.random.nextBoolean()) {
          where = "seed " + seed + ", time passes before act " + act;
          Flips flips = engine.advance(world.now);
          before = flipsAreRight(before, flips);
        }
      }
      List<Move> moves = new ArrayList<>(world.act());
      // A follower takes several acts at once.
      while (world.random.nextInt(6) == 0) {
        moves.addAll(world.act());
      }
      where = "seed " + seed + ", after act " + act + " (" + moves + ")";
      // Trying out leaves no trace.
      engine.trial(moves, world.now);
      if (act % 32 == 0) {
        endsInATrialAreRight(moves);
      }
      Flips flips = engine.take(moves, world.now);
      instants.add(world.now);
      before = flipsAreRight(before, flips);
      stateIsRight(engine.now(), world.now);
      if (act % 8 == 0) {
        queriesAreRight(engine.now(), world.now);
        sameAsBuilt(engine.now());
        pastIsRight();
        lossesAreRight();
      }
      if (act % 55 == 0) {
        spansAreRight();
      }
    }
  }

  /** In a state that is only tried out, until when is what it will be once it is taken. */
  private void endsInATrialAreRight(List<Move> moves) {
    Reference reference = reference();
    engine.suppose(
        moves,
        world.now,
        Set.of(),
        (instant, without, with, anew) -> {
          for (EntitlementId role : world.roles) {
            endsAreRight(
                with,
                reference,
                instant,
                world.people.get(Math.floorMod(instant.hashCode(), world.people.size())),
                role);
          }
          return true;
        });
  }

  private void endsAreRight(
      Snapshot state, Reference reference, Instant at, PersonId person, EntitlementId role) {
    int p = state.number(person);
    int e = state.number(role);
    if (p < 0 || e < 0) {
      return;
    }
    boolean holds = reference.holds(person, role, at);
    boolean entitled = reference.entitled(person, role, at);
    Instant wanted =
        holds
            ? reference.until(person, role, at)
            : entitled ? reference.entitledUntil(person, role, at) : Moments.FOREVER;
    Instant told = new Until(state, p).of(e);
    assertThat(told == null ? Moments.FOREVER : told).as(where + " at " + at).isEqualTo(wanted);
  }

  private Reference reference() {
    return new Reference(world.facts);
  }

  private static String pair(PersonId person, EntitlementId role) {
    return person.value() + " " + role.value();
  }

  private Set<String> held(Instant at) {
    Set<String> held = new TreeSet<>();
    Reference reference = reference();
    for (EntitlementId role : world.roles) {
      for (PersonId person : world.people) {
        if (reference.holds(person, role, at)) {
          held.add(pair(person, role));
        }
      }
    }
    return held;
  }

  private Set<String> flipsAreRight(Set<String> before, Flips flips) {
    Set<String> after = held(world.now);
    Set<String> gained = new TreeSet<>(after);
    gained.removeAll(before);
    Set<String> lost = new TreeSet<>(before);
    lost.removeAll(after);
    Set<String> gain = new TreeSet<>();
    Set<String> loss = new TreeSet<>();
    collect(flips, gain, loss);
    assertThat(gain).as(where).isEqualTo(gained);
    assertThat(loss).as(where).isEqualTo(lost);
    return after;
  }

  private void collect(Flips flips, Set<String> gain, Set<String> loss) {
    for (Flips.Flip flip : flips.all()) {
      EntitlementId role = engine.now().entitlement(flip.entitlement());
      flip.gain().forEach((IntConsumer) p -> gain.add(pair(engine.now().person(p), role)));
      flip.loss().forEach((IntConsumer) p -> loss.add(pair(engine.now().person(p), role)));
    }
  }

  /** Who is entitled, who holds, who is in what, and the counts. */
  private void stateIsRight(Snapshot state, Instant at) {
    Reference reference = reference();
    Map<PersonId, Set<EntitlementId>> entitlements = new TreeMap<>();
    for (EntitlementId role : world.roles) {
      int e = state.number(role);
      int holders = 0;
      for (PersonId person : world.people) {
        int p = state.number(person);
        boolean entitled = reference.entitled(person, role, at);
        boolean holds = reference.holds(person, role, at);
        holders += holds ? 1 : 0;
        assertThat(e >= 0 && p >= 0 && state.entitled(p, e)).as(where).isEqualTo(entitled);
        assertThat(e >= 0 && p >= 0 && state.holds(p, e)).as(where).isEqualTo(holds);
        if (entitled) {
          entitlements.computeIfAbsent(person, k -> new HashSet<>()).add(role);
        }
      }
      if (e >= 0) {
        assertThat(state.holderCount(e)).as(where).isEqualTo(holders);
        assertThat(state.holders(e).getCardinality()).as(where).isEqualTo(holders);
      }
    }
    for (PersonId person : world.people) {
      int p = state.number(person);
      Set<EntitlementId> wanted = entitlements.getOrDefault(person, Set.of());
      if (p < 0) {
        assertThat(wanted).as(where).isEmpty();
        continue;
      }
      assertThat(Arrays.stream(state.entitlementsOf(p)).mapToObj(state::entitlement))
          .as(where)
          .containsExactlyInAnyOrderElementsOf(wanted);
      for (GroupId group : world.groups) {
        int g = state.number(group);
        assertThat(g >= 0 && state.members(g).contains(p))
            .as(where)
            .isEqualTo(reference.isMember(person, group, at));
      }
    }
  }

  private FactValue.PersonName name(PersonId person, Instant at) {
    return world.facts.valueAt(new FactKey.Naming(person), at) instanceof FactValue.PersonName name
        ? name
        : new FactValue.PersonName("", "", "");
  }

  /** Pages, filters of holders, counts by unit, grounds. */
  private void queriesAreRight(Snapshot state, Instant at) {
    Reference reference = reference();
    Matrix units = state.matrix("unit");
    int[] scratch = Holders.countsFromScratch(state);
    for (EntitlementId role : world.roles) {
      int e = state.number(role);
      if (e < 0) {
        continue;
      }
      List<PersonId> holders =
          world.people.stream()
              .filter(p -> reference.holds(p, role, at))
              .sorted(
                  Comparator.comparing(
                          (PersonId p) -> NameOrder.key(name(p, at)), Arrays::compareUnsigned)
                      .thenComparing(p -> p))
              .toList();
      assertThat(scratch[e]).as(where).isEqualTo(holders.size());
      Holders.Page all = Holders.page(state, e, Holders.Wanted.ALL, 0, 50);
      assertThat(all.people()).as(where).isEqualTo(holders);
      assertThat(all.total()).as(where).isEqualTo(holders.size());
      assertThat(Holders.first(state, e, Holders.Wanted.ALL, 2, 2))
          .as(where)
          .isEqualTo(holders.stream().skip(2).limit(2).toList());
      for (String unit : List.of("Deck crew", "Safety", "Nowhere")) {
        List<PersonId> there =
            holders.stream().filter(p -> unit.equals(text(p, "unit", at))).toList();
        Holders.Page page = Holders.page(state, e, Holders.Wanted.having("unit", unit), 0, 50);
        assertThat(page.people()).as(where).isEqualTo(there);
        assertThat(page.total()).as(where).isEqualTo(there.size());
        int counted =
            (int)
                world.people.stream()
                    .filter(p -> unit.equals(text(p, "unit", at)))
                    .filter(p -> reference.entitled(p, role, at))
                    .filter(p -> status(p, at) == PersonStatus.ACTIVE)
                    .count();
        assertThat(units.count(state, unit, e)).as(where + unit).isEqualTo(counted);
      }
      for (PersonId person : world.people) {
        int p = state.number(person);
        if (p >= 0) {
          groundsAreRight(state, at, person, role, p, e);
        }
      }
      narrowedPagesAreRight(state, at, holders, role, e);
    }
  }

  private void narrowedPagesAreRight(
      Snapshot state, Instant at, List<PersonId> holders, EntitlementId role, int e) {
    for (Holders.By by : Holders.By.values()) {
      for (eleutheria.core.facts.GrantSource source :
          List.of(
              eleutheria.core.facts.GrantSource.HAND, eleutheria.core.facts.GrantSource.REQUEST)) {
        List<PersonId> wanted =
            holders.stream()
                .filter(
                    p ->
                        Reasons.of(state, state.number(p), e).stream()
                            .anyMatch(g -> by(g) == by && g.grant().given().source() == source))
                .toList();
        Holders.Wanted asked = Holders.Wanted.ALL.on(by, source);
        assertThat(Holders.page(state, e, asked, 0, 50).people()).as(where).isEqualTo(wanted);
        assertThat(Holders.count(state, e, asked)).as(where).isEqualTo(wanted.size());
      }
    }
    RoaringBitmap some = new RoaringBitmap();
    for (int i = 0; i < world.people.size(); i += 2) {
      if (state.number(world.people.get(i)) >= 0) {
        some.add(state.number(world.people.get(i)));
      }
    }
    assertThat(Holders.page(state, e, Holders.Wanted.ALL.unused(some), 0, 50).people())
        .as(where)
        .isEqualTo(holders.stream().filter(p -> some.contains(state.number(p))).toList());
  }

  private static Holders.By by(Ground ground) {
    return switch (ground.grant().given().subject()) {
      case FactValue.Subject.OfPerson s -> Holders.By.PERSON;
      case FactValue.Subject.OfGroup s -> Holders.By.GROUP;
      case FactValue.Subject.ByFilter s -> Holders.By.FILTER;
    };
  }

  private String text(PersonId person, String attribute, Instant at) {
    return world.facts.valueAt(new FactKey.Existence(person), at) != null
            && world.facts.valueAt(new FactKey.Attribute(person, attribute, ""), at)
                instanceof FactValue.Text text
        ? text.text()
        : "";
  }

  private PersonStatus status(PersonId person, Instant at) {
    return world.facts.valueAt(new FactKey.Status(person), at) instanceof FactValue.Standing s
        ? s.status()
        : PersonStatus.EXPECTED;
  }

  /** Exactly the grants that cover her, with every edge that lies on a way, and the right count. */
  private void groundsAreRight(
      Snapshot state, Instant at, PersonId person, EntitlementId role, int p, int e) {
    Reference reference = reference();
    Set<GrantId> covering = new HashSet<>();
    if (world.facts.valueAt(new FactKey.Entitlement(role), at) != null) {
      for (FactKey.Grant key : world.facts.keys(FactKey.Grant.class)) {
        if (world.facts.valueAt(key, at) instanceof FactValue.Given given
            && given.entitlement().equals(role)
            && reference.covers(given.subject(), person, at)) {
          covering.add(key.subject());
        }
      }
    }
    endsAreRight(state, reference, at, person, role);
    List<Ground> grounds = Reasons.of(state, p, e);
    assertThat(grounds.stream().map(g -> g.grant().id()))
        .as(where)
        .containsExactlyInAnyOrderElementsOf(covering);
    for (Ground ground : grounds) {
      Spell spell = world.facts.at(new FactKey.Grant(ground.grant().id()), at).orElseThrow();
      assertThat(ground.grant().given()).as(where).isEqualTo(spell.value());
      assertThat(ground.grant().from()).as(where).isEqualTo(spell.from());
      assertThat(ground.grant().until()).as(where).isEqualTo(spell.until());
      if (ground.grant().given().subject() instanceof FactValue.Subject.OfGroup of) {
        waysAreRight(at, person, of.group(), ground);
      }
      assertThat(ground.until())
          .as(where + " " + ground)
          .isEqualTo(reference.coveredUntil(ground.grant(), person, at));
    }
  }

  /** All ways, found by trying each group after each. */
  private void waysAreRight(Instant at, PersonId person, GroupId subject, Ground ground) {
    List<List<GroupId>> ways = new ArrayList<>();
    Set<Ground.Edge> edges = new LinkedHashSet<>();
    climb(at, person, subject, new ArrayList<>(), ways);
    Reference reference = reference();
    // An edge lies on a way if someone comes to its start and its end leads on to the subject.
    for (GroupId group : world.groups) {
      if (!reference.isMember(person, group, at) || !leads(at, group, subject, new HashSet<>())) {
        continue;
      }
      if (direct(at, person, group)) {
        edges.add(new Ground.Edge(person, group, byFilter(at, group)));
      }
      for (GroupId below : world.groups) {
        if (world.facts.valueAt(new FactKey.Membership(group, below), at) != null
            && reference.isMember(person, below, at)) {
          edges.add(new Ground.Edge(below, group, false));
        }
      }
    }
    assertThat(ground.edges()).as(where).isEqualTo(edges);
    assertThat(ground.more() + 1).as(where).isEqualTo(ways.size());
    assertThat(ways).as(where).contains(ground.chain());
    assertThat(ground.chain().size())
        .as(where)
        .isEqualTo(ways.stream().mapToInt(List::size).min().orElseThrow());
  }

  private boolean byFilter(Instant at, GroupId group) {
    return world.facts.valueAt(new FactKey.GroupForm(group), at) instanceof FactValue.Form.ByFilter;
  }

  private boolean direct(Instant at, PersonId person, GroupId group) {
    if (world.facts.valueAt(new FactKey.Existence(group), at) == null) {
      return false;
    }
    return world.facts.valueAt(new FactKey.GroupForm(group), at)
            instanceof FactValue.Form.ByFilter filter
        ? reference().fits(person, filter.filter(), at)
        : world.facts.valueAt(new FactKey.Membership(group, person), at) != null;
  }

  private boolean leads(Instant at, GroupId group, GroupId subject, Set<GroupId> seen) {
    if (world.facts.valueAt(new FactKey.Existence(group), at) == null || !seen.add(group)) {
      return false;
    }
    if (group.equals(subject)) {
      return true;
    }
    return world.groups.stream()
        .anyMatch(
            up ->
                world.facts.valueAt(new FactKey.Membership(up, group), at) != null
                    && leads(at, up, subject, seen));
  }

  private void climb(
      Instant at, PersonId person, GroupId subject, List<GroupId> way, List<List<GroupId>> ways) {
    for (GroupId next : world.groups) {
      boolean step =
          way.isEmpty()
              ? direct(at, person, next)
              : world.facts.valueAt(new FactKey.Membership(next, way.getLast()), at) != null;
      if (!step
          || way.contains(next)
          || world.facts.valueAt(new FactKey.Existence(next), at) == null) {
        continue;
      }
      way.add(next);
      if (next.equals(subject)) {
        ways.add(List.copyOf(way));
      } else {
        climb(at, person, subject, way, ways);
      }
      way.removeLast();
    }
  }

  /** The state that changes led to is the state that is built. */
  private void sameAsBuilt(Snapshot state) {
    Snapshot built = engine.build(state.at());
    assertThat(Flips.between(state, built).isEmpty()).as(where).isTrue();
    assertThat(Flips.between(built, state).isEmpty()).as(where).isTrue();
    for (int e = 0; e < state.entitlements(); e++) {
      assertThat(state.holderCount(e)).as(where).isEqualTo(built.holderCount(e));
      for (String unit : List.of("Deck crew", "Safety", "Stores", "")) {
        assertThat(state.matrix("unit").count(state, unit, e))
            .as(where)
            .isEqualTo(built.matrix("unit").count(built, unit, e));
      }
    }
  }

  /** As-of any moment there was, and gain and loss from there to now. */
  private void pastIsRight() {
    Instant then = instants.get(world.random.nextInt(instants.size()));
    Snapshot past = engine.asOf(then);
    assertThat(past.at()).isEqualTo(then);
    stateIsRight(past, then);
    queriesAreRight(past, then);
    Set<String> gained = held(world.now);
    Set<String> lost = held(then);
    Set<String> both = new TreeSet<>(gained);
    both.retainAll(lost);
    gained.removeAll(both);
    lost.removeAll(both);
    Set<String> gain = new TreeSet<>();
    Set<String> loss = new TreeSet<>();
    collect(Flips.between(past, engine.now()), gain, loss);
    assertThat(gain).as(where).isEqualTo(gained);
    assertThat(loss).as(where).isEqualTo(lost);
  }

  /** Losers of grants, places and groups, against facts from which they are really ended. */
  private void lossesAreRight() {
    Snapshot state = engine.now();
    Reference with = reference();
    for (FactKey.Grant key : world.facts.keys(FactKey.Grant.class)) {
      if (!(world.facts.valueAt(key, world.now) instanceof FactValue.Given given)) {
        continue;
      }
      Reference without = new Reference(ended(key));
      Set<PersonId> losers = new HashSet<>();
      Losses.ofGrant(state, key.subject()).forEach((IntConsumer) p -> losers.add(state.person(p)));
      Set<PersonId> wanted = new HashSet<>();
      for (PersonId person : world.people) {
        if (with.entitled(person, given.entitlement(), world.now)
            && !without.entitled(person, given.entitlement(), later())) {
          wanted.add(person);
        }
      }
      assertThat(losers).as(where).isEqualTo(wanted);
    }
    GroupId group = world.groups.get(world.random.nextInt(world.groups.size()));
    for (ObjectId member : world.members()) {
      FactKey key = new FactKey.Membership(group, member);
      if (world.facts.valueAt(key, world.now) != null) {
        trialIsRight(Losses.ofMembership(state, group, member), new Reference(ended(key)));
      }
    }
    if (world.facts.valueAt(new FactKey.Existence(group), world.now) != null) {
      trialIsRight(
          Losses.ofGroup(state, group), new Reference(ended(new FactKey.Existence(group))));
    }
    optionsAreRight(state);
  }

  private void trialIsRight(Flips flips, Reference without) {
    Set<String> gain = new TreeSet<>();
    Set<String> loss = new TreeSet<>();
    collect(flips, gain, loss);
    Set<String> wanted = held(world.now);
    for (EntitlementId role : world.roles) {
      for (PersonId person : world.people) {
        if (without.holds(person, role, later())) {
          wanted.remove(pair(person, role));
        }
      }
    }
    // A filter is no way in here, so nobody gains by an end.
    assertThat(gain).as(where).isEmpty();
    assertThat(loss).as(where).isEqualTo(wanted);
  }

  /** Just after now, before anything else begins or ends. */
  private Instant later() {
    return world.now.plus(1, java.time.temporal.ChronoUnit.MICROS);
  }

  private Facts ended(FactKey key) {
    Spell base = world.facts.at(key, world.now).orElseThrow();
    List<Edit> edits = List.of(new Edit(key, base, base.endingAt(later())));
    Applied applied = world.facts.apply(edits, later());
    return applied instanceof Applied.Moves moves ? world.facts.with(moves.moves()) : world.facts;
  }

  /** "What would take this away?": what is said to be enough is enough, and does what it says. */
  private void optionsAreRight(Snapshot state) {
    Reference with = reference();
    for (EntitlementId role : world.roles) {
      PersonId person = world.people.get(world.random.nextInt(world.people.size()));
      if (!with.entitled(person, role, world.now)) {
        continue;
      }
      Losses.Options options = Losses.taking(state, state.number(person), state.number(role));
      assertThat(options.options()).as(where).isNotEmpty();
      for (Losses.Option option : options.options()) {
        if (option.cut() == Losses.Cut.ATTRIBUTES) {
          continue;
        }
        Facts facts = world.facts;
        List<FactKey> keys = new ArrayList<>();
        if (option.cut() == Losses.Cut.GRANT) {
          keys.add(new FactKey.Grant(option.grant()));
        }
        option.places().forEach(p -> keys.add(new FactKey.Membership(p.group(), p.member())));
        List<Edit> edits = new ArrayList<>();
        for (FactKey key : keys) {
          Spell base = facts.at(key, world.now).orElseThrow();
          edits.add(new Edit(key, base, base.endingAt(later())));
        }
        if (!(facts.apply(edits, later()) instanceof Applied.Moves moves)) {
          continue;
        }
        Reference without = new Reference(facts.with(moves.moves()));
        assertThat(option.enough())
            .as(where + option)
            .isEqualTo(!without.entitled(person, role, later()));
        int others = 0;
        long besides = 0;
        for (EntitlementId each : world.roles) {
          for (PersonId one : world.people) {
            if (with.entitled(one, each, world.now)
                && !without.entitled(one, each, later())
                && !departed(one)) {
              if (each.equals(role) && one.equals(person)) {
                continue;
              }
              others += each.equals(role) ? 1 : 0;
              besides++;
            }
          }
        }
        assertThat(option.others()).as(where + option).isEqualTo(others);
        assertThat(option.besides()).as(where + option).isEqualTo(besides);
      }
    }
  }

  private boolean departed(PersonId person) {
    return world.facts.valueAt(new FactKey.Status(person), world.now)
            instanceof FactValue.Standing standing
        && standing.status() == PersonStatus.DEPARTED;
  }

  /** {@code during} and {@code since}. */
  private void spansAreRight() {
    Reference reference = reference();
    Instant first = instants.getFirst();
    Instant from = instants.get(world.random.nextInt(instants.size() / 2));
    Instant until = instants.get(instants.size() / 2 + world.random.nextInt(instants.size() / 2));
    for (EntitlementId role : world.roles) {
      int e = engine.now().number(role);
      if (e < 0 || !from.isBefore(until)) {
        continue;
      }
      Map<PersonId, List<Reference.Held>> held = Spans.during(engine, e, from, until);
      for (PersonId person : world.people) {
        assertThat(held.getOrDefault(person, List.of()))
            .as(where)
            .isEqualTo(reference.during(person, role, from, until));
        int p = engine.now().number(person);
        if (p < 0 || !reference.holds(person, role, world.now)) {
          continue;
        }
        Instant since = reference.since(person, role, world.now);
        assertThat(Spans.since(engine, p, e, engine.now(), first))
            .as(where)
            .isEqualTo(since.isBefore(first) ? first : since);
      }
    }
  }
}
