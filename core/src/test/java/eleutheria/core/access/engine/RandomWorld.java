package eleutheria.core.access.engine;

import eleutheria.core.directory.Attributes;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.ValueType;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.UUID;

/**
 * A small organisation in which anything may happen, also what no command does: circles of groups,
 * people who cease and come again, definitions that change their type under a filter. Each act is a
 * handful of edits, put through the one function that turns edits into facts.
 */
final class RandomWorld {
  static final List<String> FILTERS =
      List.of(
          "unit eq \"Deck crew\"",
          "unit sw \"s\" or site eq \"Nordkap\"",
          "not (unit eq \"Safety\") and skill pr",
          "skill co \"first\"",
          "grade ge 3",
          "grade lt \"4\"",
          "site ne \"Nordkap\"",
          "unit eq",
          "berth eq \"none has this\"");
  private final Map<String, List<String>> values =
      new java.util.TreeMap<>(
          Map.of(
              "unit", List.of("Deck crew", "Safety", "Stores"),
              "site", List.of("Nordkap", "Ærøskøbing"),
              "skill", List.of("First aid", "first mate", "Winch"),
              "grade", List.of("1", "3", "10"),
              "mail", List.of("Oda@tern.example", "oda@tern.example", "straße@tern.example"),
              "userName", List.of("oda", "ODA", "mikkel")));

  final Facts facts = new Facts();
  final List<PersonId> people = new ArrayList<>();
  final List<GroupId> groups = new ArrayList<>();
  final List<ApplicationId> apps = new ArrayList<>();
  final List<EntitlementId> roles = new ArrayList<>();
  final List<GrantId> grants = new ArrayList<>();
  final SplittableRandom random;
  Instant now = Instant.parse("2026-03-02T08:00:00Z");
  private final List<FactKey> known = new ArrayList<>();

  RandomWorld(long seed) {
    random = new SplittableRandom(seed);
    for (int i = 0; i < 7; i++) {
      people.add(new PersonId(id()));
    }
    values.put(
        Attributes.MANAGER,
        people.subList(0, 3).stream().map(person -> person.value().toString()).toList());
    for (int i = 0; i < 6; i++) {
      groups.add(new GroupId(id()));
    }
    for (int i = 0; i < 3; i++) {
      apps.add(new ApplicationId(id()));
    }
    for (int i = 0; i < 4; i++) {
      roles.add(new EntitlementId(id()));
    }
    List<Edit> edits = new ArrayList<>();
    people.forEach(person -> put(edits, new FactKey.Naming(person), name()));
    for (int i = 0; i < 5; i++) {
      put(edits, new FactKey.Existence(people.get(i)), FactValue.Present.PRESENT);
      put(edits, new FactKey.Status(people.get(i)), FactValue.Standing.of(PersonStatus.ACTIVE));
    }
    for (int i = 0; i < 5; i++) {
      put(edits, new FactKey.Existence(groups.get(i)), FactValue.Present.PRESENT);
      put(edits, new FactKey.GroupForm(groups.get(i)), form());
    }
    apps.forEach(app -> put(edits, new FactKey.Application(app), profile(app)));
    apps.forEach(
        app ->
            put(edits, new FactKey.AppState(app), new FactValue.AppState(ApplicationState.OPEN)));
    roles.subList(0, 3).forEach(role -> put(edits, new FactKey.Entitlement(role), role()));
    values.keySet().forEach(name -> put(edits, new FactKey.Defined(name), definition(name)));
    facts.take(moves(edits));
  }

  private UUID id() {
    return new UUID(random.nextLong(), random.nextLong());
  }

  private void put(List<Edit> edits, FactKey key, FactValue value) {
    known.add(key);
    edits.add(new Edit(key, null, new Spell(value, now, Moments.FOREVER)));
  }

  private List<Move> moves(List<Edit> edits) {
    return facts.apply(edits, now) instanceof Applied.Moves moves ? moves.moves() : List.of();
  }

  /** The same facts over columns, which are filled already. */
  Facts columned(Store store) {
    Facts columned = new Facts(store);
    facts.forEach(
        (key, spells) -> {
          if (!store.keeps(key)) {
            spells.forEach(spell -> columned.load(key, spell));
          }
        });
    return columned;
  }

  /** Lets time pass, over boundaries too. */
  void pass() {
    now = now.plus(Duration.ofHours(1 + random.nextInt(60)));
  }

  /** One act: what it moves, taken up here already; nothing where its edits met something else. */
  List<Move> act() {
    now = now.plus(1 + random.nextInt(3), java.time.temporal.ChronoUnit.MICROS);
    Map<FactKey, Edit> edits = new LinkedHashMap<>();
    int count = random.nextInt(5) == 0 ? 2 + random.nextInt(8) : 1;
    for (int i = 0; i < count; i++) {
      Edit edit = edit();
      edits.putIfAbsent(edit.key(), edit);
    }
    List<Move> moves = moves(List.copyOf(edits.values()));
    if (!moves.isEmpty()) {
      facts.take(moves);
      edits.keySet().forEach(known::add);
    }
    return moves;
  }

  private Edit edit() {
    FactKey key = random.nextInt(4) == 0 ? any(known) : key();
    List<Spell> spells = facts.from(key, now);
    if (spells.isEmpty()) {
      return new Edit(key, null, new Spell(value(key), from(), until()));
    }
    Spell base = any(spells);
    if (key instanceof FactKey.Naming) {
      // Everyone has a name at every moment.
      return new Edit(key, base, new Spell(value(key), now, Moments.FOREVER));
    }
    if (base.from().isAfter(now)) {
      return new Edit(
          key, base, random.nextBoolean() ? null : new Spell(value(key), from(), until()));
    }
    return switch (random.nextInt(3)) {
      case 0 -> new Edit(key, base, base.endingAt(base.from().isBefore(now) ? now : until()));
      case 1 -> new Edit(key, base, base.endingAt(until()));
      default -> new Edit(key, base, new Spell(value(key), now, until()));
    };
  }

  private Instant from() {
    return random.nextInt(4) == 0 ? now.plus(Duration.ofHours(1 + random.nextInt(40))) : now;
  }

  /** A few instants are shared, so that much falls due at once. */
  private Instant until() {
    return switch (random.nextInt(4)) {
      case 0 -> now.plus(Duration.ofHours(41 + random.nextInt(60)));
      case 1 ->
          now.truncatedTo(java.time.temporal.ChronoUnit.DAYS)
              .plus(Duration.ofDays(3 + random.nextInt(2)));
      default -> Moments.FOREVER;
    };
  }

  private <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  private FactKey key() {
    PersonId person = any(people);
    GroupId group = any(groups);
    return switch (random.nextInt(20)) {
      case 0 -> new FactKey.Existence(random.nextBoolean() ? person : group);
      case 1 -> new FactKey.Naming(person);
      case 2, 3 -> new FactKey.Status(person);
      case 4, 5, 6 -> attribute(person);
      case 7 ->
          random.nextInt(4) == 0
              ? new FactKey.Defined(any(List.copyOf(new java.util.TreeSet<>(values.keySet()))))
              : attribute(person);
      case 8 -> new FactKey.GroupForm(group);
      case 9, 10, 11 -> new FactKey.Membership(group, person);
      case 12, 13 -> new FactKey.Membership(group, any(groups));
      case 14 -> random.nextBoolean() ? new FactKey.AppState(any(apps)) : grant();
      case 15 -> random.nextInt(3) == 0 ? new FactKey.Entitlement(any(roles)) : grant();
      default -> grant();
    };
  }

  private FactKey grant() {
    if (grants.size() < 12 || random.nextInt(4) == 0) {
      grants.add(new GrantId(id()));
      return new FactKey.Grant(grants.getLast());
    }
    return new FactKey.Grant(any(grants));
  }

  private FactKey attribute(PersonId person) {
    String name =
        any(List.of("unit", "unit", "site", "skill", "grade", "mail", "userName", "manager"));
    return Attributes.key(person, name, name.equals("skill"), any(values.get(name)));
  }

  private FactValue value(FactKey key) {
    return switch (key) {
      case FactKey.Existence k -> FactValue.Present.PRESENT;
      case FactKey.Naming k -> name();
      case FactKey.Status k -> FactValue.Standing.of(any(List.of(PersonStatus.values())));
      case FactKey.Attribute k ->
          new FactValue.Text(k.slot().isEmpty() ? any(values.get(k.name())) : valueOf(k));
      case FactKey.Defined k -> definition(k.attribute());
      case FactKey.GroupForm k -> form();
      case FactKey.Membership k -> FactValue.Present.PRESENT;
      case FactKey.Application k -> profile(k.subject());
      case FactKey.AppState k -> new FactValue.AppState(any(List.of(ApplicationState.values())));
      case FactKey.Entitlement k -> role();
      case FactKey.Grant k -> given();
      default -> throw new IllegalStateException("not made here: " + key);
    };
  }

  /** The value that a slot stands for. */
  private String valueOf(FactKey.Attribute key) {
    return values.get(key.name()).stream()
        .filter(v -> Attributes.key(key.subject(), key.name(), true, v).equals(key))
        .findFirst()
        .orElseThrow();
  }

  private FactValue.PersonName name() {
    String given = any(List.of("Åse", "Oda", "Mikkel", "Zoë", "Ida", "Ærna"));
    String family = any(List.of("Holm", "Ström", "Aas", "Li", "Ødegaard"));
    return new FactValue.PersonName(given, family, given + " " + family);
  }

  private FactValue form() {
    return switch (random.nextInt(4)) {
      case 0 -> new FactValue.Form.ByFilter(any(FILTERS));
      default -> new FactValue.Form.Listed();
    };
  }

  private FactValue definition(String name) {
    ValueType type =
        name.equals("grade") && random.nextInt(4) != 0 ? ValueType.NUMBER : ValueType.TEXT;
    return new FactValue.Definition(name, type, name.equals("skill"), false, null);
  }

  private FactValue profile(ApplicationId app) {
    return new FactValue.Profile("App " + apps.indexOf(app), "", "", "", Sensitivity.LOW, "");
  }

  private FactValue role() {
    return new FactValue.Role(any(apps), "User", "", any(List.of(Sensitivity.values())), true);
  }

  private FactValue given() {
    FactValue.Subject subject =
        switch (random.nextInt(4)) {
          case 0 -> new FactValue.Subject.OfPerson(any(people));
          case 1 -> new FactValue.Subject.ByFilter(any(FILTERS));
          default -> new FactValue.Subject.OfGroup(any(groups));
        };
    return new FactValue.Given(subject, any(roles), any(List.of(GrantSource.values())));
  }

  /** Everything that can be in a group. */
  List<ObjectId> members() {
    List<ObjectId> all = new ArrayList<>(people);
    all.addAll(groups);
    return all;
  }
}
