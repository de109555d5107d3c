package eleutheria.core.portal;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Pictures;
import eleutheria.core.apps.WebAddress;
import eleutheria.core.directory.Moment;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.Facts;
import eleutheria.core.facts.Moments;
import eleutheria.core.facts.Spell;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Making tiles, changing and ending them. */
public final class TileDecisions {
  public static final int LONGEST_CONTACT = 200;
  private static final Pattern UPLOADED = Pattern.compile("own:[0-9a-f]{64}");

  private TileDecisions() {}

  /**
   * All that is said of a tile.
   *
   * @param audience who sees it, where it needs nothing; otherwise everyone
   * @param from the first day on which it is shown; null for at once
   * @param until the last day; null for no end
   */
  public record Terms(
      FactValue.TileFace face,
      FactValue.Audience audience,
      @Nullable LocalDate from,
      @Nullable LocalDate until) {
    public static Terms of(FactValue.TileFace face) {
      return new Terms(face, FactValue.Audience.EVERYONE, null, null);
    }
  }

  /** What is said of a tile now, in days of a zone; null where it is not there. */
  public static @Nullable Terms terms(Facts facts, TileId id, Instant at, ZoneId zone) {
    if (!(facts.valueAt(new FactKey.Tile(id), at) instanceof FactValue.TileFace face)) {
      return null;
    }
    FactValue.Audience audience =
        facts.valueAt(new FactKey.Audience(id), at) instanceof FactValue.Audience said
            ? said
            : FactValue.Audience.EVERYONE;
    if (!face.dated()) {
      return new Terms(face, audience, null, null);
    }
    List<Spell> spells = facts.spells(new FactKey.Shown(id));
    Spell last = spells.isEmpty() ? null : spells.getLast();
    return new Terms(
        face,
        audience,
        last == null ? null : last.from().atZone(zone).toLocalDate(),
        last == null || last.until().equals(Moments.FOREVER)
            ? null
            : last.until().minusNanos(1_000).atZone(zone).toLocalDate());
  }

  public static Outcome<TileId> make(Moment moment, Terms terms) {
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    List<Problem> problems = problems(moment, null, terms);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    TileId id = new TileId(moment.ids().get());
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    put(moment, edits, id, null, terms);
    return Outcome.done(
        Act.of(ActName.TILE_MAKE, id, terms.face().application()), edits.list(), id);
  }

  public static Outcome<TileId> change(Moment moment, TileId id, Terms base, Terms wanted) {
    Terms current = terms(moment.facts(), id, moment.at(), moment.zone());
    if (current == null) {
      return Outcome.refused(Problem.absent("tile"));
    }
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    if (!current.equals(dated(base))) {
      return Outcome.refused(
          Problem.stale(
              "name", "Someone has changed the tile “%s”.".formatted(current.face().name())));
    }
    List<Problem> problems = problems(moment, current, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    put(moment, edits, id, current, wanted);
    return Outcome.done(Act.of(ActName.TILE_CHANGE, id), edits.list(), id);
  }

  /** A tile has dates if one of them is said. */
  private static Terms dated(Terms terms) {
    FactValue.TileFace face = terms.face();
    return new Terms(
        new FactValue.TileFace(
            face.name().strip(),
            face.line().strip(),
            face.picture(),
            face.hue(),
            face.application(),
            face.needs(),
            face.address().strip(),
            face.contact().strip(),
            face.apart(),
            terms.from() != null || terms.until() != null),
        face.needs().isEmpty() ? terms.audience() : FactValue.Audience.EVERYONE,
        terms.from(),
        terms.until());
  }

  private static void put(
      Moment moment, Edits edits, TileId id, @Nullable Terms current, Terms terms) {
    Terms wanted = dated(terms);
    edits.put(new FactKey.Tile(id), wanted.face());
    FactKey.Audience audience = new FactKey.Audience(id);
    if (!wanted.audience().equals(FactValue.Audience.EVERYONE)) {
      edits.put(audience, wanted.audience());
    } else if (!moment.facts().from(audience, moment.at()).isEmpty()) {
      edits.end(audience);
    }
    FactKey.Shown shown = new FactKey.Shown(id);
    if (!wanted.face().dated()) {
      if (!moment.facts().from(shown, moment.at()).isEmpty()) {
        edits.end(shown);
      }
      return;
    }
    Instant until =
        wanted.until() == null ? Moments.FOREVER : Moments.endOf(wanted.until(), moment.zone());
    Instant from =
        wanted.from() == null ? moment.at() : Moments.startOf(wanted.from(), moment.zone());
    boolean same =
        current != null
            && current.face().dated()
            && java.util.Objects.equals(current.from(), wanted.from())
            && java.util.Objects.equals(current.until(), wanted.until());
    if (!same) {
      edits.timeline(
          shown,
          List.of(
              new Spell(
                  FactValue.Present.PRESENT,
                  from.isBefore(moment.at()) ? moment.at() : from,
                  until)));
    }
  }

  public static Outcome<TileId> end(Moment moment, TileId id) {
    PortalView portal = PortalView.at(moment);
    if (portal.tile(id).isEmpty()) {
      return Outcome.refused(Problem.absent("tile"));
    }
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    Edits edits = moment.edits();
    for (FactKey key : moment.facts().about(id)) {
      if (!moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    for (Collection collection : portal.collections()) {
      if (collection.places().stream().anyMatch(p -> p.tile().equals(id))) {
        edits.end(new FactKey.Placed(collection.id(), id));
      }
    }
    return Outcome.done(Act.of(ActName.TILE_END, id), edits.list(), id);
  }

  private static List<Problem> problems(Moment moment, @Nullable Terms current, Terms terms) {
    FactValue.TileFace face = terms.face();
    List<Problem> problems = new ArrayList<>();
    AppsView apps = AppsView.of(moment.facts(), moment.directory(), moment.at());
    if (face.name().isBlank()) {
      problems.add(Problem.invalid("tile.no-name", "name", "A tile has a name."));
    }
    AppDecisions.length(problems, "name", face.name(), AppDecisions.LONGEST_NAME);
    AppDecisions.length(problems, "line", face.line(), AppDecisions.LONGEST_LINE);
    AppDecisions.length(problems, "contact", face.contact(), LONGEST_CONTACT);
    if (!Pictures.PICTURES.contains(face.picture())
        && !UPLOADED.matcher(face.picture()).matches()) {
      problems.add(Problem.invalid("tile.picture", "picture", "There is no such picture."));
    }
    if (!Pictures.HUES.contains(face.hue())) {
      problems.add(Problem.invalid("tile.hue", "hue", "There is no such colour."));
    }
    if (!face.address().isBlank()) {
      problems.addAll(WebAddress.problems("address", face.address()));
    }
    if (apps.application(face.application()).isEmpty()) {
      problems.add(Problem.absent("application"));
    }
    for (EntitlementId need : face.needs()) {
      if (apps.entitlement(need)
          .filter(e -> e.application().equals(face.application()))
          .isEmpty()) {
        problems.add(
            Problem.invalid("tile.needs", "needs", "The application has no such entitlement."));
      }
    }
    problems.addAll(PortalRules.audienceProblems(moment, terms.audience()));
    if (terms.until() != null && !terms.until().equals(current == null ? null : current.until())) {
      if (terms.from() != null && terms.until().isBefore(terms.from())) {
        problems.add(Problem.invalid("tile.dates", "until", "The last day is before the first."));
      } else if (terms.until().isBefore(moment.today())) {
        problems.add(Problem.invalid("tile.dates", "until", "That day is past."));
      }
    }
    return problems;
  }
}
