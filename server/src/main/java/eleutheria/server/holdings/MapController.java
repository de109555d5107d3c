package eleutheria.server.holdings;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.Ground;
import eleutheria.core.access.OwnGrants;
import eleutheria.core.access.Reading;
import eleutheria.core.access.engine.HoldingsMap;
import eleutheria.core.access.engine.Signs;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.ValueType;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import eleutheria.server.problems.Refusal;
import eleutheria.server.refs.AppRef;
import eleutheria.server.refs.EntitlementRef;
import eleutheria.server.refs.PersonLine;
import eleutheria.server.state.World;
import eleutheria.server.use.UseFigures;
import eleutheria.server.web.Needs;
import eleutheria.server.web.Pages;
import eleutheria.server.web.Viewer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The map of holdings: what is seen of it, the same as a list, and what is marked in it. */
@RestController
class MapController {
  private static final int MOST_ROWS = 200;
  private static final int MOST_COLUMNS = 200;
  private static final int MOST_NAMED = 12;

  /** More than so many holdings are not ended in one act. */
  private static final int MOST_ENDED = 500;

  private final World world;
  private final Holdings holdings;
  private final UseFigures figures;

  MapController(World world, Holdings holdings, UseFigures figures) {
    this.world = world;
    this.holdings = holdings;
    this.figures = figures;
  }

  /**
   * A window of the map.
   *
   * @param people how many active people are within the reader's reach
   * @param held how many holdings fit
   * @param rows how many rows there are
   * @param columns how many columns there are
   * @param cells those that are not empty, each as row and column, both from 0 in the whole map;
   *     how many have it; how many are known not to have used it, −1 where that is not known; how
   *     many break a separation rule; for a person the bits of {@code signs}; how many have lost
   *     it, where two moments are compared
   * @param at the moment it is of
   */
  record MapView(
      int people,
      long held,
      int rows,
      int columns,
      List<RowHead> rowHeads,
      List<ColumnHead> columnHeads,
      List<AppRef> apps,
      List<int[]> cells,
      Instant at,
      long position) {}

  /**
   * @param kind value, person or rest: those of an open row who have nothing that is asked for
   * @param key as it stands in {@code open}
   * @param id of a person; else null
   * @param beside a person's title
   * @param of how many people the row stands for
   */
  record RowHead(
      String kind,
      String key,
      int depth,
      String name,
      @Nullable String id,
      @Nullable String beside,
      int of,
      boolean open) {}

  /**
   * @param app its place among the apps of this answer
   * @param count how many have it, of those asked for
   */
  record ColumnHead(String id, String name, String sensitivity, int app, int count) {}

  /** An attribute that rows can be made of. */
  record RowAttribute(String name, String label) {}

  /**
   * @param looksAtUse whether the reader may see what is unused
   */
  record MapChoices(List<RowAttribute> attributes, boolean looksAtUse, boolean mayEnd) {}

  /**
   * One cell as a line.
   *
   * @param of how many people the row stands for
   * @param unused −1 where it is not known
   */
  record CellLine(
      String key,
      String name,
      int of,
      EntitlementRef entitlement,
      int count,
      int unused,
      int conflicts,
      int lost) {}

  record CellLines(int total, List<CellLine> lines) {}

  @GetMapping("/api/holdings/choices")
  @Needs(signedIn = true, desk = true)
  MapChoices choices(Viewer viewer) {
    holdings.require(viewer);
    return new MapChoices(
        world.whole().directory().definitions().entrySet().stream()
            .filter(e -> !e.getValue().personal())
            .map(e -> new RowAttribute(e.getKey(), e.getValue().label()))
            .toList(),
        viewer.authority().has(Power.USE_READ),
        viewer.authority().has(Power.ACCESS_END));
  }

  @GetMapping("/api/holdings/map")
  @Needs(signedIn = true, desk = true)
  MapView map(
      Viewer viewer,
      @Valid @ParameterObject AskedForm asked,
      @Valid @ParameterObject ShapeForm shape,
      @RequestParam(defaultValue = "0") int row,
      @RequestParam(defaultValue = "40") int size,
      @RequestParam(defaultValue = "0") int column,
      @RequestParam(defaultValue = "40") int width) {
    Holdings.Asking asking = holdings.ask(viewer, asked);
    HoldingsMap map = map(viewer, asking, shape);
    HoldingsMap.Window window =
        map.window(
            Math.max(0, row),
            Math.clamp(size, 0, MOST_ROWS),
            Math.max(0, column),
            Math.clamp(width, 0, MOST_COLUMNS));
    AppsView apps = asking.whole().access().apps();
    DirectoryView directory = asking.whole().directory();
    Map<AppRef, Integer> places = new LinkedHashMap<>();
    List<ColumnHead> heads =
        window.columns().stream()
            .map(
                c -> {
                  AppRef app = AppRef.of(apps.applicationOf(c.entitlement()));
                  places.putIfAbsent(app, places.size());
                  return new ColumnHead(
                      c.entitlement().id().value().toString(),
                      c.entitlement().role().name(),
                      c.entitlement().role().sensitivity().word(),
                      places.get(app),
                      c.count());
                })
            .toList();
    Reading reading = new Reading(viewer.authority(), world.now());
    String first = shape.shape().rows();
    String second = shape.shape().then();
    return new MapView(
        map.people(),
        map.holdings(),
        map.rows(),
        map.columns().size(),
        window.rows().stream().map(r -> head(reading, directory, r, first, second)).toList(),
        heads,
        List.copyOf(places.keySet()),
        window.cells().stream()
            .map(
                c ->
                    new int[] {
                      c.row(), c.column(), c.count(), c.unused(), c.conflicts(), c.signs(), c.lost()
                    })
            .toList(),
        asking.whole().access().at(),
        world.position());
  }

  private HoldingsMap map(Viewer viewer, Holdings.Asking asking, ShapeForm form) {
    HoldingsMap.Shape shape = form.shape();
    holdings.requireSeen(viewer, asking, shape.rows());
    holdings.requireSeen(viewer, asking, shape.then());
    return holdings.map(asking, shape);
  }

  private static RowHead head(
      Reading reading, DirectoryView directory, HoldingsMap.Row row, String first, String second) {
    Optional<Person> person =
        row.person() == null ? Optional.empty() : directory.person(row.person());
    String value = row.key().substring(row.key().lastIndexOf(HoldingsMap.APART) + 1);
    return new RowHead(
        row.kind().name().toLowerCase(Locale.ROOT),
        row.key(),
        row.depth(),
        person
            .map(p -> p.name().familyFirst())
            .orElseGet(() -> label(directory, row.depth() == 0 ? first : second, value)),
        person.map(p -> p.id().value().toString()).orElse(null),
        person
            .filter(p -> reading.seesPerson(p.id()))
            .map(p -> p.value(Attributes.TITLE))
            .orElse(null),
        row.people(),
        row.open());
  }

  /** A value as it is read: a person is named, everything else is its own name. */
  private static String label(DirectoryView directory, String attribute, String value) {
    FactValue.Definition definition = directory.definitions().get(attribute);
    if (definition == null || definition.type() != ValueType.PERSON || value.isEmpty()) {
      return value;
    }
    try {
      return directory.person(PersonId.parse(value)).map(p -> p.name().familyFirst()).orElse(value);
    } catch (IllegalArgumentException e) {
      return value;
    }
  }

  /** The same as the map, as a list: the cells of its rows one after the other. */
  @GetMapping("/api/holdings/cells")
  @Needs(signedIn = true, desk = true)
  CellLines cells(
      Viewer viewer,
      @Valid @ParameterObject AskedForm asked,
      @Valid @ParameterObject ShapeForm shape,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "100") int limit) {
    Holdings.Asking asking = holdings.ask(viewer, asked);
    HoldingsMap map = map(viewer, asking, shape);
    AppsView apps = asking.whole().access().apps();
    DirectoryView directory = asking.whole().directory();
    return new CellLines(
        map.filled(),
        map.lines(Pages.from(offset), Pages.size(limit)).stream()
            .map(
                line ->
                    new CellLine(
                        line.key(),
                        name(directory, shape, line.key()),
                        line.people(),
                        EntitlementRef.of(apps, line.entitlement()),
                        line.cell().count(),
                        line.cell().unused(),
                        line.cell().conflicts(),
                        line.cell().lost()))
            .toList());
  }

  private static String name(DirectoryView directory, ShapeForm form, String key) {
    int apart = key.indexOf(HoldingsMap.APART);
    HoldingsMap.Shape shape = form.shape();
    return apart < 0
        ? label(directory, shape.rows(), key)
        : label(directory, shape.rows(), key.substring(0, apart))
            + ", "
            + label(directory, shape.then(), key.substring(apart + 1));
  }

  // ---- what is marked

  /**
   * What is marked: rows and columns, or one person.
   *
   * @param keys of rows, one a line; none for all
   * @param person instead of rows
   * @param marked entitlements; none for all
   */
  record MarkForm(
      @Nullable @Size(max = 8000) String keys,
      @Nullable UUID person,
      @Nullable @Size(max = 500) List<UUID> marked) {
    Set<String> rows() {
      return keys == null ? Set.of() : ShapeForm.keys(keys);
    }

    @Nullable PersonId who() {
      return person == null ? null : new PersonId(person);
    }
  }

  /**
   * @param signs by what and whence, those of one holding together
   * @param held how many holdings stand on just these
   */
  record SignCount(List<SignView> signs, int held) {}

  record SignView(String by, String source) {}

  /** Somebody who breaks a rule, and the other side of it. */
  record MarkedConflict(PersonLine person, EntitlementRef with, String rule) {}

  /**
   * What is to be said of what is marked.
   *
   * @param people how many people have any of it
   * @param held how many holdings that are
   * @param of how many active people the rows stand for
   * @param elsewhere how many more people have any of it, in other rows
   * @param unused how many holdings are known not to have been used
   * @param unknown of how many holdings nothing is known
   * @param unusedBy some of those who do not use it, where one entitlement is marked
   * @param use by week, the last being this week; null where use may not be told
   * @param entitlement the one that is marked; null where there are several
   */
  record MarkView(
      int people,
      long held,
      int of,
      int elsewhere,
      long unused,
      long unknown,
      long conflicts,
      List<SignCount> signs,
      List<PersonLine> unusedBy,
      List<MarkedConflict> breaches,
      int @Nullable [] use,
      @Nullable Instant lastUsed,
      @Nullable EntitlementRef entitlement,
      @Nullable PersonLine person) {}

  @GetMapping("/api/holdings/mark")
  @Needs(signedIn = true, desk = true)
  MarkView mark(
      Viewer viewer,
      @Valid @ParameterObject AskedForm asked,
      @Valid @ParameterObject ShapeForm shape,
      @Valid @ParameterObject MarkForm mark) {
    Holdings.Asking asking = holdings.ask(viewer, asked);
    HoldingsMap map = map(viewer, asking, shape);
    List<Entitlement> columns = columns(map, mark);
    HoldingsMap.Explained told = map.explain(mark.rows(), mark.who(), columns);
    Entitlement one = columns.size() == 1 ? columns.getFirst() : null;
    AppsView apps = asking.whole().access().apps();
    DirectoryView directory = asking.whole().directory();
    UseFigures.Marked use =
        one == null || asked.asOf() != null || asked.against() != null || asked.from() != null
            ? null
            : figures.of(
                viewer,
                asking.whole(),
                one.id(),
                map.marked(mark.rows(), mark.who(), one, UseFigures.MOST_ASKED + 1));
    return new MarkView(
        told.people(),
        told.holdings(),
        told.of(),
        told.elsewhere(),
        told.unused(),
        told.unknown(),
        told.conflicts(),
        told.signs().entrySet().stream()
            .sorted(Map.Entry.<Integer, Integer>comparingByValue().reversed())
            .map(e -> new SignCount(signs(e.getKey()), e.getValue()))
            .toList(),
        one == null
            ? List.of()
            : lines(viewer, directory, map.unused(mark.rows(), mark.who(), one, MOST_NAMED)),
        one == null ? List.of() : breaches(viewer, asking, map, mark, one),
        use == null ? null : use.weeks(),
        use == null ? null : use.last(),
        one == null ? null : EntitlementRef.of(apps, one),
        mark.who() == null ? null : directory.person(mark.who()).map(PersonLine::of).orElse(null));
  }

  static List<SignView> signs(int bits) {
    return Signs.read(bits).stream()
        .map(s -> new SignView(s.by().name().toLowerCase(Locale.ROOT), s.source().word()))
        .toList();
  }

  private List<PersonLine> lines(Viewer viewer, DirectoryView directory, List<PersonId> people) {
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    return people.stream()
        .flatMap(id -> directory.person(id).stream())
        .map(person -> PersonLine.by(reach, person))
        .toList();
  }

  private static List<Entitlement> columns(HoldingsMap map, MarkForm mark) {
    List<UUID> wanted = mark.marked();
    if (wanted == null || wanted.isEmpty()) {
      return List.of();
    }
    Set<UUID> ids = Set.copyOf(wanted);
    List<Entitlement> found =
        map.columns().stream().filter(e -> ids.contains(e.id().value())).toList();
    if (found.isEmpty()) {
      throw Refusal.of(Problem.absent("entitlement"));
    }
    return found;
  }

  private List<MarkedConflict> breaches(
      Viewer viewer, Holdings.Asking asking, HoldingsMap map, MarkForm mark, Entitlement one) {
    List<PersonId> people = map.conflicts(mark.rows(), mark.who(), one, MOST_NAMED);
    if (people.isEmpty()) {
      return List.of();
    }
    AppsView apps = asking.whole().access().apps();
    var rules = world.rules(asking.whole().access().at());
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    List<MarkedConflict> found = new ArrayList<>();
    for (Conflict conflict : rules.conflicts(asking.whole().access())) {
      boolean first = conflict.one().equals(one.id());
      if ((first || conflict.other().equals(one.id())) && people.contains(conflict.person())) {
        EntitlementId other = first ? conflict.other() : conflict.one();
        asking
            .whole()
            .directory()
            .person(conflict.person())
            .ifPresent(
                person ->
                    apps.entitlement(other)
                        .filter(e -> reach.sees(person, e))
                        .ifPresent(
                            e ->
                                found.add(
                                    new MarkedConflict(
                                        PersonLine.by(reach, person),
                                        EntitlementRef.of(apps, e),
                                        rules
                                            .rule(conflict.rule())
                                            .map(r -> r.terms().name())
                                            .orElse("")))));
      }
    }
    return found;
  }

  /**
   * What would have to be ended so that holdings end.
   *
   * @param grants of these people's own, which can be ended by themselves
   * @param ends how many holdings that takes away
   * @param stays those that stand on something else as well, or only
   * @param more how many more stay
   */
  record EndingsView(List<String> grants, int ends, List<StaysView> stays, int more) {}

  /**
   * @param on the group or filter that it stands on
   */
  record StaysView(
      PersonLine person, EntitlementRef entitlement, String on, @Nullable String group) {}

  /** What ending the marked holdings takes: of {@code unused} alone, or of all that fit. */
  @GetMapping("/api/holdings/endings")
  @Needs(Power.ACCESS_END)
  EndingsView endings(
      Viewer viewer,
      @Valid @ParameterObject AskedForm asked,
      @Valid @ParameterObject ShapeForm shape,
      @Valid @ParameterObject MarkForm mark,
      @RequestParam(defaultValue = "false") boolean unused) {
    if (asked.asOf() != null || asked.against() != null || asked.from() != null) {
      throw Refusal.invalid(
          "endings.past",
          "asOf",
          "Only what is held now can be ended, not what was held on another day.");
    }
    Holdings.Asking asking = holdings.ask(viewer, asked);
    HoldingsMap map = map(viewer, asking, shape);
    AppsView apps = asking.whole().access().apps();
    DirectoryView directory = asking.whole().directory();
    AccessReach reach = new AccessReach(viewer.authority(), world.now());
    OwnGrants own = new OwnGrants();
    int seen = 0;
    List<Entitlement> columns = columns(map, mark);
    for (Entitlement each : columns.isEmpty() ? map.columns() : columns) {
      List<PersonId> people =
          unused
              ? map.unused(mark.rows(), mark.who(), each, MOST_ENDED + 1)
              : map.marked(mark.rows(), mark.who(), each, MOST_ENDED + 1);
      seen += people.size();
      if (seen > MOST_ENDED) {
        throw Refusal.invalid(
            "endings.many",
            "",
            "More than %d holdings are selected. Select fewer, or end the grant to the group that gives them."
                .formatted(MOST_ENDED));
      }
      people.forEach(person -> own.add(asking.whole().access(), person, each.id()));
    }
    List<StaysView> stays =
        own.stays().stream()
            .limit(MOST_NAMED)
            .flatMap(
                s ->
                    directory.person(s.person()).stream()
                        .flatMap(
                            person ->
                                apps.entitlement(s.entitlement()).stream()
                                    .map(
                                        e ->
                                            new StaysView(
                                                PersonLine.by(reach, person),
                                                EntitlementRef.of(apps, e),
                                                on(directory, s.on()),
                                                s.on().grant().given().subject()
                                                        instanceof FactValue.Subject.OfGroup g
                                                    ? g.group().value().toString()
                                                    : null))))
            .toList();
    return new EndingsView(
        own.grants().stream().map(g -> g.value().toString()).toList(),
        own.ends(),
        stays,
        own.stays().size() - stays.size());
  }

  private static String on(DirectoryView directory, Ground ground) {
    return switch (ground.grant().given().subject()) {
      case FactValue.Subject.OfGroup s ->
          directory.group(s.group()).map(g -> g.name()).orElse("a group");
      case FactValue.Subject.ByFilter s -> directory.words().tell(s.filter());
      case FactValue.Subject.OfPerson s -> "";
    };
  }
}
