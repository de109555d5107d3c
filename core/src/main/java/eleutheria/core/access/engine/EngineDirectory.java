package eleutheria.core.access.engine;

import eleutheria.core.directory.Lookup;
import eleutheria.core.directory.NameOrder;
import eleutheria.core.directory.Person;
import eleutheria.core.directory.SourceLink;
import eleutheria.core.directory.filter.Filter;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import java.time.Instant;
import java.util.AbstractList;
import java.util.AbstractMap;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/** People and groups of a snapshot: a person is put together from columns when one is asked for. */
public final class EngineDirectory implements Lookup {
  private final Snapshot snapshot;
  private final Store store;
  private final Instant next;
  private volatile @Nullable List<PersonId> everyone;

  /**
   * @param next the next moment at which something begins or ends by itself
   */
  public EngineDirectory(Snapshot snapshot, @Nullable Instant next) {
    this.snapshot = snapshot;
    this.store = snapshot.store;
    this.next = next == null ? Moments.FOREVER : next;
  }

  @Override
  public boolean exists(PersonId id) {
    int person = snapshot.number(id);
    return person >= 0 && snapshot.exists(person);
  }

  @Override
  public Optional<Person> person(PersonId id, List<SourceLink> links) {
    int person = snapshot.number(id);
    if (person < 0 || !snapshot.exists(person)) {
      return Optional.empty();
    }
    int name = snapshot.state.names().get(person) - 1;
    FactValue.PersonName names = name < 0 ? FactValue.PersonName.ERASED : store.name(name);
    byte[] key = name < 0 ? NameOrder.key(names) : store.nameKey(name);
    Rows statuses = store.rows(Table.STATUS);
    int row = snapshot.state.statuses().get(person) - 1;
    return Optional.of(
        new Person(
            id,
            names,
            key,
            row < 0
                ? FactValue.Standing.of(PersonStatus.EXPECTED)
                : new FactValue.Standing(
                    PersonStatus.values()[statuses.value(row)], store.stated(row)),
            row < 0 ? snapshot.at() : Store.instant(statuses.from(row)),
            row < 0 ? snapshot.at() : Store.instant(store.begun(person, row)),
            row < 0 ? Moments.FOREVER : Store.instant(statuses.until(row)),
            row < 0 ? null : following(statuses, person, statuses.until(row)),
            new Values(person),
            links));
  }

  /** The status that begins when another ends. */
  private @Nullable PersonStatus following(Rows statuses, int person, long at) {
    if (at == Rows.FOREVER) {
      return null;
    }
    synchronized (store) {
      for (int row = statuses.newest(person); row >= 0; row = statuses.earlier(row)) {
        if (statuses.on(row, at)) {
          return PersonStatus.values()[statuses.value(row)];
        }
      }
      return null;
    }
  }

  /** A person's attributes, each read when it is asked for: a line in a list needs three. */
  private final class Values extends AbstractMap<String, List<String>> {
    private final int person;

    Values(int person) {
      this.person = person;
    }

    @Override
    public @Nullable List<String> get(@Nullable Object name) {
      return name instanceof String text ? of(store.attribute(text)) : null;
    }

    private @Nullable List<String> of(int attribute) {
      if (attribute < 0 || attribute >= snapshot.state.columns().length) {
        return null;
      }
      int value = snapshot.state.columns()[attribute].get(person);
      return value == Words.NONE ? null : store.words(attribute).texts(value);
    }

    @Override
    public boolean containsKey(@Nullable Object name) {
      return get(name) != null;
    }

    @Override
    public Set<Entry<String, List<String>>> entrySet() {
      Map<String, List<String>> values = new TreeMap<>();
      for (int attribute = 0; attribute < snapshot.state.columns().length; attribute++) {
        List<String> found = of(attribute);
        if (found != null) {
          values.put(store.attributeName(attribute), found);
        }
      }
      return Collections.unmodifiableSet(values.entrySet());
    }
  }

  @Override
  public List<PersonId> everyone() {
    List<PersonId> known = everyone;
    if (known == null) {
      known = inOrder(snapshot.state.people());
      everyone = known;
    }
    return known;
  }

  private List<PersonId> inOrder(RoaringBitmap people) {
    int[] numbers = new int[people.getCardinality()];
    int[] at = {0};
    snapshot
        .state
        .order()
        .walk(
            people,
            person -> {
              numbers[at[0]++] = person;
              return true;
            });
    return new AbstractList<>() {
      @Override
      public PersonId get(int index) {
        return store.person(numbers[index]);
      }

      @Override
      public int size() {
        return numbers.length;
      }
    };
  }

  @Override
  public List<PersonId> having(String attribute, String folded) {
    int number = store.attribute(attribute);
    if (number < 0) {
      return List.of();
    }
    int[] codes = store.words(number).folded(folded);
    if (codes.length == 0) {
      return List.of();
    }
    RoaringBitmap found = snapshot.having(number, codes[0]);
    for (int i = 1; i < codes.length; i++) {
      found = RoaringBitmap.or(found, snapshot.having(number, codes[i]));
    }
    return inOrder(found);
  }

  @Override
  public Set<PersonId> matching(Filter filter) {
    return new PersonSet(
        store,
        FilterProgram.of(filter, store)
            .everyone(snapshot.state.columns(), snapshot.state.people(), store.people.size()));
  }

  @Override
  public Set<PersonId> listed(GroupId id) {
    int group = snapshot.number(id);
    return group < 0
        ? Set.of()
        : new PersonSet(store, Snapshot.or(snapshot.state.listed().get(group)));
  }

  @Override
  public Set<GroupId> nested(GroupId id) {
    int group = snapshot.number(id);
    return group < 0 ? Set.of() : groups(Snapshot.or(snapshot.state.children().get(group)));
  }

  @Override
  public Set<GroupId> parents(GroupId id) {
    int group = snapshot.number(id);
    if (group < 0) {
      return Set.of();
    }
    IntList existing = new IntList(4);
    for (int parent : Snapshot.or(snapshot.state.parents().get(group))) {
      if (snapshot.state.groups().contains(parent)) {
        existing.add(parent);
      }
    }
    return groups(existing.toArray());
  }

  private Set<GroupId> groups(int[] numbers) {
    Set<GroupId> found = new LinkedHashSet<>();
    for (int number : numbers) {
      found.add(store.group(number));
    }
    return found;
  }

  @Override
  public Set<PersonId> direct(GroupId id) {
    int group = snapshot.number(id);
    return group < 0 ? Set.of() : new PersonSet(store, snapshot.direct(group));
  }

  @Override
  public Set<PersonId> members(GroupId id) {
    int group = snapshot.number(id);
    return group < 0
        ? Set.of()
        : new PersonSet(store, Snapshot.or(snapshot.state.members().get(group)));
  }

  @Override
  public Set<GroupId> directGroups(PersonId id) {
    int person = snapshot.number(id);
    return person < 0 ? Set.of() : groups(snapshot.directGroups(person));
  }

  @Override
  public Instant next() {
    return next;
  }

  @Override
  public Set<GroupId> crossed(Instant after, Instant until) {
    Delta delta = store.between(Store.micros(after), Store.micros(until));
    Set<GroupId> found = new HashSet<>();
    for (Table table : List.of(Table.MEMBERS, Table.EDGES)) {
      Rows rows = store.rows(table);
      for (IntList list : List.of(delta.on(table), delta.off(table))) {
        for (int i = 0; i < list.size(); i++) {
          found.add(store.group(rows.key(list.get(i))));
        }
      }
    }
    return found;
  }
}
