package eleutheria.core.directory;

import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.directory.filter.FilterWords;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Duty;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.Spell;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.util.AbstractList;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiConsumer;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * People, groups and mandates as they are at one moment; never changes once built.
 *
 * <p>Structure: maps of small records, one a thing. What is seldom asked (order by name, who is in
 * what, sign-in names) is worked out at the first query and kept. A later state is made from an
 * earlier one by building again only the things that the moves are about ({@link #after}), or whose
 * facts have begun or ended by themselves since ({@link #later}).
 *
 * <p>Cost: building is linear in the facts, about 10 ms for 1,200 people with two years of past;
 * {@code after} copies the maps, some 50 µs. With a {@link Lookup} the engine answers what is asked
 * of people, and of who is in what; without one this stays plain and clear, and judges it.
 */
public final class DirectoryView {
  private final Instant at;
  private final Instant until;
  private final Map<PersonId, Person> people;
  private final Map<GroupId, Group> groups;
  private final Map<String, FactValue.Definition> definitions;
  private final Map<SourceId, FactValue.Delivery> sources;
  private final Map<MandateId, Mandate> mandates;
  private final Map<ObjectId, Map<FactKey.Link, SourceLink>> links;
  private final Map<PersonId, List<Deputy>> deputies;
  private final Map<ObjectId, List<PersonId>> owners;
  private final @Nullable Lookup lookup;

  private final Map<GroupId, Set<PersonId>> everyone = new ConcurrentHashMap<>();
  private volatile @Nullable List<Person> peopleByName;
  private volatile @Nullable List<Group> groupsByName;
  private volatile @Nullable Names names;
  private volatile @Nullable Nesting nesting;
  private volatile @Nullable Map<PersonId, Set<GroupId>> belongings;
  private volatile @Nullable Map<PersonId, Set<ObjectId>> owned;

  /** A mandate and who holds it. */
  public record Mandate(MandateId id, FactValue.Terms terms, Set<ObjectId> holders) {}

  /** Who decides for somebody, and what. */
  public record Deputy(PersonId person, SortedSet<Duty> duties) {}

  /** A group that a person is in, and the shortest chain of groups that leads there. */
  public record Belonging(GroupId group, List<GroupId> chain) {
    public boolean direct() {
      return chain.size() == 1;
    }
  }

  /** Who is found by which name, and whom each leads. */
  private record Names(
      Map<String, PersonId> byUserName,
      Map<String, List<PersonId>> byMail,
      Map<PersonId, List<PersonId>> reports) {}

  /** Which groups contain each, and the filters of those that have one. */
  private record Nesting(
      Map<GroupId, Set<GroupId>> parents, Map<GroupId, FilterParser.Parsed> filters) {}

  private DirectoryView(
      Instant at,
      Instant until,
      Map<PersonId, Person> people,
      Map<GroupId, Group> groups,
      Map<String, FactValue.Definition> definitions,
      Map<SourceId, FactValue.Delivery> sources,
      Map<MandateId, Mandate> mandates,
      Map<ObjectId, Map<FactKey.Link, SourceLink>> links,
      Map<ObjectId, List<PersonId>> owners,
      Map<PersonId, List<Deputy>> deputies,
      @Nullable Lookup lookup) {
    this.at = at;
    this.deputies = deputies;
    this.owners = owners;
    this.lookup = lookup;
    this.until = until;
    this.people = people;
    this.groups = groups;
    this.definitions = definitions;
    this.sources = sources;
    this.mandates = mandates;
    this.links = links;
  }

  // ---- building

  public static DirectoryView of(Facts facts, Instant at) {
    return of(facts, at, null);
  }

  /**
   * @param lookup of the same moment; null for plain collections
   */
  public static DirectoryView of(Facts facts, Instant at, @Nullable Lookup lookup) {
    Builder builder = new Builder(facts, at, lookup);
    Set<ObjectId> subjects = new HashSet<>();
    builder.each(
        (key, spells) -> {
          builder.boundaries(spells);
          builder.unattached(key);
          ObjectId subject = key.subject();
          if (subject != null) {
            subjects.add(subject);
          }
        });
    subjects.forEach(builder::rebuild);
    return builder.done();
  }

  /** The state after the moves of an act; {@code facts} has taken them up already. */
  public DirectoryView after(Facts facts, Collection<Move> moves, Instant at) {
    return after(facts, moves, at, null);
  }

  /**
   * @param lookup of the state after; null for plain collections
   */
  public DirectoryView after(
      Facts facts, Collection<Move> moves, Instant at, @Nullable Lookup lookup) {
    if (this.lookup != null && lookup == null) {
      return of(facts, at);
    }
    Set<FactKey> keys = new LinkedHashSet<>();
    moves.forEach(move -> keys.add(move.key()));
    return again(facts, keys, at, lookup);
  }

  /** The state at a later moment, when some facts may have begun or ended by themselves. */
  public DirectoryView later(Facts facts, Instant at) {
    return later(facts, at, null);
  }

  /**
   * @param lookup of the later moment; null for plain collections
   */
  public DirectoryView later(Facts facts, Instant at, @Nullable Lookup lookup) {
    if (at.isBefore(until)) {
      return this;
    }
    return this.lookup != null && lookup == null
        ? of(facts, at)
        : again(facts, Set.of(), at, lookup);
  }

  /** Builds again what some keys are about, and what a boundary since then is about. */
  private DirectoryView again(Facts facts, Set<FactKey> keys, Instant at, @Nullable Lookup lookup) {
    boolean crossed = !at.isBefore(until);
    Builder builder = new Builder(facts, at, this, crossed ? Moments.FOREVER : until, lookup);
    Set<FactKey> changed = new LinkedHashSet<>(keys);
    Set<ObjectId> subjects = new LinkedHashSet<>();
    if (crossed) {
      if (lookup != null) {
        subjects.addAll(lookup.crossed(this.at, at));
      }
      builder.each(
          (key, spells) -> {
            builder.boundaries(spells);
            for (Spell spell : spells) {
              if (within(spell.from(), at) || within(spell.until(), at)) {
                changed.add(key);
              }
            }
          });
    } else {
      changed.forEach(key -> builder.boundaries(facts.spells(key)));
    }
    for (FactKey key : changed) {
      builder.unattached(key);
      ObjectId subject = key.subject();
      if (subject != null) {
        subjects.add(subject);
      }
      if (key instanceof FactKey.Link) {
        facts.spells(key).forEach(s -> subjects.add(((FactValue.Ref) s.value()).object()));
      }
    }
    subjects.forEach(builder::rebuild);
    return builder.done();
  }

  private boolean within(Instant moment, Instant end) {
    return moment.isAfter(at) && !moment.isAfter(end);
  }

  private static final class Builder {
    private final Facts facts;
    private final Instant at;
    private Instant until = Moments.FOREVER;
    private final Map<PersonId, Person> people;
    private final Map<GroupId, Group> groups;
    private final Map<String, FactValue.Definition> definitions;
    private final Map<SourceId, FactValue.Delivery> sources;
    private final Map<MandateId, Mandate> mandates;
    private final Map<ObjectId, Map<FactKey.Link, SourceLink>> links;
    private final Map<ObjectId, List<PersonId>> owners;
    private final Map<PersonId, List<Deputy>> deputies;
    private final @Nullable Lookup lookup;

    Builder(Facts facts, Instant at, @Nullable Lookup lookup) {
      this.facts = facts;
      this.at = at;
      this.lookup = lookup;
      if (lookup != null) {
        boundary(lookup.next());
      }
      people = new HashMap<>();
      groups = new HashMap<>();
      definitions = new TreeMap<>();
      sources = new LinkedHashMap<>();
      mandates = new LinkedHashMap<>();
      links = new HashMap<>();
      owners = new HashMap<>();
      deputies = new HashMap<>();
    }

    Builder(Facts facts, Instant at, DirectoryView from, Instant until, @Nullable Lookup lookup) {
      this.facts = facts;
      this.at = at;
      this.until = until;
      this.lookup = lookup;
      if (lookup != null) {
        boundary(lookup.next());
      }
      people = new HashMap<>(from.people);
      groups = new HashMap<>(from.groups);
      definitions = new TreeMap<>(from.definitions);
      sources = new LinkedHashMap<>(from.sources);
      mandates = new LinkedHashMap<>(from.mandates);
      links = new HashMap<>(from.links);
      owners = new HashMap<>(from.owners);
      deputies = new HashMap<>(from.deputies);
    }

    DirectoryView done() {
      return new DirectoryView(
          at,
          until,
          people,
          groups,
          definitions,
          sources,
          mandates,
          links,
          owners,
          deputies,
          lookup);
    }

    /** All facts, or those that the lookup does not stand for. */
    void each(BiConsumer<FactKey, List<Spell>> visitor) {
      if (lookup == null) {
        facts.forEach(visitor);
      } else {
        facts.forEachBeside(visitor);
      }
    }

    void boundaries(List<Spell> spells) {
      for (Spell spell : spells) {
        boundary(spell.from());
        boundary(spell.until());
      }
    }

    private void boundary(Instant moment) {
      if (moment.isAfter(at) && moment.isBefore(until)) {
        until = moment;
      }
    }

    /** Facts that are found by their key and not by their subject. */
    void unattached(FactKey key) {
      if (key instanceof FactKey.Defined defined) {
        if (facts.valueAt(key, at) instanceof FactValue.Definition definition) {
          definitions.put(defined.attribute(), definition);
        } else {
          definitions.remove(defined.attribute());
        }
      } else if (key instanceof FactKey.Link link) {
        for (Spell spell : facts.spells(key)) {
          ObjectId target = ((FactValue.Ref) spell.value()).object();
          Map<FactKey.Link, SourceLink> changed =
              new LinkedHashMap<>(links.getOrDefault(target, Map.of()));
          if (spell.at(at)) {
            changed.put(link, new SourceLink(link.subject(), link.key(), spell.from()));
          } else {
            changed.remove(link);
          }
          links.put(target, changed);
        }
      }
    }

    void rebuild(ObjectId subject) {
      switch (subject) {
        case PersonId id -> {
          if (lookup == null) {
            put(people, id, person(id));
          }
          put(deputies, id, deputies(id));
        }
        case GroupId id -> put(groups, id, group(id));
        case MandateId id -> put(mandates, id, mandate(id));
        case SourceId id ->
            put(
                sources,
                id,
                facts.valueAt(new FactKey.Source(id), at) instanceof FactValue.Delivery d
                    ? d
                    : null);
        case ApplicationId id -> put(owners, id, owners(id));
        case CollectionId id -> put(owners, id, owners(id));
        case ListingId id -> put(owners, id, owners(id));
        default -> {}
      }
    }

    private @Nullable List<PersonId> owners(ObjectId thing) {
      List<PersonId> found =
          facts.about(thing).stream()
              .filter(key -> facts.valueAt(key, at) != null)
              .flatMap(
                  key -> key instanceof FactKey.Ownership o ? Stream.of(o.owner()) : Stream.of())
              .sorted()
              .toList();
      return found.isEmpty() ? null : found;
    }

    private @Nullable List<Deputy> deputies(PersonId person) {
      List<Deputy> found = new ArrayList<>();
      for (FactKey key : lookup == null ? facts.about(person) : facts.aboutBeside(person)) {
        if (key instanceof FactKey.Deputy k
            && facts.valueAt(key, at) instanceof FactValue.Duties duties) {
          found.add(new Deputy(k.deputy(), duties.duties()));
        }
      }
      found.sort(Comparator.comparing(Deputy::person));
      return found.isEmpty() ? null : found;
    }

    private static <K, V> void put(Map<K, V> map, K key, @Nullable V value) {
      if (value == null) {
        map.remove(key);
      } else {
        map.put(key, value);
      }
    }

    private @Nullable Person person(PersonId id) {
      if (facts.valueAt(new FactKey.Existence(id), at) == null) {
        return null;
      }
      FactValue.PersonName name = FactValue.PersonName.ERASED;
      Spell status = null;
      PersonStatus next = null;
      Map<String, List<String>> attributes = new TreeMap<>();
      for (FactKey key : facts.about(id)) {
        Optional<Spell> spell = facts.at(key, at);
        if (spell.isEmpty()) {
          continue;
        }
        switch (key) {
          case FactKey.Naming k -> name = (FactValue.PersonName) spell.get().value();
          case FactKey.Status k -> {
            status = spell.get();
            next = nextStatus(key, status);
          }
          case FactKey.Attribute k ->
              attributes
                  .computeIfAbsent(k.name(), n -> new ArrayList<>(1))
                  .add(((FactValue.Text) spell.get().value()).text());
          default -> {}
        }
      }
      attributes.values().forEach(Collections::sort);
      return new Person(
          id,
          name,
          NameOrder.key(name),
          status == null
              ? FactValue.Standing.of(PersonStatus.EXPECTED)
              : (FactValue.Standing) status.value(),
          status == null ? at : status.from(),
          status == null ? at : begun(new FactKey.Status(id), status),
          status == null ? Moments.FOREVER : status.until(),
          next,
          attributes,
          List.copyOf(links.getOrDefault(id, Map.of()).values()));
    }

    private Instant begun(FactKey key, Spell current) {
      Instant begun = current.from();
      if (here(current)) {
        for (Spell spell : facts.spells(key).reversed()) {
          if (spell.until().equals(begun) && here(spell)) {
            begun = spell.from();
          }
        }
      }
      return begun;
    }

    private static boolean here(Spell spell) {
      return ((FactValue.Standing) spell.value()).status().here();
    }

    private @Nullable PersonStatus nextStatus(FactKey key, Spell current) {
      return facts.valueAt(key, current.until()) instanceof FactValue.Standing standing
          ? standing.status()
          : null;
    }

    private @Nullable Group group(GroupId id) {
      if (facts.valueAt(new FactKey.Existence(id), at) == null) {
        return null;
      }
      String name = id.text();
      FactValue.Form form = new FactValue.Form.Listed();
      Set<PersonId> members = new HashSet<>();
      Set<GroupId> nested = new HashSet<>();
      List<PersonId> owners = new ArrayList<>();
      for (FactKey key : lookup == null ? facts.about(id) : facts.aboutBeside(id)) {
        FactValue value = facts.valueAt(key, at);
        if (value == null) {
          continue;
        }
        switch (key) {
          case FactKey.GroupName k -> name = ((FactValue.Text) value).text();
          case FactKey.GroupForm k -> form = (FactValue.Form) value;
          case FactKey.Ownership k -> owners.add(k.owner());
          case FactKey.Membership k -> {
            switch (k.member()) {
              case PersonId person -> members.add(person);
              case GroupId group -> nested.add(group);
              default -> throw new IllegalStateException("cannot be a member: " + k.member());
            }
          }
          default -> {}
        }
      }
      Collections.sort(owners);
      return new Group(
          id,
          name,
          NameOrder.key(name),
          form,
          lookup == null ? members : lookup.listed(id),
          lookup == null ? nested : lookup.nested(id),
          owners);
    }

    private @Nullable Mandate mandate(MandateId id) {
      FactValue value = facts.valueAt(new FactKey.Mandate(id), at);
      if (!(value instanceof FactValue.Terms terms)) {
        return null;
      }
      Set<ObjectId> holders = new LinkedHashSet<>();
      for (FactKey key : facts.about(id)) {
        if (key instanceof FactKey.MandateHeld held && facts.valueAt(key, at) != null) {
          holders.add(held.holder());
        }
      }
      return new Mandate(id, terms, holders);
    }
  }

  // ---- reading

  /** The moment that this state is of. */
  public Instant at() {
    return at;
  }

  /** The next moment at which a fact begins or ends by itself. */
  public Instant until() {
    return until;
  }

  public Optional<Person> person(PersonId id) {
    return lookup == null ? Optional.ofNullable(people.get(id)) : lookup.person(id, links(id));
  }

  public Optional<Group> group(GroupId id) {
    return Optional.ofNullable(groups.get(id));
  }

  public int size() {
    return lookup == null ? people.size() : lookup.everyone().size();
  }

  /** All people in name order. */
  public List<Person> people() {
    List<Person> known = peopleByName;
    if (known == null) {
      known =
          lookup == null
              ? people.values().stream().sorted().toList()
              : new Everyone(lookup.everyone(), id -> person(id).orElseThrow());
      peopleByName = known;
    }
    return known;
  }

  /** Everyone, each made when looked at: a list of a hundred thousand is seldom looked through. */
  private static final class Everyone extends AbstractList<Person> {
    private final List<PersonId> ids;
    private final Function<PersonId, Person> person;

    Everyone(List<PersonId> ids, Function<PersonId, Person> person) {
      this.ids = ids;
      this.person = person;
    }

    @Override
    public Person get(int index) {
      return person.apply(ids.get(index));
    }

    @Override
    public int size() {
      return ids.size();
    }
  }

  /** All groups in name order. */
  public List<Group> groups() {
    List<Group> known = groupsByName;
    if (known == null) {
      known = groups.values().stream().sorted().toList();
      groupsByName = known;
    }
    return known;
  }

  public Map<String, FactValue.Definition> definitions() {
    return Collections.unmodifiableMap(definitions);
  }

  public Map<SourceId, FactValue.Delivery> sources() {
    return Collections.unmodifiableMap(sources);
  }

  public Collection<Mandate> mandates() {
    return Collections.unmodifiableCollection(mandates.values());
  }

  /** The links of a group or person to sources. */
  public List<SourceLink> links(ObjectId thing) {
    return List.copyOf(links.getOrDefault(thing, Map.of()).values());
  }

  /** Who owns an application, a collection or a group, in order of id. */
  public List<PersonId> owners(ObjectId thing) {
    return thing instanceof GroupId group
        ? group(group).map(Group::owners).orElse(List.of())
        : owners.getOrDefault(thing, List.of());
  }

  /** Who decides for somebody at this moment, in order of id, whoever they are by now. */
  public List<Deputy> deputies(PersonId person) {
    return deputies.getOrDefault(person, List.of());
  }

  /** Every application, collection and group that a person owns. */
  public Set<ObjectId> owned(PersonId person) {
    Map<PersonId, Set<ObjectId>> known = owned;
    if (known == null) {
      Map<PersonId, Set<ObjectId>> all = new HashMap<>();
      for (Group group : groups.values()) {
        for (PersonId owner : group.owners()) {
          all.computeIfAbsent(owner, o -> new HashSet<>()).add(group.id());
        }
      }
      owners.forEach(
          (thing, people) ->
              people.forEach(owner -> all.computeIfAbsent(owner, o -> new HashSet<>()).add(thing)));
      known = all;
      owned = known;
    }
    return Collections.unmodifiableSet(known.getOrDefault(person, Set.of()));
  }

  /** Whom a person leads directly, in name order; departed ones too. */
  public List<PersonId> reports(PersonId manager) {
    if (lookup != null) {
      return lookup.exists(manager)
          ? lookup.having(Attributes.MANAGER, manager.value().toString())
          : List.of();
    }
    return names().reports().getOrDefault(manager, List.of());
  }

  /** Everyone below a person: reports, their reports and so on. Circles are survived. */
  public Set<PersonId> team(PersonId manager) {
    Set<PersonId> found = new LinkedHashSet<>();
    Deque<PersonId> open = new ArrayDeque<>(List.of(manager));
    while (!open.isEmpty()) {
      for (PersonId report : reports(open.poll())) {
        if (!report.equals(manager) && found.add(report)) {
          open.add(report);
        }
      }
    }
    return found;
  }

  /** Who leads a person, if the attribute names somebody who is known. */
  public Optional<PersonId> manager(PersonId person) {
    return person(person)
        .map(p -> p.value(Attributes.MANAGER))
        .flatMap(PersonId::read)
        .filter(id -> lookup == null ? people.containsKey(id) : lookup.exists(id));
  }

  /** The schema that filters are read against: all attributes that are defined. */
  public FilterSchema schema() {
    List<FilterSchema.Field> fields = new ArrayList<>();
    definitions.forEach((name, d) -> fields.add(new FilterSchema.Field(name, d.type())));
    return new FilterSchema(fields);
  }

  /**
   * Filters over these attributes, in words.
   *
   * @param named which people may be named; others are "a certain person"
   */
  public FilterWords words(Predicate<Person> named) {
    return new FilterWords(
        schema(),
        name -> definitions.containsKey(name) ? definitions.get(name).label() : name,
        id ->
            PersonId.read(id)
                .flatMap(this::person)
                .filter(named)
                .map(p -> p.name().displayed())
                .orElse("a certain person"));
  }

  /** Filters in words for whoever it may concern: no person is named. */
  public FilterWords words() {
    return words(person -> false);
  }

  /** Who signs in by this name; names are compared folded. */
  public Optional<PersonId> byUserName(String userName) {
    String folded = Folding.fold(userName);
    if (lookup != null) {
      List<PersonId> found = lookup.having(Attributes.USER_NAME, folded);
      return found.isEmpty() ? Optional.empty() : Optional.of(found.getLast());
    }
    return Optional.ofNullable(names().byUserName().get(folded));
  }

  /** Who has this mail address; more than one where two accounts share it. */
  public List<PersonId> byMail(String mail) {
    String folded = Folding.fold(mail);
    return lookup != null
        ? lookup.having(Attributes.MAIL, folded)
        : names().byMail().getOrDefault(folded, List.of());
  }

  // ---- who is in what

  /**
   * {@code members*}: people in the group directly, through any chain of groups, or by filter.
   * Cycles are survived.
   */
  public Set<PersonId> members(GroupId group) {
    if (lookup != null) {
      return lookup.members(group);
    }
    Set<PersonId> known = everyone.get(group);
    if (known != null) {
      return known;
    }
    Set<PersonId> found = new HashSet<>();
    for (GroupId each : below(group)) {
      found.addAll(direct(each));
    }
    Set<PersonId> kept = Collections.unmodifiableSet(found);
    everyone.put(group, kept);
    return kept;
  }

  /** People who are in this very group: by an administrator, from its source, or by its filter. */
  public Set<PersonId> direct(GroupId id) {
    Group group = groups.get(id);
    if (group == null) {
      return Set.of();
    }
    if (lookup != null) {
      return lookup.direct(id);
    }
    return group.form() instanceof FactValue.Form.ByFilter
        ? matching(nesting().filters().get(id))
        : group.people();
  }

  private Set<PersonId> matching(FilterParser.@Nullable Parsed parsed) {
    return parsed instanceof FilterParser.Parsed.Good good ? matching(good.filter()) : Set.of();
  }

  /** Everyone whose attributes fit a filter. */
  public Set<PersonId> matching(Filter filter) {
    if (lookup != null) {
      return lookup.matching(filter);
    }
    Set<PersonId> found = new HashSet<>();
    for (Person person : people.values()) {
      if (filter.matches(person::values)) {
        found.add(person.id());
      }
    }
    return found;
  }

  /** The group and all groups nested in it. */
  public Set<GroupId> below(GroupId group) {
    return reached(group, id -> groups.containsKey(id) ? groups.get(id).groups() : Set.of());
  }

  /** The group and all groups that contain it. */
  public Set<GroupId> above(GroupId group) {
    return reached(group, this::parents);
  }

  private static Set<GroupId> reached(GroupId from, Function<GroupId, Set<GroupId>> steps) {
    Set<GroupId> found = new LinkedHashSet<>();
    Deque<GroupId> open = new ArrayDeque<>(List.of(from));
    while (!open.isEmpty()) {
      GroupId next = open.poll();
      if (found.add(next)) {
        open.addAll(steps.apply(next));
      }
    }
    return found;
  }

  /** The groups that contain this one directly. */
  public Set<GroupId> parents(GroupId group) {
    return lookup != null
        ? byName(lookup.parents(group))
        : nesting().parents().getOrDefault(group, Set.of());
  }

  private Set<GroupId> byName(Set<GroupId> ids) {
    if (ids.size() < 2) {
      return ids;
    }
    Set<GroupId> sorted = new LinkedHashSet<>();
    ids.stream()
        .flatMap(id -> group(id).stream())
        .sorted()
        .forEach(group -> sorted.add(group.id()));
    return sorted;
  }

  /** Every group that a person is in, each with the shortest chain that leads there. */
  public List<Belonging> groupsOf(PersonId person) {
    Map<GroupId, List<GroupId>> chains = new LinkedHashMap<>();
    Deque<GroupId> open = new ArrayDeque<>();
    Set<GroupId> direct =
        lookup != null
            ? byName(lookup.directGroups(person))
            : belongings().getOrDefault(person, Set.of());
    for (GroupId group : direct) {
      chains.put(group, List.of(group));
      open.add(group);
    }
    while (!open.isEmpty()) {
      GroupId next = open.poll();
      for (GroupId parent : parents(next)) {
        if (!chains.containsKey(parent)) {
          List<GroupId> chain = new ArrayList<>(chains.get(next));
          chain.add(parent);
          chains.put(parent, List.copyOf(chain));
          open.add(parent);
        }
      }
    }
    List<Belonging> found = new ArrayList<>();
    chains.forEach((group, chain) -> found.add(new Belonging(group, chain)));
    return found;
  }

  // ---- powers

  /** What someone may do at this moment; only who is active may do anything. */
  public Authority authority(PersonId id) {
    Person person = person(id).orElse(null);
    if (person == null || person.status() != PersonStatus.ACTIVE) {
      return Authority.NONE;
    }
    List<Authority.Allowed> allowed = new ArrayList<>();
    for (Mandate mandate : mandates.values()) {
      if (mandate.holders().stream().anyMatch(holder -> covers(holder, id))) {
        Set<Power> powers = EnumSet.noneOf(Power.class);
        mandate.terms().powers().forEach(word -> Power.of(word).ifPresent(powers::add));
        allowed.add(new Authority.Allowed(mandate.terms().name(), powers, mandate.terms().reach()));
      }
    }
    return new Authority(id, allowed, owned(id));
  }

  /** Everyone active who has a mandate, in order of name. */
  public List<PersonId> mandated() {
    Set<PersonId> found = new HashSet<>();
    for (Mandate mandate : mandates.values()) {
      for (ObjectId holder : mandate.holders()) {
        switch (holder) {
          case PersonId id -> found.add(id);
          case GroupId id -> found.addAll(members(id));
          default -> {}
        }
      }
    }
    return found.stream()
        .flatMap(id -> person(id).stream())
        .filter(p -> p.status() == PersonStatus.ACTIVE)
        .sorted()
        .map(Person::id)
        .toList();
  }

  private boolean covers(ObjectId holder, PersonId person) {
    return switch (holder) {
      case PersonId id -> id.equals(person);
      case GroupId id -> members(id).contains(person);
      default -> false;
    };
  }

  private Names names() {
    Names known = names;
    if (known == null) {
      known = namesOf();
      names = known;
    }
    return known;
  }

  private Nesting nesting() {
    Nesting known = nesting;
    if (known == null) {
      known = nestingOf();
      nesting = known;
    }
    return known;
  }

  private Map<PersonId, Set<GroupId>> belongings() {
    Map<PersonId, Set<GroupId>> known = belongings;
    if (known == null) {
      known = belongingsOf();
      belongings = known;
    }
    return known;
  }

  private Names namesOf() {
    Map<String, PersonId> byUserName = new HashMap<>();
    Map<String, List<PersonId>> byMail = new HashMap<>();
    Map<PersonId, List<PersonId>> reports = new HashMap<>();
    for (Person person : people()) {
      manager(person.id())
          .ifPresent(m -> reports.computeIfAbsent(m, k -> new ArrayList<>()).add(person.id()));
      for (String name : person.values(Attributes.USER_NAME)) {
        byUserName.put(Folding.fold(name), person.id());
      }
      for (String mail : person.values(Attributes.MAIL)) {
        byMail.computeIfAbsent(Folding.fold(mail), m -> new ArrayList<>(1)).add(person.id());
      }
    }
    return new Names(byUserName, byMail, reports);
  }

  private Nesting nestingOf() {
    Map<GroupId, Set<GroupId>> parents = new HashMap<>();
    Map<GroupId, FilterParser.Parsed> filters = new HashMap<>();
    FilterSchema schema = schema();
    for (Group group : groups()) {
      if (group.form() instanceof FactValue.Form.ByFilter byFilter) {
        filters.put(group.id(), FilterParser.parse(byFilter.filter(), schema));
      }
      for (GroupId nested : group.groups()) {
        parents.computeIfAbsent(nested, g -> new LinkedHashSet<>()).add(group.id());
      }
    }
    return new Nesting(parents, filters);
  }

  private Map<PersonId, Set<GroupId>> belongingsOf() {
    Map<PersonId, Set<GroupId>> groupsOf = new HashMap<>();
    for (Group group : groups()) {
      Set<PersonId> direct =
          group.form() instanceof FactValue.Form.ByFilter
              ? matching(nesting().filters().get(group.id()))
              : group.people();
      for (PersonId person : direct) {
        groupsOf.computeIfAbsent(person, p -> new LinkedHashSet<>()).add(group.id());
      }
    }
    return groupsOf;
  }
}
