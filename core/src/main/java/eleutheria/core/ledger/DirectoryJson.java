package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import java.time.LocalDate;
import java.util.Map;
import java.util.TreeMap;

/** Facts of people, groups, attributes and sources as JSON. */
final class DirectoryJson {
  private DirectoryJson() {}

  static Map<String, Object> key(FactKey.OfDirectory key) {
    return switch (key) {
      case FactKey.Existence k -> Map.of("object", k.subject().text());
      case FactKey.Naming k -> Map.of("person", FactJson.id(k.subject()));
      case FactKey.Status k -> Map.of("person", FactJson.id(k.subject()));
      case FactKey.Attribute k ->
          Map.of("name", k.name(), "person", FactJson.id(k.subject()), "slot", k.slot());
      case FactKey.Link k ->
          Map.of("key", k.key(), "source", FactJson.id(k.subject()), "thing", k.thing().word());
      case FactKey.GroupName k -> Map.of("group", FactJson.id(k.subject()));
      case FactKey.GroupForm k -> Map.of("group", FactJson.id(k.subject()));
      case FactKey.Membership k ->
          Map.of("group", FactJson.id(k.subject()), "member", k.member().text());
      case FactKey.Ownership k ->
          Map.of("object", k.subject().text(), "owner", FactJson.id(k.owner()));
      case FactKey.Defined k -> Map.of("attribute", k.attribute());
      case FactKey.Source k -> Map.of("source", FactJson.id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  static FactValue value(FactKey.OfDirectory key, Object json) {
    return switch (key) {
      case FactKey.Existence k -> FactValue.Present.PRESENT;
      case FactKey.Membership k -> FactValue.Present.PRESENT;
      case FactKey.Ownership k -> FactValue.Present.PRESENT;
      case FactKey.Attribute k -> new FactValue.Text((String) json);
      case FactKey.GroupName k -> new FactValue.Text((String) json);
      case FactKey.Link k -> new FactValue.Ref(ObjectId.parse((String) json));
      case FactKey.Naming k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.PersonName(
            text(map, "given"), text(map, "family"), text(map, "displayed"));
      }
      case FactKey.Status k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        Object stated = map.get("stated");
        yield new FactValue.Standing(
            PersonStatus.of(text(map, "status")),
            stated == null ? null : LocalDate.parse((String) stated));
      }
      case FactKey.GroupForm k -> form((Map<?, ?>) json);
      case FactKey.Defined k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        Object source = map.get("source");
        yield new FactValue.Definition(
            text(map, "label"),
            ValueType.of(text(map, "type")),
            Boolean.TRUE.equals(map.get("many")),
            Boolean.TRUE.equals(map.get("personal")),
            source == null ? null : SourceId.parse((String) source));
      }
      case FactKey.Source k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        Map<String, String> columns = new TreeMap<>();
        object(map, "columns").forEach((c, t) -> columns.put((String) c, (String) t));
        yield new FactValue.Delivery(text(map, "name"), columns);
      }
    };
  }

  private static FactValue.Form form(Map<?, ?> map) {
    return switch (text(map, "form")) {
      case "listed" -> new FactValue.Form.Listed();
      case "mirrored" -> new FactValue.Form.Mirrored(SourceId.parse(text(map, "source")));
      case "filter" -> new FactValue.Form.ByFilter(text(map, "filter"));
      default -> throw new IllegalArgumentException("unknown form of group: " + map);
    };
  }
}
