package eleutheria.core.access.engine;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.Grant;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.NameOrder;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Columns;
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
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.ValueType;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.ObjIntConsumer;
import org.jspecify.annotations.Nullable;

/**
 * All facts that access follows from, past and to come, in columns; and the numbers of everything
 * that they name. All states of one engine share it.
 *
 * <p>People known when it is filled are numbered in the order of their names, so that "the first
 * fifty by name" of any set are its fifty lowest numbers. {@link Order} covers who comes or is
 * renamed later.
 *
 * <p>Written by one thread at a time, which holds this object; so does whoever goes along the
 * chains of rows, since a trial puts rows there and takes them away again. What readers may do
 * without is told at {@link Rows}.
 */
public final class Store implements Columns {
  static final int PERSON = 0;
  static final int GROUP = 1;
  static final int FILTER = 2;

  final Ids people = new Ids();
  final Ids groups = new Ids();
  final Ids entitlements = new Ids();
  final Ids applications = new Ids();
  final TriedFilters tried = new TriedFilters();
  final Ids grants = new Ids();
  private final Ids.Typed<PersonId> personIds = new Ids.Typed<>(people, PersonId::new);
  private final Ids.Typed<GroupId> groupIds = new Ids.Typed<>(groups, GroupId::new);
  private final Ids.Typed<ApplicationId> applicationIds =
      new Ids.Typed<>(applications, ApplicationId::new);
  private final Ids.Typed<EntitlementId> entitlementIds =
      new Ids.Typed<>(entitlements, EntitlementId::new);
  private final Rows[] tables = new Rows[Table.values().length];

  private final Map<String, Integer> attributeNumbers = new HashMap<>();
  private @Nullable String[] attributeNames = new String[8];
  private @Nullable Words[] words = new Words[8];
  private volatile int attributeCount;

  private final Map<String, Integer> filterNumbers = new HashMap<>();
  private @Nullable String[] filters = new String[8];

  private final Map<FactValue.PersonName, Integer> nameNumbers = new HashMap<>();
  private FactValue.@Nullable PersonName[] names = new FactValue.PersonName[16];
  private byte[] @Nullable [] nameKeys = new byte[16][];
  private int nameCount;

  /** How many people were numbered in the order of their names, and the names then. */
  private int ordered;

  private int[] orderedNames = IntList.NONE;

  private final Words reasons = new Words();

  /** Days that sources stated too late to be kept, by the row of the status. */
  private final Map<Integer, LocalDate> statedDays = new ConcurrentHashMap<>();

  public Store() {
    Arrays.setAll(tables, i -> i == Table.GRANTS.ordinal() ? new Rows(16, 2) : new Rows(16));
  }

  Rows rows(Table table) {
    return tables[table.ordinal()];
  }

  // ---- numbers

  /** When the unbroken time began in which somebody is active or paused, who is so in a row. */
  long begun(int person, int row) {
    Rows statuses = rows(Table.STATUS);
    long begun = statuses.from(row);
    if (!here(statuses, row) || (statuses.newest(person) == row && statuses.earlier(row) < 0)) {
      return begun;
    }
    synchronized (this) {
      boolean found = true;
      while (found) {
        found = false;
        for (int other = statuses.newest(person); other >= 0; other = statuses.earlier(other)) {
          if (!statuses.dropped(other) && statuses.until(other) == begun && here(statuses, other)) {
            begun = statuses.from(other);
            found = true;
          }
        }
      }
    }
    return begun;
  }

  private static boolean here(Rows statuses, int row) {
    return PersonStatus.values()[statuses.value(row)].here();
  }

  static long micros(Instant instant) {
    return Math.addExact(
        Math.multiplyExact(instant.getEpochSecond(), 1_000_000L), instant.getNano() / 1_000);
  }

  static Instant instant(long micros) {
    if (micros == Rows.FOREVER) {
      return Moments.FOREVER;
    }
    return Instant.ofEpochSecond(
        Math.floorDiv(micros, 1_000_000L), Math.floorMod(micros, 1_000_000L) * 1_000L);
  }

  static int subject(int kind, int number) {
    return number << 2 | kind;
  }

  static int kindOf(int subject) {
    return subject & 3;
  }

  /** The number of the person, group or filter. */
  static int subjectOf(int subject) {
    return subject >>> 2;
  }

  int attributeCount() {
    return attributeCount;
  }

  /** The number of an attribute, or −1. */
  int attribute(String name) {
    for (int i = 0; i < attributeCount; i++) {
      if (name.equals(attributeNames[i])) {
        return i;
      }
    }
    return -1;
  }

  String attributeName(int number) {
    return requireNonNull(attributeNames[number]);
  }

  Words words(int attribute) {
    return requireNonNull(words[attribute]);
  }

  private int attributeNumber(String name) {
    Integer found = attributeNumbers.get(name);
    if (found != null) {
      return found;
    }
    int number = attributeCount;
    if (number == words.length) {
      words = Arrays.copyOf(words, number * 2);
      attributeNames = Arrays.copyOf(attributeNames, number * 2);
    }
    words[number] = new Words();
    attributeNames[number] = name;
    attributeNumbers.put(name, number);
    attributeCount = number + 1;
    return number;
  }

  String filter(int number) {
    return requireNonNull(filters[number]);
  }

  /** The number of a filter that is or was in use, or −1. */
  synchronized int filterKnown(String text) {
    return filterNumbers.getOrDefault(text, -1);
  }

  private synchronized int filterNumber(String text) {
    Integer found = filterNumbers.get(text);
    if (found != null) {
      return found;
    }
    int number = filterNumbers.size();
    if (number == filters.length) {
      filters = Arrays.copyOf(filters, number * 2);
    }
    filters[number] = text;
    filterNumbers.put(text, number);
    return number;
  }

  FactValue.PersonName name(int number) {
    return requireNonNull(names[number]);
  }

  byte[] nameKey(int number) {
    return requireNonNull(nameKeys[number]);
  }

  private int nameNumber(FactValue.PersonName name, byte @Nullable [] key) {
    Integer found = nameNumbers.get(name);
    if (found != null) {
      return found;
    }
    int number = nameCount++;
    if (number == names.length) {
      names = Arrays.copyOf(names, number * 2);
      nameKeys = Arrays.copyOf(nameKeys, number * 2);
    }
    names[number] = name;
    nameKeys[number] = key == null ? NameOrder.key(name) : key;
    nameNumbers.put(name, number);
    return number;
  }

  int ordered() {
    return ordered;
  }

  /** The name by which a person was put in order, or −1. */
  int orderedName(int person) {
    return person < ordered ? orderedNames[person] : -1;
  }

  PersonId person(int number) {
    return personIds.get(number);
  }

  GroupId group(int number) {
    return groupIds.get(number);
  }

  ApplicationId application(int number) {
    return applicationIds.get(number);
  }

  EntitlementId entitlement(int number) {
    return entitlementIds.get(number);
  }

  GrantId grant(int row) {
    return new GrantId(grants.id(rows(Table.GRANTS).key(row)));
  }

  /** The entitlement of a grant. */
  int given(int row) {
    return rows(Table.GRANTS).extra(row) >>> 2;
  }

  GrantSource source(int row) {
    return GrantSource.values()[rows(Table.GRANTS).extra(row) & 3];
  }

  int subject(int row) {
    return rows(Table.GRANTS).value(row);
  }

  Grant grantOf(int row) {
    Rows rows = rows(Table.GRANTS);
    return new Grant(grant(row), givenOf(row), instant(rows.from(row)), instant(rows.until(row)));
  }

  FactValue.Given givenOf(int row) {
    int subject = subject(row);
    int number = subjectOf(subject);
    FactValue.Subject to =
        switch (kindOf(subject)) {
          case PERSON -> new FactValue.Subject.OfPerson(person(number));
          case GROUP -> new FactValue.Subject.OfGroup(group(number));
          default -> new FactValue.Subject.ByFilter(filter(number));
        };
    return new FactValue.Given(to, entitlement(given(row)), source(row));
  }

  /** The row of a grant that is true at a moment, by the grant's number; −1 if there is none. */
  synchronized int grantRow(int number, long at) {
    Rows rows = rows(Table.GRANTS);
    for (int row = rows.newest(number); row >= 0; row = rows.earlier(row)) {
      if (rows.on(row, at)) {
        return row;
      }
    }
    return -1;
  }

  // ---- filling

  /** Everything of one state of facts. */
  public static Store of(Facts facts) {
    Store store = new Store();
    Map<UUID, FactValue.PersonName> last = new LinkedHashMap<>();
    facts.forEach(
        (key, spells) -> {
          if (key instanceof FactKey.Existence e && e.subject() instanceof PersonId id) {
            last.putIfAbsent(id.value(), FactValue.PersonName.ERASED);
          } else if (key instanceof FactKey.Naming n) {
            last.put(n.subject().value(), (FactValue.PersonName) spells.getLast().value());
          }
        });
    List<Known> known = new ArrayList<>();
    last.forEach(
        (id, name) ->
            known.add(
                new Known(
                    id.getMostSignificantBits(),
                    id.getLeastSignificantBits(),
                    name,
                    NameOrder.key(name))));
    store.people(known);
    facts.forEach(
        (key, spells) -> {
          for (Spell spell : spells) {
            store.open(key, spell);
          }
        });
    return store;
  }

  /** A person and the name to be put in order by. */
  public record Known(long high, long low, FactValue.PersonName name, byte[] key) {}

  /**
   * Numbers people in the order of their names; once, before anything else is filled in.
   *
   * @throws IllegalStateException if there are people already
   */
  public void people(List<Known> known) {
    if (people.size() > 0) {
      throw new IllegalStateException("there are people already");
    }
    Known[] sorted = known.toArray(Known[]::new);
    Arrays.parallelSort(
        sorted,
        (one, other) -> {
          int byName = Arrays.compareUnsigned(one.key(), other.key());
          if (byName != 0) {
            return byName;
          }
          int high = Long.compareUnsigned(one.high(), other.high());
          return high != 0 ? high : Long.compareUnsigned(one.low(), other.low());
        });
    orderedNames = new int[sorted.length];
    for (int i = 0; i < sorted.length; i++) {
      people.number(sorted[i].high(), sorted[i].low());
      orderedNames[i] = nameNumber(sorted[i].name(), sorted[i].key());
    }
    ordered = sorted.length;
  }

  // ---- filling from rows of a database, which come as halves of ids and microseconds

  public void exists(long high, long low, boolean person, long from, long until) {
    if (person) {
      rows(Table.PEOPLE).add(people.number(high, low), 0, 0, from, until);
    } else {
      rows(Table.GROUPS).add(groups.number(high, low), 0, 0, from, until);
    }
  }

  public void named(
      long high, long low, FactValue.PersonName name, byte[] key, long from, long until) {
    rows(Table.NAMES).add(people.number(high, low), nameNumber(name, key), 0, from, until);
  }

  public void status(
      long high, long low, PersonStatus status, @Nullable LocalDate stated, long from, long until) {
    stated(
        rows(Table.STATUS).add(people.number(high, low), status.ordinal(), 0, from, until), stated);
  }

  private void stated(int row, @Nullable LocalDate stated) {
    if (stated == null) {
      statedDays.remove(row);
    } else {
      statedDays.put(row, stated);
    }
  }

  /** The day that a source stated for a status, where it was told too late. */
  @Nullable LocalDate stated(int row) {
    return statedDays.get(row);
  }

  /**
   * @param slot which of a person's values of it; empty where there is one
   */
  public void attribute(
      long high, long low, String name, String slot, String text, long from, long until) {
    int number = attributeNumber(name);
    int row =
        rows(Table.ATTRIBUTES)
            .add(
                people.number(high, low),
                words(number).code(text),
                number << 1 | (slot.isEmpty() ? 0 : 1),
                from,
                until);
    if (!slot.isEmpty()) {
      slots.put(row, slot);
    }
  }

  public void defined(String name, ValueType type, long from, long until) {
    rows(Table.DEFINED).add(attributeNumber(name), type.ordinal(), 0, from, until);
  }

  /**
   * @param filter null for a listed or mirrored group
   */
  public void form(long high, long low, @Nullable String filter, long from, long until) {
    int form = filter == null ? 0 : filterNumber(filter) + 1;
    rows(Table.FORMS).add(groups.number(high, low), form, 0, from, until);
  }

  /**
   * A group whose members follow: rows come in the order of groups, so its number is looked up
   * once.
   *
   * @return its number
   */
  public int groupNumber(long high, long low) {
    return groups.number(high, low);
  }

  public void member(int group, long high, long low, long from, long until) {
    rows(Table.MEMBERS).add(group, people.number(high, low), 0, from, until);
  }

  public void nested(int group, long high, long low, long from, long until) {
    rows(Table.EDGES).add(group, groups.number(high, low), 0, from, until);
  }

  public int personSubject(long high, long low) {
    return subject(PERSON, people.number(high, low));
  }

  public int groupSubject(long high, long low) {
    return subject(GROUP, groups.number(high, low));
  }

  public int filterSubject(String filter) {
    return subject(FILTER, filterNumber(filter));
  }

  public int entitlementNumber(long high, long low) {
    return entitlements.number(high, low);
  }

  public void grant(
      long high,
      long low,
      int subject,
      int entitlement,
      GrantSource source,
      long from,
      long until) {
    rows(Table.GRANTS)
        .add(grants.number(high, low), subject, entitlement << 2 | source.ordinal(), from, until);
  }

  public void reason(long high, long low, String text, long from, long until) {
    rows(Table.REASONS).add(grants.number(high, low), reasons.code(text), 0, from, until);
  }

  public void role(long high, long low, long appHigh, long appLow, long from, long until) {
    rows(Table.ROLES)
        .add(entitlements.number(high, low), applications.number(appHigh, appLow), 0, from, until);
  }

  public void state(long high, long low, ApplicationState state, long from, long until) {
    rows(Table.STATES).add(applications.number(high, low), state.ordinal(), 0, from, until);
  }

  // ---- moves

  private record Content(Table table, int key, int value, int extra) {}

  // By row, which of the values of an attribute that has many; nothing follows from it.
  private final Map<Integer, String> slots = new HashMap<>();

  private void slot(int row, FactKey key) {
    if (key instanceof FactKey.Attribute attribute && !attribute.slot().isEmpty()) {
      slots.put(row, attribute.slot());
    }
  }

  private void open(FactKey key, Spell spell) {
    Content content = content(key, spell.value());
    if (content != null) {
      slot(add(content, spell), key);
    }
  }

  private int add(Content content, Spell spell) {
    int row =
        rows(content.table())
            .add(
                content.key(),
                content.value(),
                content.extra(),
                micros(spell.from()),
                micros(spell.until()));
    if (spell.value() instanceof FactValue.Standing standing) {
      stated(row, standing.stated());
    }
    return row;
  }

  /** The columns of a fact; null where access does not follow from it. */
  private @Nullable Content content(FactKey key, FactValue value) {
    return switch (key) {
      case FactKey.Existence k ->
          switch (k.subject()) {
            case PersonId id -> new Content(Table.PEOPLE, people.number(id.value()), 0, 0);
            case GroupId id -> new Content(Table.GROUPS, groups.number(id.value()), 0, 0);
            default -> null;
          };
      case FactKey.Naming k ->
          new Content(
              Table.NAMES,
              people.number(k.subject().value()),
              nameNumber((FactValue.PersonName) value, null),
              0);
      case FactKey.Status k ->
          new Content(
              Table.STATUS,
              people.number(k.subject().value()),
              ((FactValue.Standing) value).status().ordinal(),
              0);
      case FactKey.Attribute k -> {
        int number = attributeNumber(k.name());
        int code = words(number).code(((FactValue.Text) value).text());
        int extra = number << 1 | (k.slot().isEmpty() ? 0 : 1);
        yield new Content(Table.ATTRIBUTES, people.number(k.subject().value()), code, extra);
      }
      case FactKey.Defined k ->
          new Content(
              Table.DEFINED,
              attributeNumber(k.attribute()),
              ((FactValue.Definition) value).type().ordinal(),
              0);
      case FactKey.GroupForm k ->
          new Content(
              Table.FORMS,
              groups.number(k.subject().value()),
              value instanceof FactValue.Form.ByFilter f ? filterNumber(f.filter()) + 1 : 0,
              0);
      case FactKey.Membership k -> {
        int group = groups.number(k.subject().value());
        yield switch (k.member()) {
          case PersonId id -> new Content(Table.MEMBERS, group, people.number(id.value()), 0);
          case GroupId id -> new Content(Table.EDGES, group, groups.number(id.value()), 0);
          default -> null;
        };
      }
      case FactKey.Grant k -> {
        FactValue.Given given = (FactValue.Given) value;
        int subject =
            switch (given.subject()) {
              case FactValue.Subject.OfPerson s ->
                  subject(PERSON, people.number(s.person().value()));
              case FactValue.Subject.OfGroup s -> subject(GROUP, groups.number(s.group().value()));
              case FactValue.Subject.ByFilter s -> subject(FILTER, filterNumber(s.filter()));
            };
        yield new Content(
            Table.GRANTS,
            grants.number(k.subject().value()),
            subject,
            entitlements.number(given.entitlement().value()) << 2 | given.source().ordinal());
      }
      case FactKey.GrantReason k ->
          new Content(
              Table.REASONS,
              grants.number(k.subject().value()),
              reasons.code(((FactValue.Text) value).text()),
              0);
      case FactKey.Entitlement k ->
          new Content(
              Table.ROLES,
              entitlements.number(k.subject().value()),
              applications.number(((FactValue.Role) value).application().value()),
              0);
      case FactKey.AppState k ->
          new Content(
              Table.STATES,
              applications.number(k.subject().value()),
              ((FactValue.AppState) value).state().ordinal(),
              0);
      default -> null;
    };
  }

  /**
   * Writes a move.
   *
   * @param touched is told each row that it touches, before it is changed
   */
  void take(Move move, Touched touched) {
    switch (move) {
      case Move.Opened m -> {
        Content c = content(m.key(), m.spell().value());
        if (c != null) {
          int row = add(c, m.spell());
          slot(row, m.key());
          touched.row(c.table(), row, true);
        }
      }
      case Move.Ended m -> {
        Content c = content(m.key(), m.spell().value());
        if (c != null) {
          Rows rows = rows(c.table());
          int row = rows.starting(c.key(), c.value(), c.extra(), micros(m.spell().from()));
          touched.row(c.table(), row, false);
          rows.until(row, micros(m.until()));
        }
      }
      case Move.Dropped m -> {
        Content c = content(m.key(), m.spell().value());
        if (c != null) {
          Rows rows = rows(c.table());
          int row = rows.starting(c.key(), c.value(), c.extra(), micros(m.spell().from()));
          touched.row(c.table(), row, false);
          rows.drop(row);
        }
      }
    }
  }

  /** Is told when a row would be true; never, if it begins at {@link Long#MAX_VALUE}. */
  interface Tried {
    void row(Table table, int row, long from, long until);
  }

  /** Puts a move's row in place without touching any that is there; see {@link #truncate}. */
  void tryOut(Move move, Tried tried) {
    switch (move) {
      case Move.Opened m -> {
        Content c = content(m.key(), m.spell().value());
        if (c != null) {
          int row = add(c, m.spell());
          slot(row, m.key());
          tried.row(c.table(), row, micros(m.spell().from()), micros(m.spell().until()));
        }
      }
      case Move.Ended m -> {
        Content c = content(m.key(), m.spell().value());
        if (c != null) {
          long from = micros(m.spell().from());
          int row = rows(c.table()).starting(c.key(), c.value(), c.extra(), from);
          tried.row(c.table(), row, from, micros(m.until()));
        }
      }
      case Move.Dropped m -> {
        Content c = content(m.key(), m.spell().value());
        if (c != null) {
          long from = micros(m.spell().from());
          int row = rows(c.table()).starting(c.key(), c.value(), c.extra(), from);
          tried.row(c.table(), row, Long.MAX_VALUE, Long.MAX_VALUE);
        }
      }
    }
  }

  int[] tableSizes() {
    int[] sizes = new int[tables.length];
    Arrays.setAll(sizes, i -> tables[i].size());
    return sizes;
  }

  /** Takes away the rows that came since. */
  void truncate(int[] sizes) {
    for (int i = 0; i < sizes.length; i++) {
      tables[i].truncate(sizes[i]);
    }
  }

  /** Is told a row that a move touches. */
  interface Touched {
    void row(Table table, int row, boolean fresh);
  }

  /** What becomes true or ceases to be between two moments, in either direction of time. */
  Delta between(long one, long other) {
    Delta delta = new Delta();
    long low = Math.min(one, other);
    long high = Math.max(one, other);
    for (Table table : Table.values()) {
      Rows rows = rows(table);
      int size = rows.size();
      for (int row = 0; row < size; row++) {
        long from = rows.from(row);
        long until = rows.until(row);
        if ((from > low && from <= high) || (until > low && until <= high)) {
          delta.add(table, row, rows.on(row, one), rows.on(row, other));
        }
      }
    }
    return delta;
  }

  /** What changes after one moment and until another, instant by instant. */
  TreeMap<Long, Delta> changes(long after, long until) {
    TreeMap<Long, Delta> changes = new TreeMap<>();
    for (Table table : Table.values()) {
      Rows rows = rows(table);
      int size = rows.size();
      for (int row = 0; row < size; row++) {
        for (long at : new long[] {rows.from(row), rows.until(row)}) {
          if (at > after && at <= until) {
            changes
                .computeIfAbsent(at, a -> new Delta())
                .add(table, row, rows.on(row, at - 1), rows.on(row, at));
          }
        }
      }
    }
    return changes;
  }

  /** The rows whose facts begin or end at or after a moment, each with that instant. */
  void boundaries(long after, BoundaryVisitor visitor) {
    for (Table table : Table.values()) {
      Rows rows = rows(table);
      int size = rows.size();
      for (int row = 0; row < size; row++) {
        if (rows.from(row) > after && rows.from(row) < Rows.FOREVER) {
          visitor.at(rows.from(row), table, row);
        }
        if (rows.until(row) > after && rows.until(row) < Rows.FOREVER) {
          visitor.at(rows.until(row), table, row);
        }
      }
    }
  }

  interface BoundaryVisitor {
    void at(long instant, Table table, int row);
  }

  /** How many facts there are, past and to come. */
  public int all() {
    int size = 0;
    for (Rows rows : tables) {
      size += rows.size();
    }
    return size;
  }

  // ---- the kinds that are kept here alone

  private static final Set<Class<? extends FactKey>> KEPT =
      Set.of(
          FactKey.Membership.class,
          FactKey.Attribute.class,
          FactKey.Grant.class,
          FactKey.GrantReason.class);
  private static final List<Table> KEPT_IN =
      List.of(Table.MEMBERS, Table.EDGES, Table.ATTRIBUTES, Table.GRANTS, Table.REASONS);

  @Override
  public boolean keeps(FactKey key) {
    return KEPT.contains(key.getClass());
  }

  @Override
  public boolean keeps(Class<? extends FactKey> kind) {
    return KEPT.contains(kind);
  }

  @Override
  public synchronized int size() {
    return KEPT_IN.stream().mapToInt(table -> rows(table).size()).sum();
  }

  @Override
  public synchronized List<Spell> spells(FactKey key) {
    List<Spell> found = new ArrayList<>(1);
    switch (key) {
      case FactKey.Membership k -> {
        int group = groups.find(k.subject().value());
        boolean nested = k.member() instanceof GroupId;
        int member = (nested ? groups : people).find(k.member().value());
        if (group >= 0 && member >= 0) {
          Table table = nested ? Table.EDGES : Table.MEMBERS;
          rows(table).alike(group, member, 0, row -> spell(table, row, found));
        }
      }
      case FactKey.Attribute k -> {
        int person = people.find(k.subject().value());
        int attribute = attribute(k.name());
        Rows rows = rows(Table.ATTRIBUTES);
        for (int row = person < 0 ? -1 : rows.newest(person); row >= 0; row = rows.earlier(row)) {
          if (rows.extra(row) >>> 1 == attribute && key.equals(key(Table.ATTRIBUTES, row))) {
            spell(Table.ATTRIBUTES, row, found);
          }
        }
      }
      case FactKey.Grant k -> chain(Table.GRANTS, grants.find(k.subject().value()), found);
      case FactKey.GrantReason k -> chain(Table.REASONS, grants.find(k.subject().value()), found);
      default -> throw new IllegalArgumentException("not kept here: " + key);
    }
    if (found.size() > 1) {
      found.sort(Comparator.comparing(Spell::from));
    }
    return found;
  }

  private void chain(Table table, int key, List<Spell> into) {
    Rows rows = rows(table);
    for (int row = key < 0 ? -1 : rows.newest(key); row >= 0; row = rows.earlier(row)) {
      spell(table, row, into);
    }
  }

  private void spell(Table table, int row, List<Spell> into) {
    Rows rows = rows(table);
    if (!rows.dropped(row)) {
      FactValue value =
          switch (table) {
            case ATTRIBUTES ->
                new FactValue.Text(words(rows.extra(row) >>> 1).text(rows.value(row)));
            case GRANTS -> givenOf(row);
            case REASONS -> new FactValue.Text(reasons.text(rows.value(row)));
            default -> FactValue.Present.PRESENT;
          };
      into.add(new Spell(value, instant(rows.from(row)), instant(rows.until(row))));
    }
  }

  private FactKey key(Table table, int row) {
    Rows rows = rows(table);
    return switch (table) {
      case MEMBERS -> new FactKey.Membership(group(rows.key(row)), person(rows.value(row)));
      case EDGES -> new FactKey.Membership(group(rows.key(row)), group(rows.value(row)));
      case ATTRIBUTES -> {
        int attribute = rows.extra(row) >>> 1;
        yield Attributes.key(
            person(rows.key(row)),
            attributeName(attribute),
            (rows.extra(row) & 1) == 1,
            slots.getOrDefault(row, ""));
      }
      case GRANTS -> new FactKey.Grant(new GrantId(grants.id(rows.key(row))));
      case REASONS -> new FactKey.GrantReason(new GrantId(grants.id(rows.key(row))));
      default -> throw new IllegalArgumentException("not kept here: " + table);
    };
  }

  @Override
  public synchronized void about(ObjectId subject, Consumer<FactKey> visitor) {
    switch (subject) {
      case PersonId id -> about(people.find(id.value()), visitor, Table.ATTRIBUTES);
      case GroupId id -> about(groups.find(id.value()), visitor, Table.EDGES, Table.MEMBERS);
      case GrantId id -> about(grants.find(id.value()), visitor, Table.GRANTS, Table.REASONS);
      default -> {}
    }
  }

  @Override
  public synchronized void nestedIn(GroupId group, Consumer<FactKey.Membership> visitor) {
    about(groups.find(group.value()), key -> visitor.accept((FactKey.Membership) key), Table.EDGES);
  }

  private void about(int number, Consumer<FactKey> visitor, Table... in) {
    for (Table table : in) {
      Rows rows = rows(table);
      for (int row = number < 0 ? -1 : rows.newest(number); row >= 0; row = rows.earlier(row)) {
        if (!rows.dropped(row)) {
          visitor.accept(key(table, row));
        }
      }
    }
  }

  @Override
  @SuppressWarnings("unchecked")
  public synchronized <K extends FactKey> Set<K> keys(Class<K> kind) {
    Set<K> found = new LinkedHashSet<>();
    for (Table table : KEPT_IN) {
      if (kindOf(table) == kind) {
        Rows rows = rows(table);
        for (int row = 0; row < rows.size(); row++) {
          if (!rows.dropped(row)) {
            found.add((K) key(table, row));
          }
        }
      }
    }
    return found;
  }

  private static Class<? extends FactKey> kindOf(Table table) {
    return switch (table) {
      case ATTRIBUTES -> FactKey.Attribute.class;
      case GRANTS -> FactKey.Grant.class;
      case REASONS -> FactKey.GrantReason.class;
      default -> FactKey.Membership.class;
    };
  }

  @Override
  public synchronized void forEach(BiConsumer<FactKey, List<Spell>> visitor) {
    for (Class<? extends FactKey> kind : KEPT) {
      keys(kind).forEach(key -> visitor.accept(key, spells(key)));
    }
  }

  /** Tells the sizes of the tables, for the log and the bench. */
  public void sizes(ObjIntConsumer<String> to) {
    for (Table table : Table.values()) {
      to.accept(table.name(), rows(table).size());
    }
  }
}
