package eleutheria.core.access;

import static java.util.Objects.requireNonNull;

import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Group;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Spell;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;

/**
 * Who is entitled to what at one moment, in plain collections; never changes once built.
 *
 * <p>Structure: the grants in force by entitlement, by person and by group; everything else is
 * derived at the first query and kept. {@link Reference} says the same word for word and judges
 * this one over random histories.
 *
 * <p>Cost: building is linear in the grants ever made; the first query about an entitlement costs
 * its subjects' members, later ones a lookup. It stands behind what is only tried: drafts, effects,
 * tests. What is asked of the state as it is, the engine answers.
 */
@NullMarked
final class PlainAccess implements AccessView {
  private final Reference reference;
  private final Instant at;
  private final DirectoryView directory;
  private final AppsView apps;
  private final Map<GrantId, Grant> grants = new LinkedHashMap<>();
  private final Map<EntitlementId, List<Grant>> byEntitlement = new HashMap<>();
  private final Map<PersonId, List<Grant>> byPerson = new HashMap<>();
  private final Map<GroupId, List<Grant>> byGroup = new HashMap<>();
  private final List<Grant> byFilter = new ArrayList<>();
  private final Map<EntitlementId, Set<PersonId>> entitled = new ConcurrentHashMap<>();
  private final Map<EntitlementId, Set<PersonId>> holders = new ConcurrentHashMap<>();
  private final Map<String, Set<PersonId>> filters = new ConcurrentHashMap<>();

  private PlainAccess(Facts facts, DirectoryView directory, AppsView apps, Instant at) {
    this.reference = new Reference(facts);
    this.at = at;
    this.directory = directory;
    this.apps = apps;
  }

  static PlainAccess of(Facts facts, DirectoryView directory, Instant at) {
    PlainAccess view = new PlainAccess(facts, directory, AppsView.of(facts, directory, at), at);
    for (FactKey.Grant key : facts.keys(FactKey.Grant.class)) {
      Optional<Spell> spell = facts.at(key, at);
      if (spell.isPresent()) {
        FactValue.Given given = (FactValue.Given) spell.get().value();
        if (view.apps.entitlement(given.entitlement()).isPresent()) {
          view.add(new Grant(key.subject(), given, spell.get().from(), spell.get().until()));
        }
      }
    }
    for (Map<?, List<Grant>> lists : List.of(view.byEntitlement, view.byPerson, view.byGroup)) {
      lists.values().forEach(list -> list.sort(Grant.OLDEST_FIRST));
    }
    return view;
  }

  private void add(Grant grant) {
    grants.put(grant.id(), grant);
    byEntitlement.computeIfAbsent(grant.given().entitlement(), e -> new ArrayList<>()).add(grant);
    switch (grant.given().subject()) {
      case FactValue.Subject.OfPerson s ->
          byPerson.computeIfAbsent(s.person(), p -> new ArrayList<>(2)).add(grant);
      case FactValue.Subject.OfGroup s ->
          byGroup.computeIfAbsent(s.group(), g -> new ArrayList<>(2)).add(grant);
      case FactValue.Subject.ByFilter s -> byFilter.add(grant);
    }
  }

  @Override
  public DirectoryView directory() {
    return directory;
  }

  @Override
  public AppsView apps() {
    return apps;
  }

  @Override
  public Instant at() {
    return directory.at();
  }

  @Override
  public Optional<Grant> grant(GrantId id) {
    return Optional.ofNullable(grants.get(id));
  }

  @Override
  public List<Grant> grants(EntitlementId entitlement) {
    return byEntitlement.getOrDefault(entitlement, List.of());
  }

  @Override
  public List<Grant> grantsTo(PersonId person) {
    return byPerson.getOrDefault(person, List.of());
  }

  @Override
  public List<Grant> grantsTo(GroupId group) {
    return byGroup.getOrDefault(group, List.of());
  }

  // ---- entitled, holds

  @Override
  public Set<PersonId> members(FactValue.Subject subject) {
    return switch (subject) {
      case FactValue.Subject.OfPerson s ->
          directory.person(s.person()).isPresent() ? Set.of(s.person()) : Set.of();
      case FactValue.Subject.OfGroup s -> directory.members(s.group());
      case FactValue.Subject.ByFilter s -> filters.computeIfAbsent(s.filter(), this::fitting);
    };
  }

  private Set<PersonId> fitting(String filter) {
    return FilterParser.parse(filter, directory.schema()) instanceof FilterParser.Parsed.Good good
        ? directory.matching(good.filter())
        : Set.of();
  }

  @Override
  public Set<PersonId> entitled(EntitlementId id) {
    return entitled.computeIfAbsent(
        id,
        e -> {
          Set<PersonId> found = new HashSet<>();
          grants(e).forEach(grant -> found.addAll(members(grant.given().subject())));
          return Collections.unmodifiableSet(found);
        });
  }

  @Override
  public Set<PersonId> holders(EntitlementId id) {
    return holders.computeIfAbsent(
        id,
        e -> {
          if (!apps.open(e)) {
            return Set.of();
          }
          Set<PersonId> found = new HashSet<>(entitled(e));
          found.removeIf(person -> !active(person));
          return Collections.unmodifiableSet(found);
        });
  }

  private boolean active(PersonId id) {
    return directory.person(id).filter(p -> p.status() == PersonStatus.ACTIVE).isPresent();
  }

  @Override
  public boolean entitled(PersonId person, EntitlementId entitlement) {
    return entitled(entitlement).contains(person);
  }

  @Override
  public boolean holds(PersonId person, EntitlementId entitlement) {
    return apps.open(entitlement) && active(person) && entitled(person, entitlement);
  }

  @Override
  public List<Entitlement> entitlements(PersonId person) {
    return apps.entitlements().stream().filter(e -> entitled(person, e.id())).toList();
  }

  @Override
  public List<Entitlement> holdings(PersonId person) {
    return active(person)
        ? entitlements(person).stream().filter(e -> apps.open(e.id())).toList()
        : List.of();
  }

  // ---- grounds

  @Override
  public List<Ground> grounds(PersonId person, EntitlementId entitlement) {
    List<Ground> found = new ArrayList<>();
    for (Grant grant : grants(entitlement)) {
      if (!members(grant.given().subject()).contains(person)) {
        continue;
      }
      switch (grant.given().subject()) {
        case FactValue.Subject.OfPerson s ->
            found.addFirst(
                new Ground(grant, List.of(), Set.of(), 0, Map.of(), until(grant, person)));
        case FactValue.Subject.ByFilter s ->
            found.add(
                new Ground(
                    grant,
                    List.of(),
                    Set.of(),
                    0,
                    matched(person, s.filter()),
                    until(grant, person)));
        case FactValue.Subject.OfGroup s -> found.add(through(person, grant, s.group()));
      }
    }
    return found;
  }

  private Instant until(Grant grant, PersonId person) {
    return reference.coveredUntil(grant, person, at);
  }

  @Override
  public @Nullable Instant ends(PersonId person, EntitlementId entitlement) {
    Instant end =
        holds(person, entitlement)
            ? reference.until(person, entitlement, at)
            : entitled(person, entitlement)
                ? reference.entitledUntil(person, entitlement, at)
                : Moments.FOREVER;
    return end.equals(Moments.FOREVER) ? null : end;
  }

  @Override
  public @Nullable Instant entitledUntil(PersonId person, EntitlementId entitlement) {
    Instant end =
        entitled(person, entitlement)
            ? reference.entitledUntil(person, entitlement, at)
            : Moments.FOREVER;
    return end.equals(Moments.FOREVER) ? null : end;
  }

  private Ground through(PersonId person, Grant grant, GroupId subject) {
    Set<GroupId> below = directory.below(subject);
    Set<GroupId> own = new LinkedHashSet<>();
    for (GroupId group : below) {
      if (directory.direct(group).contains(person)) {
        own.add(group);
      }
    }
    Set<Ground.Edge> edges = new LinkedHashSet<>();
    own.forEach(group -> edges.add(new Ground.Edge(person, group, byFilter(group))));
    Set<GroupId> reached = new LinkedHashSet<>(own);
    Map<GroupId, List<GroupId>> chains = new LinkedHashMap<>();
    own.forEach(group -> chains.put(group, List.of(group)));
    Deque<GroupId> open = new ArrayDeque<>(own);
    while (!open.isEmpty()) {
      GroupId next = open.poll();
      for (GroupId parent : directory.parents(next)) {
        if (!below.contains(parent)) {
          continue;
        }
        edges.add(new Ground.Edge(next, parent, false));
        if (reached.add(parent)) {
          List<GroupId> chain = new ArrayList<>(chains.get(next));
          chain.add(parent);
          chains.put(parent, List.copyOf(chain));
          open.add(parent);
        }
      }
    }
    List<GroupId> chain = requireNonNull(chains.get(subject));
    int ways = ways(person, subject, edges);
    Group first = directory.group(chain.getFirst()).orElseThrow();
    Map<String, List<String>> matched =
        first.form() instanceof FactValue.Form.ByFilter f ? matched(person, f.filter()) : Map.of();
    return new Ground(grant, chain, edges, ways - 1, matched, until(grant, person));
  }

  private boolean byFilter(GroupId group) {
    return directory
        .group(group)
        .filter(g -> g.form() instanceof FactValue.Form.ByFilter)
        .isPresent();
  }

  /** How many ways without a circle lead from the person to the subject, up to a limit. */
  private static int ways(PersonId person, GroupId subject, Set<Ground.Edge> edges) {
    Map<ObjectId, List<GroupId>> up = new HashMap<>();
    edges.forEach(e -> up.computeIfAbsent(e.from(), f -> new ArrayList<>()).add(e.to()));
    return ways(person, subject, up, new HashSet<>(), 0);
  }

  private static int ways(
      ObjectId from,
      GroupId subject,
      Map<ObjectId, List<GroupId>> up,
      Set<ObjectId> on,
      int count) {
    if (from.equals(subject)) {
      return count + 1;
    }
    if (!on.add(from)) {
      return count;
    }
    int found = count;
    for (GroupId to : up.getOrDefault(from, List.of())) {
      if (found >= Ground.MOST_WAYS) {
        break;
      }
      found = ways(to, subject, up, on, found);
    }
    on.remove(from);
    return found;
  }

  private Map<String, List<String>> matched(PersonId id, String filter) {
    Person person = directory.person(id).orElseThrow();
    Map<String, List<String>> values = new TreeMap<>();
    if (FilterParser.parse(filter, directory.schema()) instanceof FilterParser.Parsed.Good good) {
      good.filter()
          .matches(
              name -> {
                List<String> own = person.values(name);
                if (!own.isEmpty()) {
                  values.put(name, own);
                }
                return own;
              });
    }
    return values;
  }

  // ---- what has power over access

  @Override
  public Collection<EntitlementId> leadsTo(GroupId group) {
    Set<EntitlementId> found = new LinkedHashSet<>();
    for (GroupId above : directory.above(group)) {
      grantsTo(above).forEach(grant -> found.add(grant.given().entitlement()));
    }
    return found;
  }
}
