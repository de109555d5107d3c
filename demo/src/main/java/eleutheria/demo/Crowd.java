package eleutheria.demo;

import eleutheria.core.directory.NameOrder;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * An organisation of any size, for measuring: people with the demo's names, nested groups, filters,
 * grants, and two years in which every person sees ten changes a year. It is given away fact by
 * fact, so that it need not fit into memory; the same size and instant give the same facts.
 */
public final class Crowd {
  /**
   * How large.
   *
   * @param lists places in groups, one of them in a team for each person
   * @param groupGrants grants to groups
   * @param ownGrants grants to single people
   * @param large how many grants of a hundred go to groups by their size, not evenly
   */
  public record Size(
      String name,
      int people,
      int groups,
      int apps,
      int entitlements,
      int lists,
      int groupGrants,
      int ownGrants,
      int large) {
    public static final Size S = new Size("S", 10_000, 1_000, 300, 1_200, 80_000, 1_780, 40_000, 0);
    public static final Size L =
        new Size("L", 100_000, 10_000, 1_000, 5_000, 1_000_000, 20_000, 500_000, 2);
  }

  /** Takes facts as they are made. */
  public interface Taker {
    void person(UUID id, FactValue.PersonName name, byte[] key, Instant from);

    void status(UUID person, String status, Instant from, Instant until);

    void attribute(UUID person, String name, String value, Instant from, Instant until);

    void defined(String name, Instant from);

    /**
     * @param filter null for a listed group
     */
    void group(UUID id, String name, @Nullable String filter, Instant from);

    void member(UUID group, UUID person, Instant from, Instant until);

    void nested(UUID group, UUID child, Instant from, Instant until);

    void application(UUID id, String name, String state, Instant from);

    void entitlement(UUID id, UUID application, String name, Instant from);

    /** Exactly one of person, group and filter is not null. */
    void grant(
        UUID id,
        @Nullable UUID person,
        @Nullable UUID group,
        @Nullable String filter,
        UUID entitlement,
        GrantSource source,
        Instant from,
        Instant until);
  }

  private static final String[] EMPLOYMENT = {"permanent", "seasonal", "agency", "trainee"};
  private static final List<String> ATTRIBUTES =
      List.of("userName", "mail", "unit", "site", "title", "employment", "costCentre", "manager");
  private static final int CHANGES = 20;

  private final Size size;
  private final Taker taker;
  private final SplittableRandom random;
  private final FreshIds ids;
  private final Instant now;
  private final Instant begins;
  private final UUID[] people;
  private final UUID[] groups;
  private final UUID[] entitlements;
  private final int teams;
  private final int units;
  private final int firstList;

  private Crowd(Size size, Instant now, Taker taker) {
    this.size = size;
    this.taker = taker;
    this.now = now.truncatedTo(java.time.temporal.ChronoUnit.MICROS);
    this.begins = this.now.minus(Duration.ofDays(730));
    this.random = new SplittableRandom(20_241);
    this.ids = new FreshIds(random.split());
    people = new UUID[size.people()];
    groups = new UUID[size.groups()];
    entitlements = new UUID[size.entitlements()];
    teams = size.groups() / 5;
    units = size.groups() / 25;
    firstList = 1 + DIVISIONS + units + teams;
  }

  private static final int DIVISIONS = 20;

  public static void make(Size size, Instant now, Taker taker) {
    new Crowd(size, now, taker).make();
  }

  private UUID id() {
    return ids.next(begins);
  }

  private Instant moment() {
    return begins.plusMillis(random.nextLong(Duration.between(begins, now).toMillis() - 1_000));
  }

  private void make() {
    ATTRIBUTES.forEach(name -> taker.defined(name, begins));
    applications();
    makeGroups();
    makePeople();
    places();
    grants();
  }

  private void applications() {
    UUID[] apps = new UUID[size.apps()];
    for (int i = 0; i < apps.length; i++) {
      apps[i] = id();
      taker.application(apps[i], "App " + i, i % 50 == 49 ? "paused" : "open", begins);
    }
    for (int i = 0; i < entitlements.length; i++) {
      entitlements[i] = id();
      taker.entitlement(entitlements[i], apps[i % apps.length], "Role " + i / apps.length, begins);
    }
  }

  private String unitName(int unit) {
    return Unit.ALL.get(unit % Unit.ALL.size()).name() + " " + unit / Unit.ALL.size();
  }

  private String siteName(int unit) {
    Unit of = Unit.ALL.get(unit % Unit.ALL.size());
    return of.sites().get(unit / Unit.ALL.size() % of.sites().size());
  }

  /** All staff, divisions in it, units in those, teams in those; then lists, some nested. */
  private void makeGroups() {
    for (int i = 0; i < groups.length; i++) {
      groups[i] = id();
      String filter = i >= groups.length - filters() ? filter(i) : null;
      taker.group(groups[i], "Group " + i, filter, begins);
    }
    for (int i = 1; i < firstList; i++) {
      taker.nested(groups[above(i)], groups[i], begins, Moments.FOREVER);
    }
    for (int i = firstList + 10; i < groups.length; i += 3) {
      // Into an earlier list, so that no circle comes about.
      int parent = firstList + random.nextInt(Math.min(i, groups.length - filters()) - firstList);
      taker.nested(groups[parent], groups[i], begins, Moments.FOREVER);
    }
  }

  private int filters() {
    return Math.max(6, size.groups() / 160);
  }

  private String filter(int number) {
    String unit = unitName(random.nextInt(units));
    return switch (number % 4) {
      case 0 -> "unit eq \"%s\" and employment eq \"permanent\"".formatted(unit);
      case 1 -> "site eq \"%s\" and title co \"lead\"".formatted(siteName(random.nextInt(units)));
      case 2 -> "unit sw \"%s\" and not (employment eq \"agency\")".formatted(unit);
      default -> "costCentre eq \"C%d\" or unit eq \"%s\"".formatted(random.nextInt(120), unit);
    };
  }

  private int above(int group) {
    if (group <= DIVISIONS) {
      return 0;
    }
    int unit = group - 1 - DIVISIONS;
    if (unit < units) {
      return 1 + unit % DIVISIONS;
    }
    return 1 + DIVISIONS + (unit - units) % units;
  }

  private void makePeople() {
    Names names = new Names(random.split());
    for (int i = 0; i < people.length; i++) {
      people[i] = id();
      int language = names.language();
      Names.Part given = names.given(language);
      Names.Part family = names.family(language);
      FactValue.PersonName name =
          new FactValue.PersonName(
              given.written(), family.written(), given.written() + " " + family.written());
      taker.person(people[i], name, NameOrder.key(name), begins);
      boolean pausedOnce = random.nextInt(20) == 0;
      Instant turn = pausedOnce ? moment() : Moments.FOREVER;
      taker.status(people[i], "active", begins, turn);
      if (pausedOnce) {
        taker.status(
            people[i], random.nextInt(3) == 0 ? "paused" : "departed", turn, Moments.FOREVER);
      }
      attributes(i, names.userName(given, family));
    }
  }

  private int unitOf(int person) {
    return teamOf(person) % units;
  }

  private int teamOf(int person) {
    // Spread so that neighbours by number are not neighbours by team.
    return (int) ((person * 2_654_435_761L) >>> 7 & 0x7fff_ffff) % teams;
  }

  private void attributes(int i, String userName) {
    UUID person = people[i];
    int unit = unitOf(i);
    Unit of = Unit.ALL.get(unit % Unit.ALL.size());
    lasting(person, "userName", userName);
    lasting(person, "mail", userName + "@ternsound.example");
    lasting(person, "unit", unitName(unit));
    lasting(person, "site", siteName(unit));
    if (i > 0) {
      lasting(person, "manager", people[random.nextInt(Math.max(1, i / 8 + 1))].toString());
    }
    // One change in five is of an attribute: title, cost centre and employment take turns.
    Map<String, Integer> changes =
        new TreeMap<>(Map.of("costCentre", 1, "employment", 1, "title", 2));
    changes.forEach(
        (name, count) -> {
          Instant from = begins;
          Instant[] turns = new Instant[count];
          Arrays.setAll(turns, k -> moment());
          Arrays.sort(turns);
          for (Instant turn : turns) {
            if (turn.isAfter(from)) {
              taker.attribute(person, name, value(name, of), from, turn);
              from = turn;
            }
          }
          taker.attribute(person, name, value(name, of), from, Moments.FOREVER);
        });
  }

  private String value(String name, Unit unit) {
    return switch (name) {
      case "title" ->
          random.nextInt(12) == 0
              ? unit.lead()
              : unit.titles().get(random.nextInt(unit.titles().size()));
      case "costCentre" -> "C" + random.nextInt(120);
      default -> EMPLOYMENT[Math.max(0, random.nextInt(10) - 6)];
    };
  }

  private void lasting(UUID person, String name, String value) {
    taker.attribute(person, name, value, begins, Moments.FOREVER);
  }

  /** Sizes fall as 1/rank, as sizes of groups do. */
  private final class Falling {
    private final double[] sums;

    Falling(int count, double power) {
      sums = new double[count];
      double sum = 0;
      for (int i = 0; i < count; i++) {
        sum += 1 / Math.pow(i + 3, power);
        sums[i] = sum;
      }
    }

    int draw() {
      int at = Arrays.binarySearch(sums, random.nextDouble() * sums[sums.length - 1]);
      return Math.min(sums.length - 1, at < 0 ? -at - 1 : at);
    }
  }

  private void places() {
    int listed = groups.length - filters() - firstList;
    Falling sizes = new Falling(listed, 0.75);
    int each = size.lists() / size.people() - 1;
    for (int i = 0; i < people.length; i++) {
      taker.member(groups[1 + DIVISIONS + units + teamOf(i)], people[i], begins, Moments.FOREVER);
      Set<Integer> in = new HashSet<>();
      if (i % 2 == 0) {
        in.add(0);
      }
      while (in.size() < each) {
        in.add(sizes.draw());
      }
      List<Integer> sorted = new ArrayList<>(in);
      sorted.sort(null);
      int begun = 0;
      for (int list : sorted) {
        // Two changes in five are of places: half of them a place that began, half one that ended.
        Instant from = begun++ < CHANGES / 5 && list != 0 ? moment() : begins;
        taker.member(groups[firstList + list], people[i], from, Moments.FOREVER);
      }
      Set<Integer> left = new HashSet<>();
      while (left.size() < CHANGES / 5) {
        int list = sizes.draw();
        if (!in.contains(list) && left.add(list)) {
          Instant one = moment();
          Instant other = moment();
          if (one.isBefore(other)) {
            taker.member(groups[firstList + list], people[i], one, other);
          }
        }
      }
    }
  }

  private void grants() {
    Falling popular = new Falling(entitlements.length, 0.55);
    int lists = groups.length - filters();
    Falling sizes = new Falling(lists - firstList, 0.75);
    Set<Long> given = new HashSet<>();
    while (given.size() < size.groupGrants()) {
      int group =
          random.nextInt(100) < size.large() ? firstList + sizes.draw() : random.nextInt(lists);
      int entitlement = random.nextInt(entitlements.length);
      if (group <= DIVISIONS && random.nextInt(3) != 0) {
        continue;
      }
      if (given.add((long) group << 32 | entitlement)) {
        grant(
            null,
            groups[group],
            null,
            entitlements[entitlement],
            GrantSource.HAND,
            begins,
            Moments.FOREVER);
      }
    }
    for (int i = 0; i < filters(); i++) {
      grant(
          null,
          groups[lists + i],
          null,
          entitlements[random.nextInt(entitlements.length)],
          GrantSource.HAND,
          begins,
          Moments.FOREVER);
      grant(
          null,
          null,
          filter(i),
          entitlements[random.nextInt(entitlements.length)],
          GrantSource.HAND,
          begins,
          Moments.FOREVER);
    }
    int each = size.ownGrants() / size.people();
    GrantSource[] sources = GrantSource.values();
    for (UUID person : people) {
      Set<Integer> own = new HashSet<>();
      while (own.size() < each) {
        own.add(popular.draw());
      }
      int begun = 0;
      for (int entitlement : own) {
        Instant from = begun++ < CHANGES / 5 ? moment() : begins;
        grant(
            person,
            null,
            null,
            entitlements[entitlement],
            sources[random.nextInt(3)],
            from,
            Moments.FOREVER);
      }
      for (int i = 0; i < CHANGES / 5; i++) {
        Instant one = moment();
        Instant other = moment();
        if (one.isBefore(other)) {
          grant(
              person,
              null,
              null,
              entitlements[popular.draw()],
              sources[random.nextInt(3)],
              one,
              other);
        }
      }
    }
  }

  private void grant(
      @Nullable UUID person,
      @Nullable UUID group,
      @Nullable String filter,
      UUID entitlement,
      GrantSource source,
      Instant from,
      Instant until) {
    taker.grant(id(), person, group, filter, entitlement, source, from, until);
  }
}
