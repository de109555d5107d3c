package eleutheria.server.holdings;

import static java.util.Objects.requireNonNull;

import eleutheria.core.access.AccessReach;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.Grant;
import eleutheria.core.access.Ground;
import eleutheria.core.access.Reference;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.access.engine.Ahead;
import eleutheria.core.access.engine.Cut;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.access.engine.Leavers;
import eleutheria.core.access.engine.Signs;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.access.engine.Spans;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.mandates.Authority;
import eleutheria.core.portal.PortalView;
import eleutheria.core.queries.Period;
import eleutheria.server.access.Grounds;
import eleutheria.server.ledger.WhoDid;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.use.Openings;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.stereotype.Component;

/**
 * Answers queries: which holdings they are, and what is told of each. Works through pieces of some
 * hundred lines, so that nothing grows with the answer.
 */
@Component
class Answers {
  /** How many lines are worked out together. */
  static final int PIECE = 500;

  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm");

  private final World world;
  private final Holdings holdings;
  private final Openings openings;
  private final Grounds grounds;
  private final WhoDid whoDid;
  private final Organisation organisation;
  private final Clock clock;

  Answers(
      World world,
      Holdings holdings,
      Openings openings,
      Grounds grounds,
      WhoDid whoDid,
      Organisation organisation,
      Clock clock) {
    this.world = world;
    this.holdings = holdings;
    this.openings = openings;
    this.grounds = grounds;
    this.whoDid = whoDid;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * A query made ready to be answered.
   *
   * @param asked with its days worked out
   * @param entitlements in the order of the lines
   * @param leavers the stated last day of those who are asked about because they left late
   */
  record Prepared(
      Holdings.Asking asking,
      AskedForm asked,
      List<ReportColumn> columns,
      List<Entitlement> entitlements,
      long total,
      Map<PersonId, LocalDate> leavers,
      Authority reader) {
    /** The moment that it is of. */
    Instant at() {
      return asking.whole().access().at();
    }
  }

  /**
   * One line.
   *
   * @param proven the part that follows from the facts of the moment alone, as canonical JSON (RFC
   *     8785): by it a report can be checked later
   */
  record Line(PersonId person, Entitlement entitlement, List<String> values, String proven) {}

  /**
   * What is proven of a line. Written directly, without a JSON library, since there may be
   * millions; ids and words have nothing to be escaped, and the members stand in their order.
   *
   * @param change whether {@code what} tells a change, and not grounds
   * @param what null where neither is proven
   */
  static String proven(UUID entitlement, UUID person, boolean change, @Nullable String what) {
    StringBuilder text = new StringBuilder(180).append('{');
    if (what != null && change) {
      text.append("\"change\":\"").append(what).append("\",");
    }
    text.append("\"entitlement\":\"").append(entitlement).append("\",");
    if (what != null && !change) {
      text.append("\"grounds\":\"").append(what).append("\",");
    }
    return text.append("\"person\":\"").append(person).append("\"}").toString();
  }

  interface LineTaker {
    /**
     * @return whether to go on
     */
    boolean take(Line line) throws java.io.IOException;
  }

  private LocalDate today() {
    return clock.instant().atZone(organisation.zone()).toLocalDate();
  }

  /** Makes a query ready for a reader. */
  Prepared ready(Authority reader, PortalView reach, SpecForm spec) {
    AskedForm asked = spec.on(today(), organisation.zone());
    Map<PersonId, LocalDate> leavers = Map.of();
    Holdings.Asking asking;
    if (spec.leavers() == null) {
      asking = holdings.ask(reader, reach, asked);
    } else {
      PortalView whole = world.whole(asked.asOf());
      Period.Days days = Period.of(spec.leavers()).on(day(whole.access().at()));
      Leavers late =
          Leavers.since(world.engine(), whole.directory(), days.first(), organisation.zone());
      leavers = late.stated();
      asking = holdings.over(reader, reach, asked, late::held);
    }
    List<ReportColumn> columns = ReportColumn.of(spec, asked);
    List<Entitlement> entitlements =
        columns.contains(ReportColumn.COST)
            ? byCost(asking)
            : asking.cut().entitlements(asking.whole().access().apps());
    return new Prepared(
        asking, asked, columns, entitlements, asking.cut().count(entitlements), leavers, reader);
  }

  /** Those first whose seats cost the most, for all who have them; then by application and name. */
  private static List<Entitlement> byCost(Holdings.Asking asking) {
    AppsView apps = asking.whole().access().apps();
    Map<Entitlement, Long> costs = new HashMap<>();
    List<Entitlement> found = new ArrayList<>(asking.cut().entitlements(apps));
    for (Entitlement each : found) {
      FactValue.Seats seats = apps.applicationOf(each).seats();
      costs.put(each, seats == null ? -1 : seats.price() * asking.cut().count(List.of(each)));
    }
    found.sort(Comparator.comparing((Entitlement e) -> -requireNonNull(costs.get(e))));
    return found;
  }

  private LocalDate day(Instant at) {
    return at.atZone(organisation.zone()).toLocalDate();
  }

  /** Goes through the lines of an answer. */
  void each(Prepared answer, long skip, long most, LineTaker taker) throws java.io.IOException {
    List<Held> piece = new ArrayList<>(PIECE);
    Wording wording = new Wording(answer);
    long[] left = {most};
    java.io.IOException[] failed = {null};
    Predicate<List<Held>> tell =
        some -> {
          try {
            for (Line line : wording.lines(some)) {
              if (!taker.take(line)) {
                return false;
              }
            }
            return true;
          } catch (java.io.IOException e) {
            failed[0] = e;
            return false;
          }
        };
    boolean[] on = {true};
    answer
        .asking()
        .cut()
        .forEach(
            answer.entitlements(),
            skip,
            (entitlement, person, signs) -> {
              if (left[0]-- <= 0) {
                return false;
              }
              if (piece.size() == PIECE
                  || (!piece.isEmpty()
                      && !piece.getFirst().entitlement().id().equals(entitlement.id()))) {
                on[0] = tell.test(piece);
                piece.clear();
              }
              piece.add(new Held(entitlement, person, signs));
              return on[0];
            });
    if (on[0] && !piece.isEmpty()) {
      tell.test(piece);
    }
    if (failed[0] != null) {
      throw failed[0];
    }
  }

  private record Held(Entitlement entitlement, PersonId person, int signs) {}

  /** Puts lines into words, a piece of one entitlement at a time. */
  private final class Wording {
    private final Prepared answer;
    private final AccessReach reach;
    private final PortalView whole;
    private final DirectoryView directory;
    private final AppsView apps;
    private final Set<ReportColumn> wanted;
    private final SeparationRules rules;
    private final ZoneId zone = organisation.zone();
    private final Map<PersonId, List<Conflict>> conflicts = new HashMap<>();
    private @Nullable EntitlementId at;
    private Map<PersonId, List<Reference.Held>> spans = Map.of();
    private Map<Instant, WhoDid.Did> acts = Map.of();
    private @Nullable RoaringBitmap lost;

    Wording(Prepared answer) {
      this.answer = answer;
      this.reach = new AccessReach(answer.reader(), world.now());
      this.whole = answer.asking().whole();
      this.directory = whole.directory();
      this.apps = whole.access().apps();
      this.wanted = Set.copyOf(answer.columns());
      this.rules = world.rules(whole.access().at());
      if (wanted.contains(ReportColumn.CLASHES)) {
        for (Conflict each : rules.breaches(whole.access())) {
          conflicts.computeIfAbsent(each.person(), p -> new ArrayList<>()).add(each);
        }
      }
    }

    List<Line> lines(List<Held> piece) {
      Entitlement entitlement = piece.getFirst().entitlement();
      begin(entitlement);
      List<PersonId> people = piece.stream().map(Held::person).toList();
      Map<PersonId, Instant> used =
          wanted.contains(ReportColumn.LAST_USED) && answer.asked().asOf() == null
              ? openings.last(whole, entitlement.id(), people)
              : Map.of();
      boolean chains =
          wanted.contains(ReportColumn.THROUGH)
              || wanted.contains(ReportColumn.GIVEN_BY)
              || wanted.contains(ReportColumn.REASON)
              || wanted.contains(ReportColumn.UNTIL);
      Map<PersonId, List<Ground>> own = new HashMap<>();
      Map<GrantId, Grounds.GrantLine> given = new HashMap<>();
      if (chains) {
        Map<GrantId, Grant> grants = new TreeMap<>();
        for (Held held : piece) {
          List<Ground> of = state(held).access().grounds(held.person(), entitlement.id());
          own.put(held.person(), of);
          of.forEach(ground -> grants.put(ground.grant().id(), ground.grant()));
        }
        if (wanted.contains(ReportColumn.GIVEN_BY) || wanted.contains(ReportColumn.REASON)) {
          grounds
              .lines(whole.access(), List.copyOf(grants.values()))
              .forEach(line -> given.put(GrantId.parse(line.id()), line));
        }
      }
      acts =
          wanted.contains(ReportColumn.BY)
              ? whoDid.at(
                  piece.stream()
                      .map(this::changed)
                      .filter(java.util.Objects::nonNull)
                      .collect(Collectors.toSet()))
              : Map.of();
      List<Line> lines = new ArrayList<>(piece.size());
      List<ReportColumn> columns = answer.columns();
      for (Held held : piece) {
        List<Ground> of = own.getOrDefault(held.person(), List.of());
        Known known = known(held.person());
        String[] values = new String[columns.size()];
        for (int i = 0; i < values.length; i++) {
          String plain = known.values()[i];
          values[i] =
              plain == null
                  ? value(
                      columns.get(i),
                      held,
                      directory.person(held.person()).orElseThrow(),
                      of,
                      given,
                      used)
                  : plain;
        }
        lines.add(new Line(held.person(), entitlement, List.of(values), proven(held)));
      }
      return lines;
    }

    /** What is the same in every line of a person, by column; null where it is not. */
    private record Known(@Nullable String[] values) {}

    /** Bounded by how many people there are, and not by how many lines. */
    private final Map<PersonId, Known> people = new HashMap<>();

    private Known known(PersonId id) {
      return people.computeIfAbsent(
          id,
          p -> {
            Person person = directory.person(p).orElseThrow();
            List<ReportColumn> columns = answer.columns();
            @Nullable String[] values = new String[columns.size()];
            for (int i = 0; i < values.length; i++) {
              values[i] = own(columns.get(i), person);
            }
            return new Known(values);
          });
    }

    private @Nullable String own(ReportColumn column, Person person) {
      return switch (column) {
        case PERSON -> person.name().familyFirst();
        case USER_NAME ->
            reach.reading().seesPerson(person.id()) ? text(person.value(Attributes.USER_NAME)) : "";
        case UNIT -> text(person.value(Attributes.UNIT));
        case SITE -> text(person.value(Attributes.SITE));
        case TITLE ->
            reach.reading().seesPerson(person.id()) ? text(person.value(Attributes.TITLE)) : "";
        case STATUS -> person.status().word();
        default -> null;
      };
    }

    /** What is worked out once for all holders of an entitlement. */
    private void begin(Entitlement entitlement) {
      if (entitlement.id().equals(at)) {
        return;
      }
      at = entitlement.id();
      int number = answer.asking().snapshot().number(entitlement.id());
      AskedForm asked = answer.asked();
      Cut gone = answer.asking().lost();
      lost = gone == null ? null : gone.people(entitlement.id());
      spans = Map.of();
      if (asked.from() != null) {
        Holdings.Span span = holdings.span(asked);
        spans = Spans.during(world.engine(), number, span.from(), span.until());
      } else if (asked.against() != null) {
        PortalView before = answer.asking().before();
        if (before != null
            && (wanted.contains(ReportColumn.ON) || wanted.contains(ReportColumn.BY))) {
          spans =
              Spans.during(
                  world.engine(),
                  number,
                  before.access().at(),
                  whole.access().at().plusNanos(1_000));
        }
      } else if (wanted.contains(ReportColumn.SINCE)) {
        Instant begins = world.begins();
        Instant until = whole.access().at().plusNanos(1_000);
        if (begins != null && begins.isBefore(until)) {
          spans = Spans.during(world.engine(), number, begins, until);
        }
      }
    }

    /** The state in which somebody has what a line tells: of what is lost, the one before. */
    private PortalView state(Held held) {
      PortalView before = answer.asking().before();
      return before != null && isLost(held) ? before : whole;
    }

    private int bits(Held held) {
      PortalView state = state(held);
      return state == whole
          ? held.signs()
          : Signs.of(
              ((EngineAccess) state.access()).snapshot(), held.person(), held.entitlement().id());
    }

    /** When somebody came to hold, or ceased to hold, what has changed; null where nothing has. */
    private @Nullable Instant changed(Held held) {
      List<Reference.Held> times = spans.get(held.person());
      return answer.asked().against() == null || times == null || times.isEmpty()
          ? null
          : isLost(held) ? times.getLast().until() : times.getLast().from();
    }

    /** Whose act it was; a day that came is nobody's, and what was scheduled the clock's. */
    private String by(Held held) {
      Instant changed = changed(held);
      WhoDid.Did did = changed == null ? null : acts.get(changed);
      if (changed == null) {
        return "";
      }
      if (did == null) {
        return "by itself";
      }
      if (did.setup()) {
        return "the set-up";
      }
      return did.person() == null
          ? "on schedule"
          : world.now().person(did.person()).map(p -> p.name().displayed()).orElse("someone");
    }

    private boolean isLost(Held held) {
      return lost != null && lost.contains(answer.asking().snapshot().number(held.person()));
    }

    private String proven(Held held) {
      String what =
          answer.asked().against() != null
              ? (isLost(held) ? "lost" : "gained")
              : answer.asked().from() == null && answer.leavers().isEmpty()
                  ? signs(held.signs())
                  : null;
      return Answers.proven(
          held.entitlement().id().value(),
          held.person().value(),
          answer.asked().against() != null,
          what);
    }

    private final Map<Integer, String> told = new HashMap<>();

    private String signs(int bits) {
      return told.computeIfAbsent(
          bits,
          b ->
              Signs.read(b).stream()
                  .map(s -> s.by().name().toLowerCase(Locale.ROOT) + "/" + s.source().word())
                  .collect(Collectors.joining(" ")));
    }

    private String value(
        ReportColumn column,
        Held held,
        Person person,
        List<Ground> own,
        Map<GrantId, Grounds.GrantLine> given,
        Map<PersonId, Instant> used) {
      return switch (column) {
        case PERSON, USER_NAME, UNIT, SITE, TITLE, STATUS -> text(own(column, person));
        case APP -> apps.applicationOf(held.entitlement()).name();
        case ROLE -> held.entitlement().role().name();
        case SENSITIVITY -> held.entitlement().role().sensitivity().word();
        case GROUNDS -> signs(bits(held));
        case THROUGH ->
            own.stream().map(this::through).distinct().collect(Collectors.joining("; "));
        case GIVEN_BY ->
            own.stream()
                .map(g -> given.get(g.grant().id()))
                .filter(line -> line != null && line.givenBy() != null)
                .map(Grounds.GrantLine::givenBy)
                .distinct()
                .collect(Collectors.joining("; "));
        case REASON ->
            own.stream()
                .map(g -> given.get(g.grant().id()))
                .filter(line -> line != null && line.reason() != null)
                .map(Grounds.GrantLine::reason)
                .distinct()
                .collect(Collectors.joining("; "));
        case SINCE -> {
          List<Reference.Held> times = spans.get(held.person());
          yield times == null || times.isEmpty() ? "" : date(times.getLast().from());
        }
        case UNTIL -> {
          Ahead ahead = answer.asking().ahead();
          Snapshot now = answer.asking().snapshot();
          Instant until =
              ahead == null
                  ? state(held).access().ends(held.person(), held.entitlement().id())
                  : ahead.when(now.number(held.entitlement().id()), now.number(held.person()));
          yield until == null ? "" : day(until.minusNanos(1_000)).toString();
        }
        case LAST_USED -> {
          Instant last = used.get(held.person());
          yield last == null
                  || !reach.reading().seesUse(held.entitlement().application(), person.id())
              ? ""
              : date(last);
        }
        case CHANGE -> answer.asked().against() == null ? "" : isLost(held) ? "lost" : "gained";
        case ON -> {
          Instant changed = changed(held);
          yield changed == null ? "" : date(changed);
        }
        case BY -> by(held);
        case HELD ->
            spans.getOrDefault(held.person(), List.of()).stream()
                .map(time -> time(time.from()) + " to " + time(time.until()))
                .collect(Collectors.joining("; "));
        case CLASHES ->
            conflicts.getOrDefault(held.person(), List.of()).stream()
                .filter(
                    c ->
                        c.one().equals(held.entitlement().id())
                            || c.other().equals(held.entitlement().id()))
                .flatMap(c -> clash(c, held).stream())
                .distinct()
                .sorted()
                .collect(Collectors.joining("; "));
        case STATED -> {
          LocalDate stated = answer.leavers().get(held.person());
          yield stated == null ? "" : stated.toString();
        }
        case COST -> {
          FactValue.Seats seats = apps.applicationOf(held.entitlement()).seats();
          yield seats == null
              ? ""
              : java.math.BigDecimal.valueOf(seats.price(), 2).toPlainString()
                  + " "
                  + seats.currency();
        }
        case LEFT -> person.status() == PersonStatus.DEPARTED ? time(person.since()) : "";
      };
    }

    private Optional<String> clash(Conflict conflict, Held held) {
      EntitlementId other =
          conflict.one().equals(held.entitlement().id()) ? conflict.other() : conflict.one();
      return apps.entitlement(other)
          .filter(e -> directory.person(held.person()).filter(p -> reach.sees(p, e)).isPresent())
          .map(
              e ->
                  rules
                      .accepted(conflict)
                      .map(
                          until ->
                              "%s (accepted until %s)"
                                  .formatted(e.title(), date(until.minusNanos(1_000))))
                      .orElse(e.title()));
    }

    private String through(Ground ground) {
      return switch (ground.grant().given().subject()) {
        case FactValue.Subject.OfPerson s -> "granted directly";
        case FactValue.Subject.ByFilter s ->
            directory.words(p -> reach.reading().seesPerson(p.id())).tell(s.filter());
        case FactValue.Subject.OfGroup s ->
            ground.chain().stream()
                .flatMap(g -> directory.group(g).stream())
                .map(g -> g.name())
                .collect(Collectors.joining(" → "));
      };
    }

    private static String text(@Nullable String value) {
      return value == null ? "" : value;
    }

    private String date(Instant at) {
      return day(at).toString();
    }

    private String time(Instant at) {
      return TIME.withZone(zone).format(at);
    }
  }

  /** How many people of each unit are in an answer, the most first. */
  Map<String, Integer> byUnit(Prepared answer) {
    Map<String, Integer> counts = new TreeMap<>();
    DirectoryView directory = answer.asking().whole().directory();
    for (PersonId id : answer.asking().cut().everyone(answer.entitlements())) {
      String unit = directory.person(id).map(p -> p.value(Attributes.UNIT)).orElse("");
      counts.merge(unit == null ? "" : unit, 1, Integer::sum);
    }
    return counts;
  }
}
