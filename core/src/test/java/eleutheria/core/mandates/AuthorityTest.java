package eleutheria.core.mandates;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SortedSet;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What mandates allow, held against every single point that there is: a power, someone of a unit,
 * an application, a collection. Beyond what is listed there is always one more, so that a list is
 * never taken for all.
 */
class AuthorityTest {
  private static final List<@Nullable String> UNITS = units();
  private static final List<ApplicationId> APPS =
      List.of(app(1), app(2), app(3), app(4) /* in no list */);
  private static final List<CollectionId> COLLECTIONS =
      List.of(collection(1), collection(2), collection(3) /* in no list */);
  private static final List<Power> POWERS =
      List.of(Power.PEOPLE_READ, Power.ACCESS_GIVE, Power.PORTAL_ARRANGE, Power.APPS_EDIT);

  private static List<@Nullable String> units() {
    List<@Nullable String> units = new ArrayList<>(List.of("Deck", "Safety", "Shore"));
    // Somebody of a unit in no list, and somebody of none.
    units.add("Elsewhere");
    units.add(null);
    return units;
  }

  private static ApplicationId app(int number) {
    return new ApplicationId(new UUID(5, number));
  }

  private static CollectionId collection(int number) {
    return new CollectionId(new UUID(9, number));
  }

  /** One thing that a power could be used on. */
  private record Point(
      Power power, @Nullable String unit, ApplicationId app, CollectionId collection) {}

  private static Set<Point> points() {
    Set<Point> all = new HashSet<>();
    for (Power power : POWERS) {
      for (String unit : UNITS) {
        for (ApplicationId app : APPS) {
          for (CollectionId collection : COLLECTIONS) {
            all.add(new Point(power, unit, app, collection));
          }
        }
      }
    }
    return all;
  }

  private static boolean in(@Nullable SortedSet<String> list, @Nullable String one) {
    return list == null || (one != null && list.contains(one));
  }

  private static boolean inside(Reach reach, Point point) {
    return in(reach.units(), point.unit())
        && in(reach.applications(), point.app().value().toString())
        && in(reach.collections(), point.collection().value().toString());
  }

  private static Set<Point> of(List<Authority.Allowed> allowed) {
    Set<Point> found = new HashSet<>();
    for (Point point : points()) {
      if (allowed.stream()
          .anyMatch(a -> a.powers().contains(point.power()) && inside(a.reach(), point))) {
        found.add(point);
      }
    }
    return found;
  }

  private static @Nullable SortedSet<String> some(SplittableRandom random, List<String> from) {
    if (random.nextInt(3) == 0) {
      return null;
    }
    SortedSet<String> list = new TreeSet<>();
    from.stream().filter(each -> random.nextBoolean()).forEach(list::add);
    return list;
  }

  private static Reach reach(SplittableRandom random) {
    return new Reach(
        some(random, List.of("Deck", "Safety", "Shore")),
        some(random, APPS.subList(0, 3).stream().map(a -> a.value().toString()).toList()),
        some(random, COLLECTIONS.subList(0, 2).stream().map(c -> c.value().toString()).toList()));
  }

  private static List<Authority.Allowed> mandates(SplittableRandom random) {
    List<Authority.Allowed> allowed = new ArrayList<>();
    for (int i = random.nextInt(4); i >= 0; i--) {
      Set<Power> powers = EnumSet.noneOf(Power.class);
      POWERS.stream().filter(p -> random.nextBoolean()).forEach(powers::add);
      allowed.add(new Authority.Allowed("Mandate " + i, powers, reach(random)));
    }
    return allowed;
  }

  static LongStream seeds() {
    return LongStream.range(0, Math.max(60, Integer.getInteger("engine.histories", 60)));
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void everyQuestionIsAnsweredByThePointsThatMandatesReach(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<Authority.Allowed> allowed = mandates(random);
    Authority authority = new Authority(null, allowed, Set.of());
    Set<Point> points = of(allowed);
    for (Power power : POWERS) {
      List<Point> own = points.stream().filter(p -> p.power() == power).toList();
      // A mandate that reaches nothing still brings its power: it is told, and of no use.
      assertThat(authority.has(power))
          .isEqualTo(allowed.stream().anyMatch(a -> a.powers().contains(power)));
      assertThat(authority.powers().contains(power)).isEqualTo(authority.has(power));
      if (authority.hasEverywhere(power)) {
        assertThat(own).hasSize(UNITS.size() * APPS.size() * COLLECTIONS.size());
      }
      for (String unit : UNITS) {
        for (ApplicationId app : APPS) {
          boolean any =
              allowed.stream()
                  .anyMatch(
                      a ->
                          a.powers().contains(power)
                              && in(a.reach().units(), unit)
                              && in(a.reach().applications(), app.value().toString()));
          assertThat(authority.reaches(power, app, unit)).isEqualTo(any);
          // By two mandates, one of which has the app and the other the unit, nothing is reached.
          assertThat(any && !authority.reaches(power, app)).isFalse();
          assertThat(any && !authority.reaches(power, unit)).isFalse();
        }
        SortedSet<String> units = authority.units(power);
        assertThat(units == null || (unit != null && units.contains(unit)))
            .isEqualTo(authority.reaches(power, unit));
      }
      for (Point point : own) {
        assertThat(authority.reaches(power, point.unit())).isTrue();
        assertThat(authority.reaches(power, point.app(), point.unit())).isTrue();
        assertThat(authority.reaches(power, point.collection())).isTrue();
      }
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whoeverCoversAMandateHasAllThatItAllows(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<Authority.Allowed> allowed = mandates(random);
    Authority authority = new Authority(null, allowed, Set.of());
    for (int i = 0; i < 20; i++) {
      Authority.Allowed other = mandates(random).getFirst();
      if (authority.covers(other)) {
        assertThat(of(allowed)).containsAll(of(List.of(other)));
      }
      // Its own are always covered, so that what one holds one may give.
      assertThat(allowed).allMatch(authority::covers);
      // By one mandate the points decide alone.
      Reach one = reach(random);
      Reach two = reach(random);
      Set<Point> all = points();
      all.removeIf(point -> !inside(two, point));
      if (one.covers(two)) {
        assertThat(all).allMatch(point -> inside(one, point));
      } else if (!all.isEmpty()) {
        assertThat(all).anyMatch(point -> !inside(one, point));
      }
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void aMandateMoreTakesNothingAway(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    List<Authority.Allowed> allowed = mandates(random);
    Authority fewer = new Authority(null, allowed.subList(1, allowed.size()), Set.of());
    Authority more = new Authority(null, allowed, Set.of());
    for (Power power : Power.values()) {
      assertThat(fewer.has(power) && !more.has(power)).isFalse();
      assertThat(fewer.hasEverywhere(power) && !more.hasEverywhere(power)).isFalse();
      for (String unit : UNITS) {
        assertThat(fewer.reaches(power, unit) && !more.reaches(power, unit)).isFalse();
      }
    }
    assertThat(more.mandates()).hasSize(allowed.size());
  }

  @ParameterizedTest
  @EnumSource(Power.class)
  void nobodyMayNothingAndWhoeverSetsUpMayAll(Power power) {
    assertThat(Authority.NONE.has(power)).isFalse();
    assertThat(Authority.NONE.units(power)).isEmpty();
    assertThat(Authority.NONE.reaches(power, (String) null)).isFalse();
    assertThat(Authority.NONE.reaches(power, app(1))).isFalse();
    assertThat(Authority.SETUP.hasEverywhere(power)).isTrue();
    assertThat(Authority.SETUP.units(power)).isNull();
    assertThat(Authority.SETUP.isWhole()).isTrue();
    // Without one of them nobody has everything.
    Set<Power> rest = EnumSet.complementOf(EnumSet.of(power));
    Authority nearly =
        new Authority(null, List.of(new Authority.Allowed("nearly", rest, Reach.ALL)), Set.of());
    assertThat(nearly.isWhole()).isFalse();
    assertThat(nearly.covers(new Authority.Allowed("other", Set.of(power), Reach.ALL))).isFalse();
    // The words under which a mandate keeps a power lead back to it.
    assertThat(Power.of(power.word())).contains(power);
  }

  /** An owner answers for a thing; others by powers without limits to the people they are for. */
  @Test
  void ownersAndPowersAnswerForThings() {
    PersonId me = new PersonId(new UUID(1, 1));
    GroupId group = new GroupId(new UUID(2, 2));
    ListingId listing = new ListingId(new UUID(12, 1));
    EntitlementId role = new EntitlementId(new UUID(6, 6));
    Authority owner = new Authority(me, List.of(), Set.of(app(1), group, collection(1)));
    assertThat(List.<ObjectId>of(app(1), group, collection(1))).allMatch(owner::answersFor);
    assertThat(List.<ObjectId>of(app(2), collection(2), listing, role))
        .noneMatch(owner::answersFor);
    assertThat(owner.ownsAny(ObjectKind.APPLICATION)).isTrue();
    assertThat(owner.ownsAny(ObjectKind.TILE)).isFalse();

    Set<Power> both = EnumSet.of(Power.APPS_EDIT, Power.ACCESS_READ);
    Reach oneApp = new Reach(null, new TreeSet<>(List.of(app(1).value().toString())), null);
    assertThat(by(both, oneApp).answersFor(app(1))).isTrue();
    assertThat(by(both, oneApp).answersFor(app(2))).isFalse();
    assertThat(by(EnumSet.of(Power.APPS_EDIT), oneApp).answersFor(app(1))).isFalse();
    // Whoever sees only some units' people does not see whom all the app is for.
    Reach deck = new Reach(new TreeSet<>(List.of("Deck")), null, null);
    assertThat(by(both, deck).answersFor(app(1))).isFalse();
    assertThat(by(EnumSet.of(Power.GROUPS_EDIT), Reach.ALL).answersFor(group)).isTrue();
    assertThat(by(EnumSet.of(Power.GROUPS_EDIT), deck).answersFor(group)).isFalse();
    assertThat(by(EnumSet.of(Power.PORTAL_ARRANGE), Reach.ALL).answersFor(collection(2))).isTrue();
    assertThat(by(EnumSet.of(Power.APPS_EDIT), Reach.ALL).answersFor(listing)).isTrue();
  }

  private static Authority by(Set<Power> powers, Reach reach) {
    return new Authority(null, List.of(new Authority.Allowed("one", powers, reach)), Set.of());
  }
}
