package eleutheria.core.portal;

import eleutheria.core.apps.AppDecisions;
import eleutheria.core.directory.Moment;
import eleutheria.core.directory.Owners;
import eleutheria.core.directory.filter.Folding;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.Edits;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.TileId;
import eleutheria.core.ledger.Act;
import eleutheria.core.ledger.ActName;
import eleutheria.core.ledger.Lookup;
import eleutheria.core.ledger.Outcome;
import eleutheria.core.ledger.Problem;
import eleutheria.core.mandates.Power;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Making collections, arranging them, and saying who sees them. */
public final class CollectionDecisions {
  public static final int MOST_TILES = 500;

  private CollectionDecisions() {}

  public static Outcome<CollectionId> make(
      Moment moment, FactValue.CollectionFace face, FactValue.Audience audience) {
    if (!moment.authority().has(Power.PORTAL_ARRANGE)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    PortalView portal = PortalView.at(moment);
    List<Problem> problems = collectionProblems(portal, null, face);
    problems.addAll(PortalRules.audienceProblems(moment, audience));
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    CollectionId id = new CollectionId(moment.ids().get());
    String last =
        portal.page(FrontPageId.EVERYONE).orElseThrow().ranks().values().stream()
            .max(String::compareTo)
            .orElse(null);
    Edits edits = moment.edits();
    edits.put(new FactKey.Existence(id), FactValue.Present.PRESENT);
    edits.put(new FactKey.Collection(id), clean(face));
    edits.put(new FactKey.Audience(id), audience);
    edits.put(
        new FactKey.Fronted(FrontPageId.EVERYONE, id),
        new FactValue.Text(Rank.between(last, null)));
    return Outcome.done(Act.of(ActName.COLLECTION_MAKE, id), edits.list(), id);
  }

  public static Outcome<CollectionId> describe(
      Moment moment,
      CollectionId id,
      FactValue.CollectionFace base,
      FactValue.CollectionFace wanted) {
    PortalView portal = PortalView.at(moment);
    Lookup<Collection> found = arrangeable(moment, portal, id);
    if (!(found instanceof Lookup.Found<Collection>(Collection collection))) {
      return Outcome.refused(found.problems());
    }
    if (!collection.face().equals(base)) {
      return Outcome.refused(Problem.stale("name", "Someone has changed name or line meanwhile."));
    }
    List<Problem> problems = collectionProblems(portal, id, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Collection(id), clean(wanted));
    return Outcome.done(Act.of(ActName.COLLECTION_DESCRIBE, id), edits.list(), id);
  }

  /** Only who arranges the portal says who sees a collection; its owners do not. */
  public static Outcome<CollectionId> setAudience(
      Moment moment, CollectionId id, FactValue.Audience base, FactValue.Audience wanted) {
    Optional<Collection> collection = PortalView.at(moment).collection(id);
    if (collection.isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    if (!collection.get().audience().equals(base)) {
      return Outcome.refused(
          Problem.stale("audience", "Someone has changed who sees it meanwhile."));
    }
    List<Problem> problems = PortalRules.audienceProblems(moment, wanted);
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    Edits edits = moment.edits();
    edits.put(new FactKey.Audience(id), wanted);
    return Outcome.done(Act.of(ActName.COLLECTION_AUDIENCE, id), edits.list(), id);
  }

  public static Outcome<CollectionId> setOwners(
      Moment moment, CollectionId id, List<PersonId> base, List<PersonId> owners) {
    Optional<Collection> collection = PortalView.at(moment).collection(id);
    if (collection.isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    return Owners.set(
        moment, id, ActName.COLLECTION_OWNERS, collection.get().owners(), base, owners);
  }

  /** Puts tiles in, moves them, and takes them out, in one act. */
  public static Outcome<CollectionId> arrange(
      Moment moment, CollectionId id, List<Placing<TileId, FactValue.Place>> moves) {
    PortalView portal = PortalView.at(moment);
    Lookup<Collection> found = arrangeable(moment, portal, id);
    if (!(found instanceof Lookup.Found<Collection>(Collection collection))) {
      return Outcome.refused(found.problems());
    }
    Map<TileId, FactValue.Place> present = new HashMap<>();
    Map<TileId, String> ranks = new HashMap<>();
    List<TileId> order = new ArrayList<>();
    for (Collection.Placed placed : collection.places()) {
      order.add(placed.tile());
      present.put(placed.tile(), placed.place());
      ranks.put(placed.tile(), placed.place().rank());
    }
    List<Problem> problems = new ArrayList<>();
    Map<TileId, Boolean> offered = new HashMap<>();
    for (Placing<TileId, FactValue.Place> move : moves) {
      Optional<Tile> tile = portal.tile(move.thing());
      if (tile.isEmpty()) {
        problems.add(Problem.absent("tile"));
        continue;
      }
      FactValue.Place current = present.get(move.thing());
      if (current == null ? move.base() != null : !current.equals(move.base())) {
        problems.add(
            Problem.stale(
                "tiles",
                "Someone has moved “%s” in “%s” meanwhile."
                    .formatted(tile.get().name(), collection.name())));
      }
      if (offered.containsKey(move.thing())) {
        problems.add(
            Problem.invalid("collection.twice", "tiles", "A tile is moved once in one act."));
      }
      Placing.Spot<TileId> spot = move.wanted();
      offered.put(move.thing(), spot != null && spot.offered());
      ranks.remove(move.thing());
      if (spot != null && current != null && Placing.moved(order, List.of(move)).equals(order)) {
        // It stays where it is, and only whether it is offered changes.
        ranks.put(move.thing(), current.rank());
      }
    }
    List<TileId> wanted = Placing.moved(order, moves);
    if (wanted.size() > MOST_TILES) {
      problems.add(
          Problem.invalid(
              "collection.full", "tiles", "At most %d tiles fit.".formatted(MOST_TILES)));
    }
    if (!problems.isEmpty()) {
      return Outcome.refused(problems);
    }
    List<String> arranged = Placing.ranks(wanted, ranks);
    Edits edits = moment.edits();
    order.stream()
        .filter(tile -> !wanted.contains(tile))
        .forEach(tile -> edits.end(new FactKey.Placed(id, tile)));
    for (int i = 0; i < wanted.size(); i++) {
      TileId tile = wanted.get(i);
      FactValue.Place was = present.get(tile);
      boolean offers = offered.getOrDefault(tile, was != null && was.offered());
      edits.put(new FactKey.Placed(id, tile), new FactValue.Place(arranged.get(i), offers));
    }
    return Outcome.done(Act.of(ActName.COLLECTION_ARRANGE, id), edits.list(), id);
  }

  public static Outcome<CollectionId> end(Moment moment, CollectionId id) {
    PortalView portal = PortalView.at(moment);
    if (portal.collection(id).isEmpty()) {
      return Outcome.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id)) {
      return Outcome.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    Edits edits = moment.edits();
    for (FactKey key : moment.facts().about(id)) {
      if (!moment.facts().from(key, moment.at()).isEmpty()) {
        edits.end(key);
      }
    }
    for (Page page : portal.pages()) {
      if (page.ranks().containsKey(id)) {
        edits.end(new FactKey.Fronted(page.id(), id));
      }
    }
    return Outcome.done(Act.of(ActName.COLLECTION_END, id), edits.list(), id);
  }

  private static Lookup<Collection> arrangeable(Moment moment, PortalView portal, CollectionId id) {
    Optional<Collection> collection = portal.collection(id);
    if (collection.isEmpty()) {
      return Lookup.refused(Problem.absent("collection"));
    }
    if (!moment.authority().reaches(Power.PORTAL_ARRANGE, id) && !moment.authority().owns(id)) {
      return Lookup.refused(PortalRules.missing(Power.PORTAL_ARRANGE));
    }
    return Lookup.found(collection.get());
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
}
