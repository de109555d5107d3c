package eleutheria.core.drafts;

import static org.assertj.core.api.Assertions.assertThat;

import eleutheria.core.access.AccessView;
import eleutheria.core.access.Conflict;
import eleutheria.core.access.ConflictJudge;
import eleutheria.core.access.Grant;
import eleutheria.core.access.GrantDecisions;
import eleutheria.core.access.Reference;
import eleutheria.core.access.SeparationDecisions;
import eleutheria.core.access.engine.Engine;
import eleutheria.core.access.engine.EngineAccess;
import eleutheria.core.apps.AppsView;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.DirectoryView;
import eleutheria.core.directory.GroupDecisions;
import eleutheria.core.directory.House;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.Applied;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.DraftId;
import eleutheria.core.facts.Edit;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FreshIds;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.mandates.Authority;
import eleutheria.core.portal.Arranging;
import eleutheria.core.portal.CollectionDecisions;
import eleutheria.core.portal.FrontPage;
import eleutheria.core.portal.FrontPageDecisions;
import eleutheria.core.portal.Placing;
import eleutheria.core.portal.PortalView;
import eleutheria.core.portal.TileDecisions;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.LongStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Drafts of random commands over random histories. What they are said to do must be what the
 * definitions say of the states with and without them, at every day to come; and a draft that is
 * published and reverted at once leaves everybody with what they had.
 */
class DraftHistoryTest {
  private static final List<String> UNITS = List.of("Deck crew", "Safety", "Ticketing");
  private static final PersonId AUTHOR = new PersonId(new UUID(7, 7));
  private static final Duration HORIZON = Duration.ofDays(14);

  private final House house = new House();
  private final FreshIds ids = new FreshIds(new SplittableRandom(43));
  private final List<PersonId> people = new ArrayList<>();
  private final List<GroupId> groups = new ArrayList<>();
  private final List<EntitlementId> roles = new ArrayList<>();
  private final List<RuleId> rules = new ArrayList<>();
  private final List<TileId> tiles = new ArrayList<>();
  private final List<FrontPageId> pages = new ArrayList<>();
  private final List<CollectionId> collections = new ArrayList<>();
  private String where = "";

  static LongStream seeds() {
    return LongStream.range(501, 501 + Math.max(8, Integer.getInteger("engine.histories", 8) / 5));
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void aDraftDoesWhatItIsSaidToDo(long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    furnish();
    for (int round = 0; round < 7; round++) {
      for (int i = 0; i < 6; i++) {
        house.decide(Authority.SETUP, command(random));
      }
      house.pass(Duration.ofHours(random.nextInt(30)));
      where = "seed " + seed + " round " + round;
      List<DraftEdit> draft = draft(random, 1 + random.nextInt(6));
      house.pass(Duration.ofHours(random.nextInt(40)));
      consequencesAreRight(draft);
      breachesAreThoseOfTheDraft(draft);
      editsThatARowDoesNotNameDoNotMatterToIt(draft);
      publishedAndRevert(draft);
    }
  }

  private void furnish() {
    for (int i = 0; i < 6; i++) {
      people.add(house.person("Person " + i, UNITS.get(i % UNITS.size())));
    }
    for (int i = 0; i < 5; i++) {
      String name = "Group " + i;
      FactValue.Form form =
          i == 4 ? new FactValue.Form.ByFilter("unit eq \"Safety\"") : new FactValue.Form.Listed();
      groups.add(house.act(m -> GroupDecisions.make(m, name, form, "")));
    }
    for (int i = 0; i < 3; i++) {
      roles.add(house.role("App " + i, Sensitivity.LOW));
    }
    for (int i = 0; i < 5; i++) {
      EntitlementId role = roles.get(i % 3);
      String name = "Tile " + i;
      Set<EntitlementId> needs = i == 4 ? Set.of() : Set.of(role);
      tiles.add(
          house.act(
              m ->
                  TileDecisions.make(
                      m,
                      TileDecisions.Terms.of(
                          new FactValue.TileFace(
                              name, "", "key", "tide", house.app(role), new TreeSet<>(needs))))));
    }
    for (int i = 0; i < 2; i++) {
      FactValue.Separation terms =
          new FactValue.Separation(
              "Rule " + i,
              "tried",
              new TreeSet<>(List.of(roles.get(0))),
              new TreeSet<>(List.of(roles.get(i + 1))));
      rules.add(house.act(m -> SeparationDecisions.set(m, null, null, terms, null, "tried")));
    }
    List<FactValue.Audience> audiences =
        List.of(
            new FactValue.Audience(true, List.of()),
            new FactValue.Audience(false, List.of(new FactValue.Subject.OfGroup(groups.get(0)))),
            new FactValue.Audience(
                false, List.of(new FactValue.Subject.ByFilter("unit eq \"Deck crew\""))));
    for (int i = 0; i < 3; i++) {
      String name = "Collection " + i;
      FactValue.Audience audience = audiences.get(i);
      CollectionId id =
          house.act(
              m -> CollectionDecisions.make(m, new FactValue.CollectionFace(name, ""), audience));
      collections.add(id);
      List<TileId> some = List.of(tiles.get(i), tiles.get(i + 1), tiles.get(4));
      house.act(m -> arrange(m, id, some));
    }
    for (int i = 0; i < 2; i++) {
      FrontPageDecisions.Terms terms =
          new FrontPageDecisions.Terms(
              "Page " + i,
              i == 0,
              new FactValue.Audience(
                  false, List.of(new FactValue.Subject.OfGroup(groups.get(i))), i * 3),
              List.of(),
              null);
      pages.add(house.act(m -> FrontPageDecisions.make(m, terms)));
    }
  }

  private static Outcome<CollectionId> arrange(Moment m, CollectionId id, List<TileId> wanted) {
    return Arranging.whole(m, id, wanted, t -> false);
  }

  private Function<Moment, Outcome<Object>> command(SplittableRandom random) {
    PersonId person = people.get(random.nextInt(people.size()));
    GroupId group = groups.get(random.nextInt(groups.size()));
    GroupId listed = groups.get(random.nextInt(4));
    EntitlementId role = roles.get(random.nextInt(roles.size()));
    CollectionId collection = collections.get(random.nextInt(collections.size()));
    int unit = random.nextInt(3);
    int pick = random.nextInt(1_000_000);
    boolean one = random.nextBoolean();
    boolean other = random.nextBoolean();
    int days = random.nextInt(4);
    Function<Moment, LocalDate> today = m -> m.today();
    Function<Moment, Outcome<?>> command =
        switch (random.nextInt(17)) {
          case 0, 1, 2 -> {
            FactValue.Subject subject =
                switch (pick % 3) {
                  case 0 -> new FactValue.Subject.OfPerson(person);
                  case 1 -> new FactValue.Subject.OfGroup(group);
                  default ->
                      new FactValue.Subject.ByFilter("unit eq \"%s\"".formatted(UNITS.get(unit)));
                };
            yield m ->
                GrantDecisions.give(
                    m,
                    role,
                    List.of(subject),
                    one ? null : today.apply(m).plusDays(days),
                    other ? null : today.apply(m).plusDays(3L + days),
                    "tried");
          }
          case 3, 4 ->
              m -> {
                List<Grant> grants = AccessView.at(m).grants(role);
                return grants.isEmpty()
                    ? Outcome.refused(List.of())
                    : GrantDecisions.end(
                        m, List.of(grants.get(pick % grants.size()).id()), List.of(), "tried");
              };
          case 5, 6 ->
              m ->
                  GroupDecisions.add(
                      m,
                      listed,
                      List.of(pick % 3 == 0 ? group : person),
                      one ? null : today.apply(m).plusDays(days),
                      "");
          case 7 -> m -> GroupDecisions.remove(m, listed, person, "");
          case 8 ->
              m ->
                  put(
                      m,
                      one
                          ? Attributes.key(person, Attributes.UNIT, false, "")
                          : new FactKey.Status(person),
                      one
                          ? new FactValue.Text(UNITS.get(unit))
                          : FactValue.Standing.of(
                              other ? PersonStatus.ACTIVE : PersonStatus.PAUSED));
          case 9 ->
              m -> {
                ApplicationId app =
                    AccessView.at(m).apps().entitlement(role).orElseThrow().application();
                ApplicationState state =
                    AccessView.at(m).apps().application(app).orElseThrow().state();
                return put(
                    m,
                    new FactKey.AppState(app),
                    new FactValue.AppState(
                        state == ApplicationState.OPEN
                            ? ApplicationState.PAUSED
                            : ApplicationState.OPEN));
              };
          case 10 ->
              m ->
                  SeparationDecisions.except(
                      m,
                      new Conflict(
                          rules.get(pick % 2), person, roles.get(0), roles.get(1 + pick % 2)),
                      today.apply(m).plusDays(days),
                      "tried");
          case 11 ->
              m -> {
                FactKey key = new FactKey.SeparationRule(rules.get(pick % 2));
                FactValue.Separation base = (FactValue.Separation) m.facts().valueAt(key, m.at());
                return base == null
                    ? Outcome.refused(List.of())
                    : SeparationDecisions.set(
                        m,
                        rules.get(pick % 2),
                        base,
                        new FactValue.Separation(
                            base.name(), base.why() + "!", base.one(), base.other()),
                        one ? null : today.apply(m).plusDays(days),
                        "");
              };
          case 12 ->
              m -> {
                FactValue.Audience base =
                    PortalView.at(m).collection(collection).orElseThrow().audience();
                return CollectionDecisions.setAudience(
                    m,
                    collection,
                    base,
                    new FactValue.Audience(
                        one, List.of(new FactValue.Subject.OfGroup(groups.get(pick % 5)))));
              };
          case 13, 14 ->
              m ->
                  FrontPageDecisions.change(
                      m,
                      pages.get(pick % 2),
                      FrontPageDecisions.terms(m.facts(), pages.get(pick % 2), m.at(), m.zone()),
                      new FrontPageDecisions.Terms(
                          "Page " + pick % 2,
                          one,
                          new FactValue.Audience(
                              false,
                              List.of(new FactValue.Subject.OfGroup(groups.get(pick % 5))),
                              other ? 1 + days : 0),
                          one
                              ? List.of()
                              : List.of(
                                  new FrontPageDecisions.Wave(
                                      FactValue.Audience.EVERYONE, today.apply(m).plusDays(days))),
                          null));
          case 15 ->
              m ->
                  FrontPageDecisions.arrange(
                      m,
                      pages.get(pick % 2),
                      List.of(
                          new Placing<>(
                              collection,
                              PortalView.at(m)
                                  .page(pages.get(pick % 2))
                                  .orElseThrow()
                                  .ranks()
                                  .get(collection),
                              one ? new Placing.Spot<>(null, false) : null)));
          default ->
              m -> {
                List<TileId> order = new ArrayList<>(tiles);
                Collections.rotate(order, pick % 5);
                return arrange(m, collection, order.subList(0, 1 + pick % 4));
              };
        };
    return m -> {
      Outcome<?> outcome = command.apply(m);
      return switch (outcome) {
        case Outcome.Refused<?> refused -> Outcome.refused(refused.problems());
        case Outcome.Done<?> done -> Outcome.done(done.act(), done.edits(), done.result());
      };
    };
  }

  private static Outcome<Integer> put(Moment m, FactKey key, FactValue value) {
    Edits edits = m.edits();
    edits.put(key, value);
    return Outcome.done(Act.of(ActName.SETTINGS_BEGIN), edits.list(), 1);
  }

  private Moment moment(Facts facts, DirectoryView directory, Instant at) {
    return new Moment(facts, directory, at, House.ZONE, () -> ids.next(at), Authority.SETUP);
  }

  /** Each command is decided on what the earlier ones would bring. */
  private List<DraftEdit> draft(SplittableRandom random, int size) {
    List<DraftEdit> draft = new ArrayList<>();
    for (int tries = 0; tries < 30 && draft.size() < size; tries++) {
      Instant at = house.pass(Duration.ofSeconds(1)).now();
      Overlay overlay = Overlay.of(house.facts, draft, at);
      Moment moment = moment(overlay.after(), DirectoryView.of(overlay.after(), at), at);
      if (command(random).apply(moment) instanceof Outcome.Done<Object> done
          && !done.edits().isEmpty()) {
        draft.add(new DraftEdit(draft.size() + 1, AUTHOR, at, done.act(), done.edits()));
      }
    }
    return draft;
  }

  // ---- what the definitions say

  /** All that is so for somebody at a moment, by the definitions. */
  private record So(
      Map<EntitlementId, Set<PersonId>> holds,
      Map<EntitlementId, Set<PersonId>> grounded,
      Map<EntitlementId, Map<PersonId, Set<GrantId>>> grounds,
      Map<ObjectId, Set<PersonId>> sees,
      Map<ObjectId, Set<PersonId>> meets,
      Set<Conflict> conflicts) {}

  private So so(Facts facts, Instant at) {
    Reference reference = new Reference(facts);
    PortalView view = PortalView.of(facts, DirectoryView.of(facts, at), at);
    Map<EntitlementId, Set<PersonId>> holds = new HashMap<>();
    Map<EntitlementId, Set<PersonId>> grounded = new HashMap<>();
    Map<EntitlementId, Map<PersonId, Set<GrantId>>> grounds = new HashMap<>();
    Map<ObjectId, Set<PersonId>> sees = new HashMap<>();
    Map<ObjectId, Set<PersonId>> meets = new HashMap<>();
    for (PersonId person : people) {
      for (EntitlementId role : roles) {
        if (reference.entitled(person, role, at)
            && view.directory().person(person).orElseThrow().status() != PersonStatus.DEPARTED) {
          grounded.computeIfAbsent(role, r -> new HashSet<>()).add(person);
        }
        if (reference.holds(person, role, at)) {
          holds.computeIfAbsent(role, r -> new HashSet<>()).add(person);
          Set<GrantId> own = new HashSet<>();
          for (Grant grant : view.access().grants(role)) {
            if (reference.covers(grant.given().subject(), person, at)) {
              own.add(grant.id());
            }
          }
          grounds.computeIfAbsent(role, r -> new HashMap<>()).put(person, own);
        }
      }
      if (view.directory().person(person).orElseThrow().status() == PersonStatus.ACTIVE) {
        FrontPage front = view.visible(person, (p, e) -> false);
        meets.computeIfAbsent(front.page().id(), i -> new HashSet<>()).add(person);
        for (FrontPage.Section section : front.sections()) {
          if (section.collection() != null) {
            sees.computeIfAbsent(section.collection(), c -> new HashSet<>()).add(person);
          }
          section
              .tiles()
              .forEach(t -> sees.computeIfAbsent(t.tile().id(), i -> new HashSet<>()).add(person));
        }
      }
    }
    Set<Conflict> conflicts = new HashSet<>();
    for (RuleId rule : rules) {
      if (facts.valueAt(new FactKey.SeparationRule(rule), at)
          instanceof FactValue.Separation terms) {
        for (PersonId person : people) {
          for (EntitlementId one : terms.one()) {
            for (EntitlementId other : terms.other()) {
              if (reference.entitled(person, one, at)
                  && reference.entitled(person, other, at)
                  && facts.valueAt(new FactKey.Excepted(rule, person, one, other), at) == null) {
                conflicts.add(new Conflict(rule, person, one, other));
              }
            }
          }
        }
      }
    }
    return new So(holds, grounded, grounds, sees, meets, conflicts);
  }

  private static Set<Conflict> rest(Set<Conflict> one, Set<Conflict> other) {
    Set<Conflict> found = new HashSet<>(one);
    found.removeAll(other);
    return found;
  }

  private static <K> Map<K, Set<PersonId>> minus(
      Map<K, Set<PersonId>> one, Map<K, Set<PersonId>> other) {
    Map<K, Set<PersonId>> found = new HashMap<>();
    one.forEach(
        (key, people) -> {
          Set<PersonId> rest = new HashSet<>(people);
          rest.removeAll(other.getOrDefault(key, Set.of()));
          if (!rest.isEmpty()) {
            found.put(key, rest);
          }
        });
    return found;
  }

  private static <K> Map<K, Set<PersonId>> and(
      Map<K, Set<PersonId>> one, Map<K, Set<PersonId>> other) {
    return minus(one, minus(one, other));
  }

  private static <K> Map<K, Set<PersonId>> or(
      Map<K, Set<PersonId>> one, Map<K, Set<PersonId>> other) {
    Map<K, Set<PersonId>> found = new HashMap<>();
    one.forEach((k, people) -> found.computeIfAbsent(k, i -> new HashSet<>()).addAll(people));
    other.forEach((k, people) -> found.computeIfAbsent(k, i -> new HashSet<>()).addAll(people));
    return found;
  }

  private static <K> Map<K, Set<PersonId>> without(Map<K, Set<PersonId>> all, Set<PersonId> some) {
    Map<K, Set<PersonId>> found = new HashMap<>();
    all.forEach(
        (k, people) -> {
          Set<PersonId> rest = new HashSet<>(people);
          rest.removeAll(some);
          if (!rest.isEmpty()) {
            found.put(k, rest);
          }
        });
    return found;
  }

  private static <K> Set<PersonId> all(Map<K, Set<PersonId>> some) {
    Set<PersonId> found = new HashSet<>();
    some.values().forEach(found::addAll);
    return found;
  }

  private Map<EntitlementId, Set<PersonId>> keeps(So without, So with) {
    Map<EntitlementId, Set<PersonId>> found = new HashMap<>();
    without
        .grounds()
        .forEach(
            (role, people) ->
                people.forEach(
                    (person, grants) -> {
                      Set<GrantId> now = with.grounds().getOrDefault(role, Map.of()).get(person);
                      if (now != null && !now.containsAll(grants)) {
                        found.computeIfAbsent(role, r -> new HashSet<>()).add(person);
                      }
                    }));
    return found;
  }

  private static ApplicationId app(Overlay overlay, EntitlementId role, Instant at) {
    FactValue value = overlay.before().valueAt(new FactKey.Entitlement(role), at);
    if (value == null) {
      value = overlay.after().valueAt(new FactKey.Entitlement(role), at);
    }
    return ((FactValue.Role) value).application();
  }

  private static boolean hasNothing(
      Overlay overlay, So with, ApplicationId app, PersonId person, Instant at) {
    return over(overlay, app, at)
        || with.grounded().entrySet().stream()
            .filter(e -> e.getValue().contains(person))
            .noneMatch(e -> app(overlay, e.getKey(), at).equals(app));
  }

  private static boolean over(Overlay overlay, ApplicationId app, Instant at) {
    return overlay.after().valueAt(new FactKey.AppState(app), at)
            instanceof FactValue.AppState standing
        && (standing.state() == ApplicationState.RETIRED
            || standing.state() == ApplicationState.BLOCKED);
  }

  private void consequencesAreRight(List<DraftEdit> draft) {
    Instant at = house.pass(Duration.ofSeconds(1)).now();
    Overlay overlay = Overlay.of(house.facts, draft, at);
    PortalView plain = PortalView.of(house.facts, house.directory(), at);
    Engine engine = Engine.of(house.facts, at);
    AppsView apps = AppsView.of(house.facts, house.directory(), at);
    PortalView fast =
        plain.with(new EngineAccess(engine, engine.now(), house.directory(), apps), at);
    consequencesAreRight(Consequences.of(plain, overlay, at), overlay, at);
    Consequences quick = Consequences.of(fast, overlay, at);
    consequencesAreRight(quick, overlay, at);
    assertThat(quick.marks()).as(where).isEqualTo(Consequences.of(plain, overlay, at).marks());
    assertThat(Marks.read(quick.marks().bytes())).isEqualTo(quick.marks());
    assertThat(Consequences.of(fast, Overlay.of(house.facts, List.of(), at), at).moments())
        .isEmpty();
  }

  private void consequencesAreRight(Consequences told, Overlay overlay, Instant at) {
    Map<Instant, Consequences.At> moments = new HashMap<>();
    told.moments().forEach(moment -> moments.put(moment.at(), moment));
    TreeSet<Instant> instants = new TreeSet<>(List.of(at));
    for (LocalDate day = at.atZone(House.ZONE).toLocalDate().plusDays(1);
        Moments.startOf(day, House.ZONE).isBefore(at.plus(HORIZON));
        day = day.plusDays(1)) {
      instants.add(Moments.startOf(day, House.ZONE));
    }
    for (PersonId person : people) {
      for (Facts facts : List.of(overlay.before(), overlay.after())) {
        for (Spell spell : facts.spells(new FactKey.Status(person))) {
          for (int days = 1; days <= 4; days++) {
            Instant end = spell.from().plus(Duration.ofDays(days));
            if (end.isAfter(at)) {
              instants.add(end);
            }
          }
        }
      }
    }
    assertThat(instants).as(where).containsAll(moments.keySet());
    So none = new So(Map.of(), Map.of(), Map.of(), Map.of(), Map.of(), Set.of());
    for (Instant instant : instants) {
      Instant just = instant.minusNanos(1_000);
      boolean first = instant.equals(at);
      So was = first ? none : so(overlay.before(), just);
      So wasWith = first ? none : so(overlay.after(), just);
      So is = so(overlay.before(), instant);
      So with = so(overlay.after(), instant);
      String here = where + " at " + instant;
      Consequences.At moment = moments.get(instant);
      Map<EntitlementId, Set<PersonId>> hadGained = minus(wasWith.holds(), was.holds());
      Map<EntitlementId, Set<PersonId>> hadLost = minus(was.holds(), wasWith.holds());
      Map<EntitlementId, Set<PersonId>> gained = minus(with.holds(), is.holds());
      Map<EntitlementId, Set<PersonId>> lost = minus(is.holds(), with.holds());
      Map<EntitlementId, Set<PersonId>> gain = minus(gained, hadGained);
      Map<EntitlementId, Set<PersonId>> loss = minus(lost, hadLost);
      Map<EntitlementId, Set<PersonId>> ends = minus(minus(hadGained, gained), with.holds());
      Map<EntitlementId, Set<PersonId>> back = and(minus(hadLost, lost), with.holds());
      assertThat(copy(moment == null ? null : moment.gain())).as(here).isEqualTo(gain);
      assertThat(copy(moment == null ? null : moment.loss())).as(here).isEqualTo(loss);
      assertThat(copy(moment == null ? null : moment.ends())).as(here).isEqualTo(ends);
      assertThat(copy(moment == null ? null : moment.back())).as(here).isEqualTo(back);
      assertThat(copy(moment == null ? null : moment.keep()))
          .as(here)
          .isEqualTo(minus(keeps(is, with), keeps(was, wasWith)));
      Map<ApplicationId, Set<PersonId>> last = new HashMap<>();
      or(loss, ends)
          .forEach(
              (role, people) ->
                  people.stream()
                      .filter(
                          p -> hasNothing(overlay, with, app(overlay, role, instant), p, instant))
                      .forEach(
                          p ->
                              last.computeIfAbsent(
                                      app(overlay, role, instant), a -> new HashSet<>())
                                  .add(p)));
      Map<ApplicationId, Set<PersonId>> toldLast = new HashMap<>();
      if (moment != null) {
        moment.last().forEach((app, ended) -> toldLast.put(app, new HashSet<>(ended.people())));
      }
      assertThat(toldLast).as(here).isEqualTo(last);
      assertThat(copy(moment == null ? null : moment.idle()))
          .as(here)
          .isEqualTo(and(or(loss, ends), with.grounded()));
      Map<ObjectId, Set<PersonId>> hadMore = minus(wasWith.sees(), was.sees());
      Map<ObjectId, Set<PersonId>> hadLess = minus(was.sees(), wasWith.sees());
      Map<ObjectId, Set<PersonId>> more = minus(with.sees(), is.sees());
      Map<ObjectId, Set<PersonId>> less = minus(is.sees(), with.sees());
      Set<PersonId> gainers = all(or(gain, back));
      Set<PersonId> losers = all(or(loss, ends));
      assertThat(copy(moment == null ? null : moment.more()))
          .as(here)
          .isEqualTo(
              without(or(minus(more, hadMore), and(minus(hadLess, less), with.sees())), gainers));
      assertThat(copy(moment == null ? null : moment.less()))
          .as(here)
          .isEqualTo(
              without(or(minus(less, hadLess), minus(minus(hadMore, more), with.sees())), losers));
      Map<ObjectId, Set<PersonId>> movedPages = new HashMap<>();
      if (moment != null) {
        moment
            .moved()
            .forEach(
                (thing, some) -> {
                  if (thing instanceof FrontPageId) {
                    movedPages.put(thing, new HashSet<>(some));
                  }
                });
      }
      assertThat(movedPages)
          .as(here)
          .isEqualTo(minus(minus(with.meets(), is.meets()), minus(wasWith.meets(), was.meets())));
      assertThat(moment == null ? Set.of() : moment.conflicts())
          .as(here)
          .isEqualTo(
              rest(
                  rest(with.conflicts(), is.conflicts()),
                  rest(wasWith.conflicts(), was.conflicts())));
      assertThat(moment == null ? Set.of() : moment.settled())
          .as(here)
          .isEqualTo(
              rest(
                  rest(is.conflicts(), with.conflicts()),
                  rest(was.conflicts(), wasWith.conflicts())));
      if (moment != null) {
        Reference without = new Reference(overlay.before());
        assertThat(moment.stopping())
            .as(here)
            .allMatch(
                c ->
                    !without.entitled(c.person(), c.one(), instant)
                        || !without.entitled(c.person(), c.other(), instant));
        moment
            .gain()
            .forEach((e, some) -> assertThat(moment.because(e, some)).as(here).isNotEmpty());
        moment
            .loss()
            .forEach((e, some) -> assertThat(moment.because(e, some)).as(here).isNotEmpty());
        moment
            .rest()
            .forEach(
                (e, each) -> each.forEach((p, rest) -> assertThat(rest.grants()).isNotEmpty()));
      }
    }
  }

  /** Every moment to come at which anything begins or ends, with the draft or without. */
  private static TreeSet<Instant> boundaries(Overlay overlay, Instant at) {
    TreeSet<Instant> found = new TreeSet<>(List.of(at));
    for (Facts facts : List.of(overlay.before(), overlay.after())) {
      facts.forEach(
          (key, spells) ->
              spells.forEach(spell -> found.addAll(List.of(spell.from(), spell.until()))));
    }
    found.removeIf(t -> t.isBefore(at) || t.equals(Moments.FOREVER));
    return found;
  }

  /**
   * What a rule keeps apart and the draft brings together, at any moment to come: unless it was
   * together before, or somebody has accepted it, at that moment or at one before.
   */
  private void breachesAreThoseOfTheDraft(List<DraftEdit> draft) {
    Instant at = house.pass(Duration.ofSeconds(1)).now();
    Overlay overlay = Overlay.of(house.facts, draft, at);
    Reference without = new Reference(overlay.before());
    Set<Conflict> accepted = new HashSet<>();
    Set<Conflict> wanted = new HashSet<>();
    for (Instant instant : boundaries(overlay, at)) {
      for (FactKey.Excepted key : overlay.after().keys(FactKey.Excepted.class)) {
        if (overlay.after().valueAt(key, instant) != null) {
          accepted.add(new Conflict(key.subject(), key.person(), key.one(), key.other()));
        }
      }
      for (Conflict conflict : so(overlay.after(), instant).conflicts()) {
        boolean stood =
            without.entitled(conflict.person(), conflict.one(), instant)
                && without.entitled(conflict.person(), conflict.other(), instant);
        if (!stood && !accepted.contains(conflict)) {
          wanted.add(conflict);
        }
      }
    }
    AccessView.Supposition supposed =
        AccessView.Supposition.of(house.facts, overlay.edits(), overlay.moves(), at);
    AccessView plain = AccessView.of(house.facts, house.directory(), at);
    Engine engine = Engine.of(house.facts, at);
    AccessView fast =
        new EngineAccess(
            engine,
            engine.now(),
            house.directory(),
            AppsView.of(house.facts, house.directory(), at));
    assertThat(ConflictJudge.caused(plain, supposed)).as(where).isEqualTo(wanted);
    assertThat(ConflictJudge.caused(fast, supposed)).as(where).isEqualTo(wanted);
    if (!wanted.isEmpty()) {
      assertThat(ConflictJudge.matters(house.facts, overlay.after(), overlay.edits()))
          .as(where)
          .isTrue();
    }
  }

  /** A row says because of which edits it is: without all the others it would be the same. */
  private void editsThatARowDoesNotNameDoNotMatterToIt(List<DraftEdit> draft) {
    Instant at = house.pass(Duration.ofSeconds(1)).now();
    Overlay overlay = Overlay.of(house.facts, draft, at);
    Consequences told =
        Consequences.of(PortalView.of(house.facts, house.directory(), at), overlay, at);
    Reference whole = new Reference(overlay.after());
    for (Consequences.At moment : told.moments()) {
      for (Map<EntitlementId, ? extends Set<PersonId>> rows :
          List.of(moment.gain(), moment.loss())) {
        rows.forEach(
            (role, people) ->
                people.forEach(
                    person -> {
                      List<Integer> named = moment.because(role, Set.of(person));
                      Overlay alone =
                          Overlay.of(
                              house.facts,
                              draft.stream().filter(e -> named.contains(e.seq())).toList(),
                              at);
                      // An edit that was made on top of another cannot stand without it.
                      if (alone.told().stream().noneMatch(Overlay.Result::clashes)) {
                        assertThat(new Reference(alone.after()).holds(person, role, moment.at()))
                            .as("%s at %s because of %s", where, moment.at(), named)
                            .isEqualTo(whole.holds(person, role, moment.at()));
                      }
                    }));
      }
    }
  }

  private static <K> Map<K, Set<PersonId>> copy(@Nullable Map<K, Set<PersonId>> some) {
    Map<K, Set<PersonId>> found = new HashMap<>();
    if (some != null) {
      some.forEach((key, people) -> found.put(key, new HashSet<>(people)));
    }
    return found;
  }

  // ---- publishing, and reverting

  private void publishedAndRevert(List<DraftEdit> draft) {
    Instant at = house.pass(Duration.ofSeconds(1)).now();
    Overlay overlay = Overlay.of(house.facts, draft, at);
    PortalView plain = PortalView.of(house.facts, house.directory(), at);
    Consequences told = Consequences.of(plain, overlay, at);
    Marks seen = told.marks();
    DraftId id = new DraftId(ids.next(at));
    Facts before = house.facts.with(List.of());
    List<Instant> moments = new ArrayList<>();
    for (int halfDay = 1; halfDay < 20; halfDay++) {
      moments.add(at.plus(Duration.ofHours(12L * halfDay)));
    }
    List<So> had = moments.stream().map(t -> so(before, t)).toList();
    List<Edit> published = new ArrayList<>();
    Outcome<Integer> outcome =
        house.decide(
            Authority.SETUP,
            m -> {
              Outcome<Integer> decided =
                  DraftDecisions.publish(
                      m,
                      new DraftDecisions.Publishing(
                          id, overlay.applied(), seen, "tried", false, null));
              if (decided instanceof Outcome.Done<Integer> done) {
                published.addAll(done.edits());
              }
              return decided;
            });
    if (overlay.edits().isEmpty() || !told.stopping().isEmpty()) {
      assertThat(outcome).as(where).isInstanceOf(Outcome.Refused.class);
      return;
    }
    assertThat(outcome).as(where).isInstanceOf(Outcome.Done.class);
    Instant later = house.pass(Duration.ofSeconds(5)).now();
    Revert back =
        Revert.of(house.facts, published, later, () -> ids.next(later), AUTHOR, "put back");
    assertThat(back.told()).as(where).allMatch(each -> each.fate() == Revert.Fate.APPLIES);
    Overlay undone = Overlay.of(house.facts, back.edits(), later);
    assertThat(undone.told()).as(where).noneMatch(Overlay.Result::clashes);
    assertThat(house.facts.apply(undone.edits(), later)).isInstanceOf(Applied.Moves.class);
    for (int i = 0; i < moments.size(); i++) {
      So has = so(undone.after(), moments.get(i));
      assertThat(has.holds()).as(where).isEqualTo(had.get(i).holds());
      assertThat(has.sees()).as(where).isEqualTo(had.get(i).sees());
    }
    house.decide(
        Authority.SETUP,
        m -> {
          Overlay again = Overlay.of(m.facts(), back.edits(), m.at());
          return Outcome.done(Act.of(ActName.DRAFT_REVERT), again.edits(), 1);
        });
    Instant last = house.pass(Duration.ofSeconds(5)).now();
    Revert twice =
        Revert.of(house.facts, published, last, () -> ids.next(last), AUTHOR, "put back");
    assertThat(twice.told()).as(where).noneMatch(each -> each.fate() == Revert.Fate.APPLIES);
  }
}
