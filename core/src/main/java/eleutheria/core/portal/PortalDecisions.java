package eleutheria.core.portal;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.apps.AppsView;
import eleutheria.core.apps.Pictures;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Owners;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Making tiles and collections, arranging them, and saying who sees them. */
public final class PortalDecisions {
  public static final int MOST_TILES = 500;

  private PortalDecisions() {}

  // ---- tiles

  public static Outcome<TileId> makeTile(Moment moment, FactValue.TileFace face) {
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    List<Problem> problems = faceProblems(moment, face);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    TileId id = new TileId(moment.ids().get());
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.Tile(id), face);
    return Outcome.done(Act.of("tile.make", id, face.application()), edits.list(), id);
  }

  public static Outcome<TileId> changeTile(
      Moment moment, TileId id, FactValue.TileFace base, FactValue.TileFace face) {
    Optional<Tile> tile = PortalView.at(moment).tile(id);
    if (tile.isEmpty()) {
      return Outcome.refused(Problem.absent("tile"));
    }
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    if (!tile.get().face().equals(base)) {
      return Outcome.refused(
          Problem.stale("name", "Someone has changed the tile “%s”.".formatted(tile.get().name())));
    }
    List<Problem> problems = faceProblems(moment, face);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Tile(id), face);
    return Outcome.done(Act.of("tile.change", id), edits.list(), id);
  }

  public static Outcome<TileId> endTile(Moment moment, TileId id) {
    PortalView portal = PortalView.at(moment);
    if (portal.tile(id).isEmpty()) {
      return Outcome.refused(Problem.absent("tile"));
    }
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    Edits edits = moment.edits();
    edits.end(new FactKey.Tile(id));
    edits.end(new FactKey.Existence(id));
    for (Collection collection : portal.collections()) {
      if (collection.places().stream().anyMatch(p -> p.tile().equals(id))) {
        edits.end(new FactKey.Placed(collection.id(), id));
      }
    }
    return Outcome.done(Act.of("tile.end", id), edits.list(), id);
  }

  private static List<Problem> faceProblems(Moment moment, FactValue.TileFace face) {
    List<Problem> problems = new ArrayList<>();
    AppsView apps = AppsView.of(moment.facts(), moment.directory(), moment.at());
    if (face.name().isBlank()) {
      problems.add(Problem.invalid("tile.no-name", "name", "A tile has a name."));
    }
    AppDecisions.length(problems, "name", face.name(), AppDecisions.LONGEST_NAME);
    AppDecisions.length(problems, "line", face.line(), AppDecisions.LONGEST_LINE);
    if (!Pictures.PICTURES.contains(face.picture())) {
      problems.add(Problem.invalid("tile.picture", "picture", "There is no such picture."));
    }
    if (!Pictures.HUES.contains(face.hue())) {
      problems.add(Problem.invalid("tile.hue", "hue", "There is no such colour."));
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
    return problems;
  }

  // ---- collections

  public static Outcome<CollectionId> makeCollection(
      Moment moment, FactValue.CollectionFace face, FactValue.Audience audience) {
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    PortalView portal = PortalView.at(moment);
    List<Problem> problems = collectionProblems(portal, null, face);
    problems.addAll(audienceProblems(moment, audience));
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    CollectionId id = new CollectionId(moment.ids().get());
    String last =
        portal.collections().stream()
            .flatMap(c -> portal.rank(c.id()).stream())
            .max(String::compareTo)
            .orElse(null);
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.Collection(id), clean(face));
    edits.put(new FactKey.Audience(id), audience);
    edits.put(
        new FactKey.Fronted(FrontPageId.EVERYONE, id),
        new FactValue.Text(Rank.between(last, null)));
    return Outcome.done(Act.of("collection.make", id), edits.list(), id);
  }

  public static Outcome<CollectionId> describe(
      Moment moment,
      CollectionId id,
      FactValue.CollectionFace base,
      FactValue.CollectionFace wanted) {
    PortalView portal = PortalView.at(moment);
    Outcome<Collection> found = arrangeable(moment, portal, id);
    if (found instanceof Outcome.Refused<Collection> refused) {
      return Outcome.refused(refused.problems());
    }
    if (!((Outcome.Done<Collection>) found).result().face().equals(base)) {
      return Outcome.refused(Problem.stale("name", "Someone has changed name or line meanwhile."));
    }
    List<Problem> problems = collectionProblems(portal, id, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Collection(id), clean(wanted));
    return Outcome.done(Act.of("collection.describe", id), edits.list(), id);
  }

  /** Only who arranges the portal says who sees a collection; its owners do not. */
  public static Outcome<CollectionId> setAudience(
      Moment moment, CollectionId id, FactValue.Audience base, FactValue.Audience wanted) {
    Optional<Collection> collection = PortalView.at(moment).collection(id);
    if (collection.isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    if (!collection.get().audience().equals(base)) {
      return Outcome.refused(
          Problem.stale("audience", "Someone has changed who sees it meanwhile."));
    }
    List<Problem> problems = audienceProblems(moment, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Audience(id), wanted);
    return Outcome.done(Act.of("collection.audience", id), edits.list(), id);
  }

  public static Outcome<CollectionId> setOwners(
      Moment moment, CollectionId id, List<PersonId> base, List<PersonId> owners) {
    Optional<Collection> collection = PortalView.at(moment).collection(id);
    if (collection.isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    return Owners.set(moment, id, "collection.owners", collection.get().owners(), base, owners);
  }

  /** One tile as it should stand. */
  public record Wanted(TileId tile, boolean offered) {}

  /**
   * Puts tiles in, takes tiles out, and sets their order, in one act.
   *
   * @param base the tiles in the order that the editor saw
   */
  public static Outcome<CollectionId> arrange(
      Moment moment, CollectionId id, List<TileId> base, List<Wanted> wanted) {
    PortalView portal = PortalView.at(moment);
    Outcome<Collection> found = arrangeable(moment, portal, id);
    if (found instanceof Outcome.Refused<Collection> refused) {
      return Outcome.refused(refused.problems());
    }
    Collection collection = ((Outcome.Done<Collection>) found).result();
    Map<TileId, FactValue.Place> present = new HashMap<>();
    collection.places().forEach(p -> present.put(p.tile(), p.place()));
    if (!collection.places().stream().map(Collection.Placed::tile).toList().equals(base)) {
      return Outcome.refused(
          Problem.stale("tiles", "Someone has arranged this collection meanwhile."));
    }
    List<Problem> problems = new ArrayList<>();
    Set<TileId> seen = new HashSet<>();
    for (Wanted each : wanted) {
      if (portal.tile(each.tile()).isEmpty()) {
        problems.add(Problem.absent("tile"));
      } else if (!seen.add(each.tile())) {
        problems.add(Problem.invalid("collection.twice", "tiles", "A tile stands in it once."));
      }
    }
    if (wanted.size() > MOST_TILES) {
      problems.add(
          Problem.invalid(
              "collection.full", "tiles", "At most %d tiles fit.".formatted(MOST_TILES)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    List<@Nullable String> ranks = new ArrayList<>();
    wanted.forEach(
        w -> ranks.add(present.containsKey(w.tile()) ? present.get(w.tile()).rank() : null));
    List<String> arranged = Rank.arrange(ranks);
    Edits edits = moment.edits();
    present.keySet().stream()
        .filter(tile -> !seen.contains(tile))
        .sorted()
        .forEach(tile -> edits.end(new FactKey.Placed(id, tile)));
    for (int i = 0; i < wanted.size(); i++) {
      edits.put(
          new FactKey.Placed(id, wanted.get(i).tile()),
          new FactValue.Place(arranged.get(i), wanted.get(i).offered()));
    }
    return Outcome.done(Act.of("collection.arrange", id), edits.list(), id);
  }

  public static Outcome<CollectionId> endCollection(Moment moment, CollectionId id) {
    PortalView portal = PortalView.at(moment);
    if (portal.collection(id).isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    Edits edits = moment.edits();
    for (FactKey key : moment.facts().about(id)) {
      if (!moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    if (portal.rank(id).isPresent()) {
      edits.end(new FactKey.Fronted(FrontPageId.EVERYONE, id));
    }
    return Outcome.done(Act.of("collection.end", id), edits.list(), id);
  }

  /** Sets the order in which everyone meets the collections. */
  public static Outcome<Integer> arrangeFrontPage(
      Moment moment, List<CollectionId> base, List<CollectionId> wanted) {
    if (!moment.authority().hasEverywhere(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    PortalView portal = PortalView.at(moment);
    List<CollectionId> current = portal.collections().stream().map(Collection::id).toList();
    if (!current.equals(base)) {
      return Outcome.refused(
          Problem.stale("collections", "Someone has arranged the front page meanwhile."));
    }
    if (!new HashSet<>(wanted).equals(new HashSet<>(current)) || wanted.size() != current.size()) {
      return Outcome.refused(
          Problem.invalid("front-page.whole", "collections", "Each collection stands in it once."));
    }
    List<@Nullable String> ranks = new ArrayList<>();
    wanted.forEach(c -> ranks.add(portal.rank(c).orElse(null)));
    List<String> arranged = Rank.arrange(ranks);
    Edits edits = moment.edits();
    for (int i = 0; i < wanted.size(); i++) {
      edits.put(
          new FactKey.Fronted(FrontPageId.EVERYONE, wanted.get(i)),
          new FactValue.Text(arranged.get(i)));
    }
    return Outcome.done(
        Act.of("front-page.arrange", FrontPageId.EVERYONE), edits.list(), edits.size());
  }

  private static Outcome<Collection> arrangeable(
      Moment moment, PortalView portal, CollectionId id) {
    Optional<Collection> collection = portal.collection(id);
    if (collection.isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id) && !moment.authority().owns(id)) {
      return Outcome.refused(missing(Power.PORTAL_ARRANGE));
    }
    return Outcome.done(Act.of("collection.look", id), List.of(), collection.get());
  }

  private static FactValue.CollectionFace clean(FactValue.CollectionFace face) {
    return new FactValue.CollectionFace(face.name().strip(), face.line().strip());
  }

  private static List<Problem> collectionProblems(
      PortalView portal, @Nullable CollectionId id, FactValue.CollectionFace face) {
    List<Problem> problems = new ArrayList<>();
    if (face.name().isBlank()) {
      problems.add(Problem.invalid("collection.no-name", "name", "A collection has a name."));
    }
    AppDecisions.length(problems, "name", face.name(), AppDecisions.LONGEST_NAME);
    AppDecisions.length(problems, "line", face.line(), AppDecisions.LONGEST_LINE);
    for (Collection collection : portal.collections()) {
      if (!collection.id().equals(id)
          && Folding.fold(collection.name()).equals(Folding.fold(face.name().strip()))) {
        problems.add(
            Problem.invalid(
                "collection.name-taken",
                "name",
                "There is a collection “%s” already.".formatted(collection.name())));
      }
    }
    return problems;
  }

  private static List<Problem> audienceProblems(Moment moment, FactValue.Audience audience) {
    List<Problem> problems = new ArrayList<>();
    for (FactValue.Subject subject : audience.subjects()) {
      switch (subject) {
        case FactValue.Subject.OfPerson s -> {
          if (moment.directory().person(s.person()).isEmpty()) {
            problems.add(Problem.absent("person"));
          }
        }
        case FactValue.Subject.OfGroup s -> {
          if (moment.directory().group(s.group()).isEmpty()) {
            problems.add(Problem.absent("group"));
          }
        }
        case FactValue.Subject.ByFilter s -> {
          if (FilterParser.parse(s.filter(), moment.directory().schema())
              instanceof FilterParser.Parsed.Bad bad) {
            problems.add(Problem.invalid("filter.wrong", "filter", bad.message()));
          }
        }
      }
    }
    return problems;
  }

  private static Problem missing(Power power) {
    return Problem.forbidden(
        "power", "This needs the power “" + power.word() + "”: to " + power.line() + ".");
  }
}
