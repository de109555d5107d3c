package eleutheria.core.access.engine;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.Reference;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BiPredicate;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.roaringbitmap.RoaringBitmap;

/**
 * Random histories, readers, filters and layouts: every cell, total, opened row and explanation of
 * the map must say what comes out when each person and entitlement is asked about by itself.
 */
class HoldingsMapHistoryTest {
  private RandomWorld world;
  private Engine engine;
  private SplittableRandom random;
  private Reference reference;
  private DirectoryView directory;
  private AppsView apps;
  private String where = "";

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("engine.histories", 40) / 2);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void mapSaysWhatEachHoldingSays(long seed) {
    world = new RandomWorld(seed);
    random = new SplittableRandom(seed * 31);
    engine = Engine.of(world.facts, world.now);
    List<Instant> instants = new ArrayList<>(List.of(world.now));
    for (int act = 1; act <= 60; act++) {
      if (random.nextInt(5) == 0) {
        world.pass();
      }
      engine.take(world.act(), world.now);
      instants.add(world.now);
      where = "seed " + seed + " after act " + act;
      if (act % 6 == 0) {
        reference = new Reference(world.facts);
        directory = DirectoryView.of(world.facts, world.now);
        apps = AppsView.of(world.facts, directory, world.now);
        for (int i = 0; i < 4; i++) {
          mapIsRight();
        }
        Instant then = instants.get(random.nextInt(instants.size()));
        unbrokenIsRight(then);
        endingIsRight(world.now.plus(Duration.ofHours(20 + random.nextInt(100))));
        duringIsRight(then);
      }
    }
  }

  // ---- who is asked about

  private record Reader(Authority authority, Set<PersonId> team) {}

  private Reader reader() {
    PersonId self = any(world.people);
    Set<PersonId> team =
        random.nextInt(3) == 0
            ? new HashSet<>(List.of(any(world.people), any(world.people)))
            : Set.of();
    List<Authority.Allowed> allowed = new ArrayList<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      TreeSet<String> units =
          random.nextBoolean()
              ? null
              : new TreeSet<>(List.of(any(List.of("Deck crew", "Safety", "Stores"))));
      TreeSet<String> those =
          random.nextBoolean() ? null : new TreeSet<>(List.of(any(world.apps).value().toString()));
      allowed.add(
          new Authority.Allowed("m", EnumSet.of(Power.ACCESS_READ), new Reach(units, those, null)));
    }
    return new Reader(
        new Authority(self, allowed, random.nextInt(3) == 0 ? Set.of(any(world.apps)) : Set.of()),
        team);
  }

  private boolean sees(Reader reader, PersonId person, Entitlement entitlement) {
    return person.equals(reader.authority().person())
        || reader.team().contains(person)
        || reader.authority().owns(entitlement.application())
        || reader
            .authority()
            .reaches(Power.ACCESS_READ, entitlement.application(), value(person, Attributes.UNIT));
  }

  private String value(PersonId person, String attribute) {
    return directory.person(person).map(p -> p.value(attribute)).orElse(null);
  }

  private Set<String> values(PersonId person, String attribute) {
    return new TreeSet<>(
        directory.person(person).map((Person p) -> p.values(attribute)).orElse(List.of()));
  }

  private <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  private static <T> Set<T> random(SplittableRandom random, List<T> list) {
    return random.nextInt(4) == 0 ? Set.of(list.get(random.nextInt(list.size()))) : Set.of();
  }

  // ---- the map

  private void mapIsRight() {
    Snapshot state = engine.now();
    Reader reader = reader();
    Instant before = world.now.plus(Duration.ofHours(50));
    Evidence evidence =
        new Evidence(
            e -> known(state.entitlement(e)) ? set(state, e, 2) : null,
            e -> set(state, e, 3),
            Ahead.losing(engine, before)::of);
    Asked asked =
        new Asked(
            random(random, world.apps),
            random(random, world.roles),
            random(random, List.of(Sensitivity.values())),
            random.nextInt(4) == 0 ? any(RandomWorld.FILTERS) : "",
            random.nextInt(5) == 0,
            random.nextInt(5) == 0,
            random.nextInt(5) == 0,
            random.nextInt(5) == 0 ? before : null);
    String rows = any(List.of("unit", "site", "skill", "berth"));
    String then = any(List.of("", "site", "skill"));
    HoldingsMap.Shape shape =
        new HoldingsMap.Shape(
            rows,
            then,
            any(List.of(HoldingsMap.Ordering.values())),
            any(List.of(HoldingsMap.Grouping.values())),
            Set.of("Safety", "Stores", "", "Safety\tNordkap", "\t"));
    Cut cut =
        Cut.of(state, Seen.by(state, state, reader.authority(), reader.team()), asked, evidence);
    HoldingsMap map = HoldingsMap.of(cut, apps, shape);
    BiPredicate<PersonId, Entitlement> fits =
        (person, entitlement) ->
            reference.holds(person, entitlement.id(), world.now)
                && sees(reader, person, entitlement)
                && (asked.apps().isEmpty() || asked.apps().contains(entitlement.application()))
                && (asked.entitlements().isEmpty()
                    || asked.entitlements().contains(entitlement.id()))
                && (asked.sensitivities().isEmpty()
                    || asked.sensitivities().contains(entitlement.role().sensitivity()))
                && (asked.people().isEmpty() || reference.fits(person, asked.people(), world.now))
                && (!asked.unused()
                    || (known(entitlement.id()) && drawn(entitlement.id(), person, 2)))
                && (!asked.conflict() || drawn(entitlement.id(), person, 3))
                && (!asked.hand() || signs(person, entitlement).contains("PERSON HAND"))
                && (asked.ending() == null || ends(person, entitlement.id(), before));
    Map<String, Integer> wanted = new TreeMap<>();
    int held = 0;
    for (Entitlement entitlement : apps.entitlements()) {
      for (PersonId person : world.people) {
        if (fits.test(person, entitlement)) {
          held++;
          for (String key : keys(person, rows)) {
            wanted.merge(key + " / " + entitlement.id().value(), 1, Integer::sum);
            if (!then.isEmpty() && shape.open().contains(key)) {
              for (String under : keys(person, then)) {
                wanted.merge(
                    key + "\t" + under + " / " + entitlement.id().value(), 1, Integer::sum);
              }
            }
          }
        }
      }
    }
    assertThat(map.holdings()).as(where).isEqualTo(held);
    HoldingsMap.Window window = map.window(0, map.rows(), 0, map.columns().size());
    assertThat(window.rows()).hasSize(map.rows());
    Map<String, Integer> told = new TreeMap<>();
    Map<String, Set<String>> people = new TreeMap<>();
    for (HoldingsMap.Cell cell : window.cells()) {
      HoldingsMap.Row row = window.rows().get(cell.row());
      Entitlement entitlement = map.columns().get(cell.column());
      if (row.kind() == HoldingsMap.Kind.VALUE) {
        told.put(row.key() + " / " + entitlement.id().value(), cell.count());
        Set<PersonId> here =
            world.people.stream()
                .filter(p -> fits.test(p, entitlement) && in(p, rows, then, row.key()))
                .collect(Collectors.toSet());
        assertThat(cell.unused())
            .as(where)
            .isEqualTo(
                known(entitlement.id())
                    ? (int) here.stream().filter(p -> drawn(entitlement.id(), p, 2)).count()
                    : -1);
        assertThat(cell.conflicts())
            .as(where)
            .isEqualTo((int) here.stream().filter(p -> drawn(entitlement.id(), p, 3)).count());
      } else {
        people
            .computeIfAbsent(row.key() + " / " + row.person(), k -> new TreeSet<>())
            .add(
                entitlement.id().value()
                    + " "
                    + Signs.read(cell.signs()).stream()
                        .map(s -> s.by() + " " + s.source())
                        .collect(Collectors.toCollection(TreeSet::new)));
      }
    }
    assertThat(told).as(where + " " + asked + " " + shape).isEqualTo(wanted);
    // No row names a value that only people have of whom the reader may see nothing.
    for (HoldingsMap.Row row : window.rows()) {
      if (row.kind() == HoldingsMap.Kind.VALUE) {
        assertThat(world.people)
            .as(where + " " + row.key())
            .anyMatch(
                p ->
                    in(p, rows, then, row.key())
                        && (near(reader, p)
                            || apps.entitlements().stream().anyMatch(e -> fits.test(p, e))));
      }
    }
    assertThat(people).as(where + " " + asked).isEqualTo(opened(fits, shape));
    // In windows, and as a list, it is the same.
    assertThat(map.lines(0, Integer.MAX_VALUE))
        .as(where)
        .hasSize(map.filled())
        .hasSize(told.size());
    if (map.rows() > 1 && !map.columns().isEmpty()) {
      HoldingsMap.Window part = map.window(1, 2, 0, 1);
      assertThat(part.cells())
          .as(where)
          .isEqualTo(
              window.cells().stream()
                  .filter(c -> c.row() >= 1 && c.row() < 3 && c.column() == 0)
                  .toList());
    }
    explanationIsRight(map, fits, rows);
  }

  /** Whether somebody is within reach themselves, whatever they hold. */
  private boolean near(Reader reader, PersonId person) {
    String unit = value(person, Attributes.UNIT);
    return person.equals(reader.authority().person())
        || reader.team().contains(person)
        || reader.authority().reaches(Power.ACCESS_READ).stream()
            .anyMatch(
                reach ->
                    reach.units() == null
                        ? reach.applications() == null
                        : unit != null && reach.units().contains(unit));
  }

  private List<String> keys(PersonId person, String attribute) {
    Set<String> values = values(person, attribute);
    return values.isEmpty() ? List.of("") : List.copyOf(values);
  }

  private boolean in(PersonId person, String rows, String then, String key) {
    String[] parts = key.split("\t", -1);
    return keys(person, rows).contains(parts[0])
        && (parts.length < 2 || keys(person, then).contains(parts[1]));
  }

  /** Whoever stands under an open row, with what they have there. */
  private Map<String, Set<String>> opened(
      BiPredicate<PersonId, Entitlement> fits, HoldingsMap.Shape shape) {
    Map<String, Set<String>> wanted = new TreeMap<>();
    for (Entitlement entitlement : apps.entitlements()) {
      for (PersonId person : world.people) {
        if (!fits.test(person, entitlement)) {
          continue;
        }
        for (String key : keys(person, shape.rows())) {
          if (!shape.open().contains(key)) {
            continue;
          }
          List<String> leaves =
              shape.then().isEmpty()
                  ? List.of(key)
                  : keys(person, shape.then()).stream()
                      .map(under -> key + "\t" + under)
                      .filter(shape.open()::contains)
                      .toList();
          for (String leaf : leaves) {
            wanted
                .computeIfAbsent(leaf + " / " + person, k -> new TreeSet<>())
                .add(entitlement.id().value() + " " + signs(person, entitlement));
          }
        }
      }
    }
    return wanted;
  }

  private Set<String> signs(PersonId person, Entitlement entitlement) {
    Set<String> found = new TreeSet<>();
    for (FactKey.Grant key : world.facts.keys(FactKey.Grant.class)) {
      if (world.facts.valueAt(key, world.now) instanceof FactValue.Given given
          && given.entitlement().equals(entitlement.id())
          && reference.covers(given.subject(), person, world.now)) {
        String by =
            switch (given.subject()) {
              case FactValue.Subject.OfPerson s -> "PERSON";
              case FactValue.Subject.OfGroup s -> "GROUP";
              case FactValue.Subject.ByFilter s -> "FILTER";
            };
        found.add(by + " " + given.source());
      }
    }
    return found;
  }

  private void explanationIsRight(
      HoldingsMap map, BiPredicate<PersonId, Entitlement> fits, String rows) {
    String key = any(List.of("Safety", "Stores", "Nordkap", ""));
    Entitlement entitlement = apps.entitlements().isEmpty() ? null : any(apps.entitlements());
    if (entitlement == null || !map.columns().contains(entitlement)) {
      return;
    }
    boolean present =
        map.window(0, map.rows(), 0, 0).rows().stream()
            .anyMatch(r -> r.kind() == HoldingsMap.Kind.VALUE && r.key().equals(key));
    if (!present) {
      return;
    }
    Set<PersonId> all =
        world.people.stream().filter(p -> fits.test(p, entitlement)).collect(Collectors.toSet());
    Set<PersonId> here =
        all.stream().filter(p -> keys(p, rows).contains(key)).collect(Collectors.toSet());
    HoldingsMap.Explained told = map.explain(Set.of(key), null, List.of(entitlement));
    assertThat(told.people()).as(where).isEqualTo(here.size());
    assertThat(told.elsewhere()).as(where).isEqualTo(all.size() - here.size());
    assertThat(Set.copyOf(map.marked(Set.of(key), null, entitlement, 100)))
        .as(where)
        .isEqualTo(here);
    Map<Set<String>, Integer> bySign = new HashMap<>();
    here.forEach(p -> bySign.merge(signs(p, entitlement), 1, Integer::sum));
    Map<Set<String>, Integer> toldBySign = new HashMap<>();
    told.signs()
        .forEach(
            (bits, count) ->
                toldBySign.put(
                    Signs.read(bits).stream()
                        .map(s -> s.by() + " " + s.source())
                        .collect(Collectors.toCollection(TreeSet::new)),
                    count));
    assertThat(toldBySign).as(where).isEqualTo(bySign);
  }

  /** Evidence that follows from the ids alone. */
  private static boolean drawn(EntitlementId role, PersonId person, int of) {
    return Math.floorMod(role.value().hashCode() ^ person.value().hashCode(), of) == 0;
  }

  private static boolean known(EntitlementId role) {
    return role.value().hashCode() % 3 != 0;
  }

  private RoaringBitmap set(Snapshot state, int entitlement, int of) {
    RoaringBitmap found = new RoaringBitmap();
    for (PersonId person : world.people) {
      if (state.number(person) >= 0 && drawn(state.entitlement(entitlement), person, of)) {
        found.add(state.number(person));
      }
    }
    return found;
  }

  // ---- over time

  private void unbrokenIsRight(Instant from) {
    Throughout throughout = Throughout.of(engine, from, engine.now());
    for (EntitlementId role : world.roles) {
      int number = engine.now().number(role);
      if (number < 0) {
        continue;
      }
      for (PersonId person : world.people) {
        boolean unbroken =
            reference.holds(person, role, world.now)
                && !reference.since(person, role, world.now).isAfter(from);
        assertThat(throughout.of(number).contains(engine.now().number(person)))
            .as("%s: %s since %s", where, person, from)
            .isEqualTo(unbroken);
      }
    }
  }

  private boolean ends(PersonId person, EntitlementId role, Instant before) {
    return reference.holds(person, role, world.now) && end(person, role, before) != null;
  }

  private Instant end(PersonId person, EntitlementId role, Instant before) {
    TreeSet<Instant> instants = new TreeSet<>();
    world.facts.forEach(
        (key, spells) ->
            spells.forEach(
                spell -> {
                  instants.add(spell.from());
                  instants.add(spell.until());
                }));
    return instants.stream()
        .filter(t -> t.isAfter(world.now) && t.isBefore(before))
        .filter(t -> !reference.holds(person, role, t))
        .findFirst()
        .orElse(null);
  }

  private void endingIsRight(Instant before) {
    Ahead losing = Ahead.losing(engine, before);
    for (EntitlementId role : world.roles) {
      int number = engine.now().number(role);
      for (PersonId person : world.people) {
        if (number >= 0 && reference.holds(person, role, world.now)) {
          assertThat(losing.of(number).contains(engine.now().number(person)))
              .as("%s: %s before %s", where, person, before)
              .isEqualTo(ends(person, role, before));
          assertThat(losing.when(number, engine.now().number(person)))
              .as("%s: %s before %s", where, person, before)
              .isEqualTo(end(person, role, before));
        }
      }
    }
  }

  private void duringIsRight(Instant from) {
    if (!from.isBefore(world.now)) {
      return;
    }
    EntitlementId role = any(world.roles);
    int number = engine.now().number(role);
    if (number < 0) {
      return;
    }
    RoaringBitmap told = Spans.set(engine, number, from, world.now);
    for (PersonId person : world.people) {
      int n = engine.now().number(person);
      assertThat(n >= 0 && told.contains(n))
          .as("%s: %s since %s", where, person, from)
          .isEqualTo(!reference.during(person, role, from, world.now).isEmpty());
      if (n >= 0) {
        assertThat(Spans.of(engine, n, number, from, world.now))
            .as("%s: %s since %s", where, person, from)
            .isEqualTo(reference.during(person, role, from, world.now));
      }
    }
  }
}
