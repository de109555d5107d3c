package eleutheria.server.holdings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import eleutheria.core.access.SeparationRules;
import eleutheria.core.access.engine.Ahead;
import eleutheria.core.access.engine.Asked;
import eleutheria.core.access.engine.Cut;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.access.engine.Evidence;
import eleutheria.core.access.engine.Flips;
import eleutheria.core.access.engine.HoldingsMap;
import eleutheria.core.access.engine.Seen;
import eleutheria.core.access.engine.Snapshot;
import eleutheria.core.access.engine.Spans;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Authority;
import eleutheria.core.mandates.Power;
import eleutheria.core.portal.PortalView;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.Organisation;
import eleutheria.server.state.World;
import eleutheria.server.use.UseBook;
import eleutheria.server.web.Viewer;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.stereotype.Component;

/**
 * The holdings that somebody asks for, cut to what they may see. What is worked out for a query is
 * kept as long as nothing moves, so that a map that is scrolled is laid out once.
 */
@Component
class Holdings {
  private final World world;
  private final UseBook use;
  private final Organisation organisation;
  private final Clock clock;

  private record Key(
      PortalView live, PortalView whole, @Nullable PersonId reader, AskedForm form) {}

  private record MapKey(Asking asking, HoldingsMap.Shape shape) {}

  private final Cache<Key, Asking> asked =
      Caffeine.newBuilder()
          .maximumSize(12)
          .expireAfterWrite(Duration.ofMinutes(1))
          .softValues()
          .build();
  private final Cache<MapKey, HoldingsMap> maps =
      Caffeine.newBuilder()
          .maximumSize(16)
          .expireAfterWrite(Duration.ofMinutes(1))
          .softValues()
          .build();

  Holdings(World world, UseBook use, Organisation organisation, Clock clock) {
    this.world = world;
    this.use = use;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * A query made ready.
   *
   * @param snapshot of the moment whose attributes and reach count
   * @param lost in a comparison, those of {@code cut} who lost it; else null
   * @param before the state that is compared with; else null
   * @param ahead what ends by itself, where that is asked about; else null
   */
  record Asking(
      PortalView whole,
      Snapshot snapshot,
      Cut cut,
      @Nullable Cut lost,
      @Nullable PortalView before,
      @Nullable Ahead ahead,
      AskedForm form) {}

  /**
   * Makes a query ready.
   *
   * @throws Refusal if nobody's holdings may be seen, or it cannot be asked like that
   */
  Asking ask(Viewer viewer, AskedForm form) {
    return ask(viewer.authority(), world.whole(), form);
  }

  /**
   * The same for whoever has an authority.
   *
   * @param reach the state in which their reach counts: the present, whatever day is asked about
   */
  Asking ask(Authority authority, PortalView reach, AskedForm form) {
    PortalView live = reach;
    require(authority, live);
    PortalView whole = form.asOf() == null ? world.whole() : world.whole(form.asOf());
    boolean all =
        authority.hasEverywhere(Power.ACCESS_READ) && authority.hasEverywhere(Power.USE_READ);
    Key key = new Key(live, whole, all ? null : authority.person(), form);
    Asking known = asked.getIfPresent(key);
    if (known != null) {
      return known;
    }
    Asking made = make(authority, reach, whole, form);
    filtered(form, whole).forEach(name -> requireSeen(authority, reach, made, name));
    asked.put(key, made);
    return made;
  }

  /**
   * Ends what is asked for, if nobody's holdings may be seen.
   *
   * @throws Refusal that says which power is missing
   */
  void require(Viewer viewer) {
    require(viewer.authority(), world.whole());
  }

  private static void require(Authority authority, PortalView live) {
    PersonId person = authority.person();
    if (!Seen.any(authority, person != null && !live.directory().reports(person).isEmpty())) {
      throw Refusal.of(
          Problem.forbidden(
              "power",
              "This needs the power “"
                  + Power.ACCESS_READ.word()
                  + "” (to "
                  + Power.ACCESS_READ.line()
                  + "), an app of your own, or a team; a steward can give it."));
    }
  }

  private Asking make(Authority authority, PortalView reach, PortalView whole, AskedForm form) {
    Snapshot snapshot = ((EngineAccess) whole.access()).snapshot();
    PersonId person = authority.person();
    Seen seen =
        Seen.by(
            live(reach),
            snapshot,
            authority,
            person == null ? Set.of() : reach.directory().team(person));
    Instant ending = ending(form);
    Asked wanted = wanted(whole, form, ending);
    if (form.against() != null) {
      return compared(seen, whole, snapshot, form, wanted);
    }
    if (form.from() != null || form.until() != null) {
      return during(seen, whole, snapshot, form, wanted);
    }
    IntFunction<RoaringBitmap> nothing = e -> new RoaringBitmap();
    Ahead ahead = ending == null ? null : Ahead.losing(world.engine(), ending);
    SeparationRules rules = world.rules(whole.access().at());
    Evidence evidence =
        new Evidence(
            form.asOf() == null && authority.has(Power.USE_READ)
                ? use.unused(
                    whole, snapshot, Seen.use(live(reach), snapshot, authority), form.unusedDays())
                : e -> null,
            Evidence.conflicts(
                snapshot,
                form.only("both")
                    ? rules.breaches(whole.access())
                    : rules.conflicts(whole.access())),
            ahead == null ? nothing : ahead::of);
    return new Asking(
        whole, snapshot, Cut.of(snapshot, seen, wanted, evidence), null, null, ahead, form);
  }

  private @Nullable Instant ending(AskedForm form) {
    if (!form.only("ending")) {
      return null;
    }
    if (form.asOf() != null || form.against() != null || form.from() != null) {
      throw Refusal.invalid(
          "ending.past",
          "only",
          "What ends by itself can be shown for now only, not for a past day.");
    }
    LocalDate today = clock.instant().atZone(organisation.zone()).toLocalDate();
    LocalDate day = form.endsBefore() == null ? today.plusDays(30) : form.endsBefore();
    return day.atStartOfDay(organisation.zone()).toInstant();
  }

  private static Asked wanted(PortalView whole, AskedForm form, @Nullable Instant ending) {
    String where = form.where() == null ? "" : form.where().strip();
    if (!where.isEmpty()) {
      switch (FilterParser.parse(where, whole.directory().schema())) {
        case FilterParser.Parsed.Bad bad ->
            throw Refusal.invalid("filter.unreadable", "where", bad.message());
        case FilterParser.Parsed.Good good -> {}
      }
    }
    if (form.only("unused") && form.asOf() != null) {
      throw Refusal.invalid(
          "unused.past", "only", "What is unused can be shown for now only, not for a past day.");
    }
    return new Asked(
        ids(form.apps(), ApplicationId::new),
        ids(form.entitlements(), EntitlementId::new),
        form.sensitivities() == null
            ? Set.of()
            : form.sensitivities().stream().map(Sensitivity::of).collect(Collectors.toSet()),
        where,
        form.only("unused"),
        form.only("conflict") || form.only("both"),
        form.only("hand"),
        ending);
  }

  private static Snapshot live(PortalView reach) {
    return ((EngineAccess) reach.access()).snapshot();
  }

  /** The attributes that a query narrows people by. */
  private static Set<String> filtered(AskedForm form, PortalView whole) {
    String where = form.where() == null ? "" : form.where().strip();
    return !where.isEmpty()
            && FilterParser.parse(where, whole.directory().schema())
                instanceof FilterParser.Parsed.Good good
        ? Set.copyOf(good.filter().reads())
        : Set.of();
  }

  /**
   * Ends what is asked for, if it goes by an attribute that is personal and somebody is in it whose
   * own data the reader may not see: a count by somebody's number or address would tell it.
   */
  void requireSeen(Viewer viewer, Asking asking, String attribute) {
    requireSeen(viewer.authority(), world.whole(), asking, attribute);
  }

  private static void requireSeen(
      Authority authority, PortalView reach, Asking asking, String attribute) {
    FactValue.Definition definition = asking.whole().directory().definitions().get(attribute);
    if (definition == null || !definition.personal()) {
      return;
    }
    RoaringBitmap people = Seen.people(live(reach), authority);
    if (people == null) {
      return;
    }
    RoaringBitmap among = asking.cut().reachedBy(asking.whole().access().apps());
    if (among == null || !RoaringBitmap.andNot(among, people).isEmpty()) {
      throw Refusal.of(
          Problem.forbidden(
              "power",
              "“%s” is personal: using it here needs the power “%s” for everyone shown."
                  .formatted(definition.label(), Power.PEOPLE_READ.word())));
    }
  }

  private static <T> Set<T> ids(@Nullable List<UUID> ids, Function<UUID, T> made) {
    Set<T> found = new HashSet<>();
    if (ids != null) {
      ids.forEach(id -> found.add(made.apply(id)));
    }
    return found;
  }

  /** Whoever gained or lost something since another moment. */
  private Asking compared(
      Seen seen, PortalView whole, Snapshot snapshot, AskedForm form, Asked wanted) {
    marksAreOfAMoment(form);
    PortalView before = world.whole(form.against());
    Map<Integer, RoaringBitmap> moved = new HashMap<>();
    Map<Integer, RoaringBitmap> lost = new HashMap<>();
    for (Flips.Flip flip :
        Flips.between(((EngineAccess) before.access()).snapshot(), snapshot).all()) {
      moved.put(flip.entitlement(), RoaringBitmap.or(flip.gain(), flip.loss()));
      lost.put(flip.entitlement(), flip.loss());
    }
    RoaringBitmap none = new RoaringBitmap();
    return new Asking(
        whole,
        snapshot,
        Cut.over(snapshot, seen, wanted, Evidence.NONE, e -> moved.getOrDefault(e, none)),
        Cut.over(snapshot, seen, wanted, Evidence.NONE, e -> lost.getOrDefault(e, none)),
        before,
        null,
        form);
  }

  /** The same query of people and holdings that are found in another way. */
  Asking over(
      Authority authority, PortalView reach, AskedForm form, IntFunction<RoaringBitmap> base) {
    Asking plain = ask(authority, reach, form);
    PersonId person = authority.person();
    return new Asking(
        plain.whole(),
        plain.snapshot(),
        Cut.over(
            plain.snapshot(),
            Seen.by(
                live(reach),
                plain.snapshot(),
                authority,
                person == null ? Set.of() : reach.directory().team(person)),
            wanted(plain.whole(), form, null),
            Evidence.NONE,
            base),
        null,
        null,
        null,
        form);
  }

  /** Whoever held something at any moment of a span of days. */
  private Asking during(
      Seen seen, PortalView whole, Snapshot snapshot, AskedForm form, Asked wanted) {
    marksAreOfAMoment(form);
    Span span = span(form);
    return new Asking(
        whole,
        snapshot,
        Cut.over(
            snapshot,
            seen,
            wanted,
            Evidence.NONE,
            e -> Spans.set(world.engine(), e, span.from(), span.until())),
        null,
        null,
        null,
        form);
  }

  /** A span from one instant until another, which is not in it. */
  record Span(Instant from, Instant until) {}

  /** The span of a query's days, as far as it is past. */
  Span span(AskedForm form) {
    if (form.from() == null || form.until() == null) {
      throw Refusal.invalid(
          "span.half", form.from() == null ? "from" : "until", "A period needs both of its days.");
    }
    Instant from = form.from().atStartOfDay(organisation.zone()).toInstant();
    Instant until = form.until().plusDays(1).atStartOfDay(organisation.zone()).toInstant();
    Instant begins = world.begins();
    if (begins != null && from.isBefore(begins)) {
      from = begins;
    }
    // Up to the moment that is asked of, so that asked again of it the answer is the same.
    Instant moment = form.asOf() == null ? world.whole().access().at() : form.asOf();
    Instant newest = moment.plusNanos(1_000);
    if (until.isAfter(newest)) {
      until = newest;
    }
    if (!from.isBefore(until)) {
      throw Refusal.invalid(
          "span.empty",
          "until",
          "The period ends before it begins, or is outside what is on record.");
    }
    return new Span(from, until);
  }

  private static void marksAreOfAMoment(AskedForm form) {
    if (form.only() != null && !form.only().isEmpty()) {
      throw Refusal.invalid(
          "marks.moment",
          "only",
          "Unused, in conflict and granted by an administrator can be shown for one moment, not for a period or a comparison.");
    }
  }

  /** The map of a query. */
  HoldingsMap map(Asking asking, HoldingsMap.Shape shape) {
    return maps.get(
        new MapKey(asking, shape),
        key -> {
          try {
            return asking.lost() == null
                ? HoldingsMap.of(asking.cut(), asking.whole().access().apps(), shape)
                : HoldingsMap.comparing(
                    asking.cut(), asking.lost(), asking.whole().access().apps(), shape);
          } catch (IllegalArgumentException tooMany) {
            throw Refusal.invalid(
                "map.likeness",
                "order",
                tooMany.getMessage() + " Narrow the query, or choose another order.");
          }
        });
  }
}
