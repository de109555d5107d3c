package eleutheria.core.portal;

import eleutheria.core.access.People;
import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Spell;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Making front pages, saying who meets them, and which collections they show. */
public final class FrontPageDecisions {
  public static final int MOST_PAGES = 200;
  public static final int MOST_WAVES = 50;
  public static final int LONGEST_NOTICE = 500;

  private FrontPageDecisions() {}

  /**
   * Whom a page reaches from a day on.
   *
   * @param from null for at once
   */
  public record Wave(FactValue.Audience audience, @Nullable LocalDate from) {}

  /**
   * What is told at the head of a page.
   *
   * @param from its first day; null for at once
   * @param until its last day; null for until it is taken away
   */
  public record Notice(String text, @Nullable LocalDate from, @Nullable LocalDate until) {}

  /**
   * All that is said of a page, but which collections it shows.
   *
   * @param only whether collections that it does not name are left out
   * @param waves none for everyone of its audience at once
   */
  public record Terms(
      String name,
      boolean only,
      FactValue.Audience audience,
      List<Wave> waves,
      @Nullable Notice notice) {}

  /** What is said of a page now, in days of a zone; null where there is none. */
  public static @Nullable Terms terms(Facts facts, FrontPageId id, Instant at, ZoneId zone) {
    FactValue.FrontFace face =
        facts.valueAt(new FactKey.Front(id), at) instanceof FactValue.FrontFace said ? said : null;
    boolean everyones = id.equals(FrontPageId.EVERYONE);
    if (face == null) {
      if (!everyones) {
        return null;
      }
      face = Arrangement.EVERYONES;
    }
    Map<Integer, Wave> waves = new TreeMap<>();
    for (FactKey.FrontWave key : waves(facts, id)) {
      for (Spell spell : facts.from(key, at)) {
        waves.put(
            key.wave(),
            new Wave((FactValue.Audience) spell.value(), spell.from().atZone(zone).toLocalDate()));
      }
    }
    Notice notice = null;
    for (Spell spell : facts.from(new FactKey.FrontNotice(id), at)) {
      notice =
          new Notice(
              ((FactValue.Text) spell.value()).text(),
              spell.from().atZone(zone).toLocalDate(),
              spell.until().equals(Moments.FOREVER)
                  ? null
                  : spell.until().minusNanos(1_000).atZone(zone).toLocalDate());
    }
    return new Terms(
        face.name(),
        face.only(),
        everyones
            ? FactValue.Audience.EVERYONE
            : facts.valueAt(new FactKey.Audience(id), at) instanceof FactValue.Audience audience
                ? audience
                : FactValue.Audience.NOBODY,
        List.copyOf(waves.values()),
        notice);
  }

  private static List<FactKey.FrontWave> waves(Facts facts, FrontPageId id) {
    return facts.about(id).stream()
        .flatMap(
            key ->
                key instanceof FactKey.FrontWave wave
                    ? java.util.stream.Stream.of(wave)
                    : java.util.stream.Stream.empty())
        .toList();
  }

  /**
   * A new page stands before everyone's and behind all others, and shows what those it is for meet
   * now.
   */
  public static Outcome<FrontPageId> make(Moment moment, Terms terms) {
    if (!moment.authority().hasEverywhere(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    PortalView portal = PortalView.at(moment);
    FrontPageId id = new FrontPageId(moment.ids().get());
    List<Problem> problems = problems(moment, portal, id, null, terms);
    if (portal.pages().size() >= MOST_PAGES) {
      problems.add(
          Problem.invalid(
              "front-page.many", "name", "There are %d already.".formatted(MOST_PAGES)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    String last =
        portal.pages().stream()
            .filter(page -> !page.everyones())
            .map(Page::rank)
            .filter(rank -> !rank.equals("~"))
            .max(String::compareTo)
            .orElse(null);
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.FrontRank(id), new FactValue.Text(Rank.between(last, null)));
    put(moment, edits, id, null, terms);
    metNow(portal, terms.audience())
        .ranks()
        .forEach(
            (collection, rank) ->
                edits.put(new FactKey.Fronted(id, collection), new FactValue.Text(rank)));
    return Outcome.done(Act.of(ActName.FRONT_PAGE_MAKE, id), edits.list(), id);
  }

  /** The page that most of an audience meet now: a new one begins as that stands. */
  private static Page metNow(PortalView portal, FactValue.Audience audience) {
    Set<PersonId> whom = portal.active(audience);
    FrontPageId most = FrontPageId.EVERYONE;
    int people = 0;
    for (Map.Entry<FrontPageId, Set<PersonId>> met : portal.meets().entrySet()) {
      int here = People.and(met.getValue(), whom).size();
      if (here > people) {
        people = here;
        most = met.getKey();
      }
    }
    return portal.page(most).orElseThrow();
  }

  public static Outcome<FrontPageId> change(
      Moment moment, FrontPageId id, Terms base, Terms wanted) {
    Terms current = terms(moment.facts(), id, moment.at(), moment.zone());
    if (current == null) {
      return Outcome.refused(Problem.absent("front-page"));
    }
    if (!moment.authority().hasEverywhere(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    if (!current.equals(base)) {
      return Outcome.refused(
          Problem.stale("name", "Someone has changed this front page meanwhile."));
    }
    List<Problem> problems = problems(moment, PortalView.at(moment), id, current, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    put(moment, edits, id, current, wanted);
    return Outcome.done(Act.of(ActName.FRONT_PAGE_CHANGE, id), edits.list(), id);
  }

  private static void put(
      Moment moment, Edits edits, FrontPageId id, @Nullable Terms current, Terms terms) {
    edits.put(
        new FactKey.Front(id),
        new FactValue.FrontFace(terms.name().strip(), terms.only(), !terms.waves().isEmpty()));
    if (!id.equals(FrontPageId.EVERYONE)) {
      edits.put(new FactKey.Audience(id), terms.audience());
    }
    List<FactKey.FrontWave> known = waves(moment.facts(), id);
    if (current == null || !current.waves().equals(terms.waves())) {
      List<Wave> left = new ArrayList<>(terms.waves());
      int highest = -1;
      for (FactKey.FrontWave key : known) {
        highest = Math.max(highest, key.wave());
        List<Spell> spells = moment.facts().from(key, moment.at());
        if (spells.isEmpty()) {
          continue;
        }
        Wave said =
            new Wave(
                (FactValue.Audience) spells.getLast().value(),
                spells.getLast().from().atZone(moment.zone()).toLocalDate());
        if (!left.remove(said)) {
          edits.end(key);
        }
      }
      for (Wave wave : left) {
        highest++;
        edits.timeline(
            new FactKey.FrontWave(id, highest),
            List.of(new Spell(wave.audience(), from(moment, wave.from()), Moments.FOREVER)));
      }
    }
    if (current != null && java.util.Objects.equals(current.notice(), terms.notice())) {
      return;
    }
    Notice notice = terms.notice();
    FactKey.FrontNotice key = new FactKey.FrontNotice(id);
    if (notice != null) {
      edits.timeline(
          key,
          List.of(
              new Spell(
                  new FactValue.Text(notice.text().strip()),
                  from(moment, notice.from()),
                  notice.until() == null
                      ? Moments.FOREVER
                      : Moments.endOf(notice.until(), moment.zone()))));
    } else if (!moment.facts().from(key, moment.at()).isEmpty()) {
      edits.end(key);
    }
  }

  private static Instant from(Moment moment, @Nullable LocalDate day) {
    Instant from = day == null ? moment.at() : Moments.startOf(day, moment.zone());
    return from.isBefore(moment.at()) ? moment.at() : from;
  }

  private static List<Problem> problems(
      Moment moment, PortalView portal, FrontPageId id, @Nullable Terms current, Terms terms) {
    List<Problem> problems = new ArrayList<>();
    boolean everyones = id.equals(FrontPageId.EVERYONE);
    if (terms.name().isBlank() && !everyones) {
      problems.add(Problem.invalid("front-page.no-name", "name", "A front page has a name."));
    }
    AppDecisions.length(problems, "name", terms.name(), AppDecisions.LONGEST_NAME);
    for (Page page : portal.pages()) {
      if (!page.id().equals(id)
          && !terms.name().isBlank()
          && Folding.fold(page.face().name()).equals(Folding.fold(terms.name().strip()))) {
        problems.add(
            Problem.invalid(
                "front-page.name-taken",
                "name",
                "There is a front page “%s” already.".formatted(page.face().name())));
      }
    }
    problems.addAll(PortalRules.audienceProblems(moment, terms.audience()));
    if (everyones && (!terms.audience().everyone() || !terms.waves().isEmpty())) {
      problems.add(
          Problem.invalid(
              "front-page.everyones", "audience", "The last front page is for everyone."));
    }
    terms.waves().forEach(w -> problems.addAll(PortalRules.audienceProblems(moment, w.audience())));
    if (terms.waves().size() > MOST_WAVES) {
      problems.add(
          Problem.invalid("front-page.waves", "waves", "At most %d waves.".formatted(MOST_WAVES)));
    }
    Notice notice = terms.notice();
    if (notice != null && (current == null || !notice.equals(current.notice()))) {
      AppDecisions.length(problems, "notice", notice.text(), LONGEST_NOTICE);
      if (notice.text().isBlank()) {
        problems.add(Problem.invalid("front-page.notice", "notice", "A notice says something."));
      }
      if (notice.until() != null
          && (notice.until().isBefore(moment.today())
              || (notice.from() != null && notice.until().isBefore(notice.from())))) {
        problems.add(
            Problem.invalid(
                "front-page.notice", "noticeUntil", "Its last day is before its first."));
      }
    }
    return problems;
  }

  /** Puts collections on a page, moves them, and takes them off, in one act. */
  public static Outcome<FrontPageId> arrange(
      Moment moment, FrontPageId id, List<Placing<CollectionId, String>> moves) {
    PortalView portal = PortalView.at(moment);
    Optional<Page> page = portal.page(id);
    if (page.isEmpty()) {
      return Outcome.refused(Problem.absent("front-page"));
    }
    if (!moment.authority().hasEverywhere(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    Map<CollectionId, String> ranks = new HashMap<>(page.get().ranks());
    List<CollectionId> order = List.copyOf(page.get().ranks().keySet());
    List<Problem> problems = new ArrayList<>();
    Set<CollectionId> seen = new HashSet<>();
    for (Placing<CollectionId, String> move : moves) {
      Optional<Collection> collection = portal.collection(move.thing());
      if (collection.isEmpty()) {
        problems.add(Problem.absent("collection"));
        continue;
      }
      if (!java.util.Objects.equals(page.get().ranks().get(move.thing()), move.base())) {
        problems.add(
            Problem.stale(
                "collections",
                "Someone has moved “%s” meanwhile.".formatted(collection.get().name())));
      }
      if (!seen.add(move.thing())) {
        problems.add(
            Problem.invalid(
                "front-page.twice", "collections", "A collection is moved once in one act."));
      }
      ranks.remove(move.thing());
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    List<CollectionId> wanted = Placing.moved(order, moves);
    List<String> arranged = Placing.ranks(wanted, ranks);
    Edits edits = moment.edits();
    order.stream()
        .filter(collection -> !wanted.contains(collection))
        .forEach(collection -> edits.end(new FactKey.Fronted(id, collection)));
    for (int i = 0; i < wanted.size(); i++) {
      edits.put(new FactKey.Fronted(id, wanted.get(i)), new FactValue.Text(arranged.get(i)));
    }
    return Outcome.done(Act.of(ActName.FRONT_PAGE_ARRANGE, id), edits.list(), id);
  }

  /**
   * Puts a page behind another, since the first that fits counts.
   *
   * @param base its rank as it was seen
   * @param after null for the first place
   */
  public static Outcome<FrontPageId> move(
      Moment moment, FrontPageId id, String base, @Nullable FrontPageId after) {
    if (!moment.authority().hasEverywhere(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    PortalView portal = PortalView.at(moment);
    Optional<Page> page = portal.page(id);
    if (page.isEmpty() || (after != null && portal.page(after).isEmpty())) {
      return Outcome.refused(Problem.absent("front-page"));
    }
    if (page.get().everyones() || FrontPageId.EVERYONE.equals(after)) {
      return Outcome.refused(
          Problem.invalid("front-page.everyones", "after", "The last front page is for everyone."));
    }
    if (!page.get().rank().equals(base)) {
      return Outcome.refused(
          Problem.stale("after", "Someone has moved this front page meanwhile."));
    }
    Map<FrontPageId, String> ranks = new HashMap<>();
    List<FrontPageId> order = new ArrayList<>();
    for (Page each : portal.pages()) {
      if (!each.everyones()) {
        order.add(each.id());
        if (!each.id().equals(id) && !each.rank().equals("~")) {
          ranks.put(each.id(), each.rank());
        }
      }
    }
    List<FrontPageId> wanted =
        Placing.moved(order, List.of(new Placing<>(id, base, new Placing.Spot<>(after, false))));
    List<String> arranged = Placing.ranks(wanted, ranks);
    Edits edits = moment.edits();
    for (int i = 0; i < wanted.size(); i++) {
      edits.put(new FactKey.FrontRank(wanted.get(i)), new FactValue.Text(arranged.get(i)));
    }
    return Outcome.done(Act.of(ActName.FRONT_PAGE_MOVE, id), edits.list(), id);
  }

  public static Outcome<FrontPageId> end(Moment moment, FrontPageId id) {
    if (!moment.authority().hasEverywhere(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    Optional<Page> page = PortalView.at(moment).page(id);
    if (page.isEmpty()) {
      return Outcome.refused(Problem.absent("front-page"));
    }
    if (page.get().everyones()) {
      return Outcome.refused(
          Problem.invalid(
              "front-page.everyones", "front-page", "The last front page is for everyone."));
    }
    Edits edits = moment.edits();
    for (FactKey key : moment.facts().about(id)) {
      if (!moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    return Outcome.done(Act.of(ActName.FRONT_PAGE_END, id), edits.list(), id);
  }
}
