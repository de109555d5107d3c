package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import java.util.Map;

/** Facts of tiles, collections, front pages and the brand as JSON. */
final class PortalJson {
  private PortalJson() {}

  static Map<String, Object> key(FactKey.OfPortal key) {
    return switch (key) {
      case FactKey.Tile k -> Map.of("tile", FactJson.id(k.subject()));
      case FactKey.Collection k -> Map.of("collection", FactJson.id(k.subject()));
      case FactKey.Audience k ->
          k.subject() instanceof CollectionId collection
              ? Map.of("collection", FactJson.id(collection))
              : Map.of("object", k.subject().text());
      case FactKey.Brand k -> Map.of();
      case FactKey.Shown k -> Map.of("tile", FactJson.id(k.subject()));
      case FactKey.Front k -> Map.of("front-page", FactJson.id(k.subject()));
      case FactKey.FrontRank k -> Map.of("front-page", FactJson.id(k.subject()));
      case FactKey.FrontNotice k -> Map.of("front-page", FactJson.id(k.subject()));
      case FactKey.FrontWave k -> Map.of("front-page", FactJson.id(k.subject()), "wave", k.wave());
      case FactKey.Placed k ->
          Map.of("collection", FactJson.id(k.subject()), "tile", FactJson.id(k.tile()));
      case FactKey.Fronted k ->
          Map.of("collection", FactJson.id(k.collection()), "front-page", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfPortal key, Object json) {
    return switch (key) {
      case FactKey.Tile k -> tile((Map<?, ?>) json);
      case FactKey.Collection k ->
          new FactValue.CollectionFace(
              text((Map<?, ?>) json, "name"), text((Map<?, ?>) json, "line"));
      case FactKey.Audience k -> FactJson.audience((Map<?, ?>) json);
      case FactKey.Placed k ->
          new FactValue.Place(
              text((Map<?, ?>) json, "rank"),
              Boolean.TRUE.equals(((Map<?, ?>) json).get("offered")));
      case FactKey.Brand k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Brand(
            text(map, "name"),
            text(map, "mark"),
            text(map, "band"),
            text(map, "welcome"),
            text(map, "door"),
            text(map, "help"),
            text(map, "form"),
            Boolean.TRUE.equals(map.get("tight")));
      }
      case FactKey.Shown k -> FactValue.Present.PRESENT;
      case FactKey.Front k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.FrontFace(
            text(map, "name"),
            Boolean.TRUE.equals(map.get("only")),
            Boolean.TRUE.equals(map.get("waves")));
      }
      case FactKey.FrontRank k -> new FactValue.Text((String) json);
      case FactKey.FrontNotice k -> new FactValue.Text((String) json);
      case FactKey.FrontWave k -> FactJson.audience((Map<?, ?>) json);
      case FactKey.Fronted k -> new FactValue.Text((String) json);
    };
  }

  private static String textOr(Map<?, ?> json, String name) {
    return json.containsKey(name) ? text(json, name) : "";
  }

  private static FactValue.TileFace tile(Map<?, ?> map) {
    return new FactValue.TileFace(
        text(map, "name"),
        text(map, "line"),
        text(map, "picture"),
        text(map, "hue"),
        ApplicationId.parse(text(map, "application")),
        FactJson.entitlements(map, "needs"),
        textOr(map, "address"),
        textOr(map, "contact"),
        Boolean.TRUE.equals(map.get("apart")),
        Boolean.TRUE.equals(map.get("dated")));
  }
}
