package eleutheria.core.access.engine;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Effects;
import eleutheria.core.access.Grant;
import eleutheria.core.access.Ground;
import eleutheria.core.apps.Application;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Move;
import eleutheria.core.facts.PersonId;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;

/** A snapshot, asked by ids: what the rest of the product sees of the engine. */
public final class EngineAccess implements AccessView {
  private final Snapshot snapshot;
  private final Store store;
  private final Supplier<DirectoryView> directory;
  private final Supplier<AppsView> apps;
  private final Engine engine;

  /**
   * @param directory people and groups of the same moment
   * @param apps applications of the same moment
   */
  public EngineAccess(Engine engine, Snapshot snapshot, DirectoryView directory, AppsView apps) {
    this(engine, snapshot, () -> directory, () -> apps);
  }

  private EngineAccess(
      Engine engine,
      Snapshot snapshot,
      Supplier<DirectoryView> directory,
      Supplier<AppsView> apps) {
    this.engine = engine;
    this.snapshot = snapshot;
    this.store = snapshot.store;
    this.directory = directory;
    this.apps = apps;
  }

  public Snapshot snapshot() {
    return snapshot;
  }

  /**
   * The start of the unbroken time of holding that this moment lies in; null if it is not held.
   *
   * @param begins before which nothing is on record
   */
  public @Nullable Instant since(PersonId person, EntitlementId entitlement, Instant begins) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? null : Spans.since(engine, p, e, snapshot, begins);
  }

  /**
   * When somebody who does not hold something held it last, to its end; null if they hold it or
   * never did.
   *
   * @param begins before which nothing is on record
   */
  public @Nullable Instant lost(PersonId person, EntitlementId entitlement, Instant begins) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? null : Spans.lost(engine, p, e, snapshot, begins);
  }

  /** For each ground on which a person is entitled, what would end it, and what else that does. */
  public Losses.Options taking(PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? new Losses.Options(List.of(), false) : Losses.taking(snapshot, p, e);
  }

  @Override
  public DirectoryView directory() {
    return directory.get();
  }

  @Override
  public AppsView apps() {
    return apps.get();
  }

  @Override
  public Instant at() {
    return directory.get().at();
  }

  @Override
  public Optional<Grant> grant(GrantId id) {
    int number = store.grants.find(id.value());
    int row = number < 0 ? -1 : store.grantRow(number, snapshot.at);
    return row < 0 || snapshot.state.roleApps().get(store.given(row)) == 0
        ? Optional.empty()
        : Optional.of(store.grantOf(row));
  }

  @Override
  public List<Grant> grants(EntitlementId id) {
    int entitlement = snapshot.number(id);
    if (entitlement < 0 || snapshot.state.roleApps().get(entitlement) == 0) {
      return List.of();
    }
    List<Grant> found = new ArrayList<>();
    for (int row : Snapshot.or(snapshot.state.groupGrants().get(entitlement))) {
      found.add(store.grantOf(row));
    }
    for (int row : Snapshot.or(snapshot.state.byFilter().get(entitlement))) {
      found.add(store.grantOf(row));
    }
    for (int person : Snapshot.or(snapshot.state.owning().get(entitlement))) {
      int[] own = Snapshot.or(snapshot.state.own().get(person));
      for (int i = 0; i < own.length; i += 2) {
        if (own[i] == entitlement) {
          found.add(store.grantOf(own[i + 1]));
        }
      }
    }
    found.sort(Grant.OLDEST_FIRST);
    return found;
  }

  @Override
  public List<Grant> grantsTo(PersonId id) {
    int person = snapshot.number(id);
    int[] own = person < 0 ? IntList.NONE : Snapshot.or(snapshot.state.own().get(person));
    List<Grant> found = new ArrayList<>(own.length / 2);
    for (int i = 0; i < own.length; i += 2) {
      if (snapshot.state.roleApps().get(own[i]) != 0) {
        found.add(store.grantOf(own[i + 1]));
      }
    }
    found.sort(Grant.OLDEST_FIRST);
    return found;
  }

  @Override
  public List<Grant> grantsTo(GroupId id) {
    int group = snapshot.number(id);
    int[] rows = group < 0 ? IntList.NONE : Snapshot.or(snapshot.state.grantsTo().get(group));
    List<Grant> found = new ArrayList<>(rows.length);
    for (int row : rows) {
      if (snapshot.state.roleApps().get(store.given(row)) != 0) {
        found.add(store.grantOf(row));
      }
    }
    found.sort(Grant.OLDEST_FIRST);
    return found;
  }

  @Override
  public Set<PersonId> members(FactValue.Subject subject) {
    return new PersonSet(store, numbers(subject));
  }

  private RoaringBitmap numbers(FactValue.Subject subject) {
    return switch (subject) {
      case FactValue.Subject.OfPerson s ->
          directory().person(s.person()).isPresent()
              ? RoaringBitmap.bitmapOf(snapshot.number(s.person()))
              : Snapshot.NOBODY;
      case FactValue.Subject.OfGroup s -> {
        int group = snapshot.number(s.group());
        yield group < 0 ? Snapshot.NOBODY : Snapshot.or(snapshot.state.members().get(group));
      }
      case FactValue.Subject.ByFilter s -> snapshot.fitting(s.filter());
    };
  }

  @Override
  public int population(FactValue.Subject subject) {
    return snapshot.present(numbers(subject));
  }

  @Override
  public Set<PersonId> entitled(EntitlementId id) {
    int entitlement = snapshot.number(id);
    return entitlement < 0 ? Set.of() : new PersonSet(store, snapshot.entitledSet(entitlement));
  }

  @Override
  public Set<PersonId> holders(EntitlementId id) {
    int entitlement = snapshot.number(id);
    if (entitlement < 0 || !snapshot.open(entitlement)) {
      return Set.of();
    }
    RoaringBitmap all = snapshot.entitledSet(entitlement);
    return new PersonSet(
        store,
        all.getCardinality() == snapshot.holderCount(entitlement)
            ? all
            : snapshot.holders(entitlement));
  }

  @Override
  public Set<PersonId> holders(Application application) {
    return new PersonSet(store, snapshot.holders(numbers(application)));
  }

  /** The numbers of an application's entitlements. */
  public int[] numbers(Application application) {
    return application.entitlements().stream().mapToInt(e -> snapshot.number(e.id())).toArray();
  }

  @Override
  public boolean entitled(PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p >= 0 && e >= 0 && snapshot.entitled(p, e);
  }

  @Override
  public boolean holds(PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p >= 0 && e >= 0 && snapshot.holds(p, e);
  }

  @Override
  public List<Entitlement> entitlements(PersonId person) {
    int p = snapshot.number(person);
    return p < 0 ? List.of() : known(snapshot.entitlementsOf(p));
  }

  @Override
  public List<Entitlement> holdings(PersonId person) {
    int p = snapshot.number(person);
    return p < 0 ? List.of() : known(snapshot.holdingsOf(p));
  }

  private List<Entitlement> known(int[] numbers) {
    return Arrays.stream(numbers)
        .mapToObj(snapshot::entitlement)
        .flatMap(id -> apps().entitlement(id).stream())
        .sorted(Comparator.comparingInt(apps()::place))
        .toList();
  }

  @Override
  public List<Ground> grounds(PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? List.of() : Reasons.of(snapshot, p, e);
  }

  @Override
  public @Nullable Instant ends(PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? null : new Until(snapshot, p).of(e);
  }

  @Override
  public @Nullable Instant entitledUntil(PersonId person, EntitlementId entitlement) {
    int p = snapshot.number(person);
    int e = snapshot.number(entitlement);
    return p < 0 || e < 0 ? null : new Until(snapshot, p).entitled(e);
  }

  @Override
  public Collection<EntitlementId> leadsTo(GroupId id) {
    int group = snapshot.number(id);
    if (group < 0) {
      return List.of();
    }
    int[] brings =
        new Brings(
                store,
                snapshot.state.above(),
                snapshot.state.grantsTo(),
                snapshot.state.roleApps()::get)
            .ofGroup(group);
    return Arrays.stream(Snapshot.or(brings)).mapToObj(snapshot::entitlement).toList();
  }

  @Override
  public Optional<List<Effects.At>> trial(List<Move> moves, Instant at) {
    // Of the newest state alone there are boundaries to come.
    return engine.now() == snapshot ? Optional.of(engine.trial(moves, at)) : Optional.empty();
  }

  @Override
  public Set<PersonId> active() {
    return new PersonSet(
        store, RoaringBitmap.and(snapshot.state.people(), snapshot.state.active()));
  }

  @Override
  public Set<PersonId> begunAfter(Instant moment) {
    long after = Store.micros(moment);
    Rows statuses = store.rows(Table.STATUS);
    RoaringBitmap found = new RoaringBitmap();
    RoaringBitmap.and(snapshot.state.people(), snapshot.state.active())
        .forEach(
            (int person) -> {
              int row = snapshot.state.statuses().get(person) - 1;
              // A pause begins a status anew, and no first day.
              if (row >= 0 && statuses.from(row) > after && store.begun(person, row) > after) {
                found.add(person);
              }
            });
    return new PersonSet(store, found);
  }

  @Override
  public Map<EntitlementId, Set<PersonId>> lostGrounds(AccessView other) {
    return other instanceof EngineAccess engines && engines.store == store
        ? LostGrounds.of(snapshot, engines.snapshot)
        : AccessView.super.lostGrounds(other);
  }

  @Override
  public Effects.At differ(AccessView other) {
    return other instanceof EngineAccess engines && engines.store == store
        ? Engine.differ(snapshot, engines.snapshot)
        : AccessView.super.differ(other);
  }

  @Override
  public void suppose(Supposition supposed, Set<Instant> more, Watcher watcher) {
    if (engine.now() != snapshot) {
      AccessView.super.suppose(supposed, more, watcher);
      return;
    }
    DirectoryView now = directory();
    engine.suppose(
        supposed.moves(),
        supposed.at(),
        more,
        (instant, without, with, anew) -> {
          Supplier<DirectoryView> plain =
              once(() -> now.later(supposed.before(), instant, new EngineDirectory(without, null)));
          Supplier<DirectoryView> varied =
              once(
                  () ->
                      now.after(
                          supposed.after(),
                          supposed.moves(),
                          instant,
                          new EngineDirectory(with, null)));
          return watcher.at(
              instant,
              new EngineAccess(
                  engine, without, plain, once(() -> apps(supposed.before(), plain, instant))),
              new EngineAccess(
                  engine, with, varied, once(() -> apps(supposed.after(), varied, instant))),
              anew);
        });
  }

  private static AppsView apps(Facts facts, Supplier<DirectoryView> directory, Instant at) {
    return AppsView.of(facts, directory.get(), at);
  }

  private static <T> Supplier<T> once(Supplier<T> maker) {
    return new Supplier<>() {
      private @Nullable T made;

      @Override
      public T get() {
        T known = made;
        if (known == null) {
          known = maker.get();
          made = known;
        }
        return known;
      }
    };
  }

  @Override
  public Page holders(EntitlementId id, String unit, int skip, int size) {
    int entitlement = snapshot.number(id);
    if (entitlement < 0) {
      return new Page(List.of(), 0);
    }
    Holders.Wanted wanted =
        unit.isEmpty() ? Holders.Wanted.ALL : Holders.Wanted.having(Attributes.UNIT, unit);
    Holders.Page page = Holders.page(snapshot, entitlement, wanted, skip, size);
    return new Page(page.people(), page.total());
  }

  @Override
  public Map<String, Integer> holdersByUnit(EntitlementId id) {
    int entitlement = snapshot.number(id);
    int all = entitlement < 0 ? 0 : snapshot.holderCount(entitlement);
    if (all == 0) {
      return Map.of();
    }
    Matrix units = snapshot.matrix(Attributes.UNIT);
    return units == Matrix.EMPTY
        ? Map.of("", all)
        : new TreeMap<>(units.counts(snapshot, entitlement));
  }

  @Override
  public Map<String, Integer> activeByUnit() {
    int unit = store.attribute(Attributes.UNIT);
    return unit < 0
        ? AccessView.super.activeByUnit()
        : new TreeMap<>(Matrix.active(snapshot, unit));
  }
}
