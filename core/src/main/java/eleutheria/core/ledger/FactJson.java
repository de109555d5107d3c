package eleutheria.core.ledger;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.ValueType;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Keys and values of facts as JSON, both ways; docs/ledger-format.md lists the kinds. */
public final class FactJson {
  private FactJson() {}

  /** The kind of a key, as it stands in a change. */
  public static String kind(FactKey key) {
    return switch (key) {
      case FactKey.Existence k -> "existence";
      case FactKey.Naming k -> "name";
      case FactKey.Status k -> "status";
      case FactKey.Attribute k -> "attribute";
      case FactKey.Link k -> "link";
      case FactKey.GroupName k -> "group-name";
      case FactKey.GroupForm k -> "group-form";
      case FactKey.Membership k -> "membership";
      case FactKey.Ownership k -> "ownership";
      case FactKey.Defined k -> "definition";
      case FactKey.Mandate k -> "mandate";
      case FactKey.MandateHeld k -> "mandate-held";
      case FactKey.Source k -> "source";
    };
  }

  public static Map<String, Object> key(FactKey key) {
    return switch (key) {
      case FactKey.Existence k -> Map.of("object", k.subject().text());
      case FactKey.Naming k -> Map.of("person", id(k.subject()));
      case FactKey.Status k -> Map.of("person", id(k.subject()));
      case FactKey.Attribute k ->
          Map.of("name", k.name(), "person", id(k.subject()), "slot", k.slot());
      case FactKey.Link k ->
          Map.of("key", k.key(), "source", id(k.subject()), "thing", k.thing().word());
      case FactKey.GroupName k -> Map.of("group", id(k.subject()));
      case FactKey.GroupForm k -> Map.of("group", id(k.subject()));
      case FactKey.Membership k -> Map.of("group", id(k.subject()), "member", k.member().text());
      case FactKey.Ownership k -> Map.of("object", k.subject().text(), "owner", id(k.owner()));
      case FactKey.Defined k -> Map.of("attribute", k.attribute());
      case FactKey.Mandate k -> Map.of("mandate", id(k.subject()));
      case FactKey.MandateHeld k -> Map.of("holder", k.holder().text(), "mandate", id(k.subject()));
      case FactKey.Source k -> Map.of("source", id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the kind or its members are not of this format
   */
  public static FactKey key(String kind, Map<?, ?> json) {
    return switch (kind) {
      case "existence" -> new FactKey.Existence(ObjectId.parse(text(json, "object")));
      case "name" -> new FactKey.Naming(PersonId.parse(text(json, "person")));
      case "status" -> new FactKey.Status(PersonId.parse(text(json, "person")));
      case "attribute" ->
          new FactKey.Attribute(
              PersonId.parse(text(json, "person")), text(json, "name"), text(json, "slot"));
      case "link" ->
          new FactKey.Link(
              SourceId.parse(text(json, "source")),
              ObjectKind.of(text(json, "thing")),
              text(json, "key"));
      case "group-name" -> new FactKey.GroupName(GroupId.parse(text(json, "group")));
      case "group-form" -> new FactKey.GroupForm(GroupId.parse(text(json, "group")));
      case "membership" ->
          new FactKey.Membership(
              GroupId.parse(text(json, "group")), ObjectId.parse(text(json, "member")));
      case "ownership" ->
          new FactKey.Ownership(
              ObjectId.parse(text(json, "object")), PersonId.parse(text(json, "owner")));
      case "definition" -> new FactKey.Defined(text(json, "attribute"));
      case "mandate" -> new FactKey.Mandate(MandateId.parse(text(json, "mandate")));
      case "mandate-held" ->
          new FactKey.MandateHeld(
              MandateId.parse(text(json, "mandate")), ObjectId.parse(text(json, "holder")));
      case "source" -> new FactKey.Source(SourceId.parse(text(json, "source")));
      default -> throw new IllegalArgumentException("unknown kind of fact: " + kind);
    };
  }

  public static Object value(FactValue value) {
    return switch (value) {
      case FactValue.Present v -> true;
      case FactValue.Text v -> v.text();
      case FactValue.PersonName v ->
          Map.of("displayed", v.displayed(), "family", v.family(), "given", v.given());
      case FactValue.Standing v ->
          v.stated() == null
              ? Map.of("status", v.status().word())
              : Map.of("stated", v.stated().toString(), "status", v.status().word());
      case FactValue.Ref v -> v.object().text();
      case FactValue.Form.Listed v -> Map.of("form", "listed");
      case FactValue.Form.Mirrored v -> Map.of("form", "mirrored", "source", id(v.source()));
      case FactValue.Form.ByFilter v -> Map.of("filter", v.filter(), "form", "filter");
      case FactValue.Definition v -> definition(v);
      case FactValue.Terms v ->
          Map.of(
              "line", v.line(),
              "name", v.name(),
              "powers", List.copyOf(v.powers()),
              "reach", reach(v.reach()));
      case FactValue.Delivery v -> Map.of("columns", new TreeMap<>(v.columns()), "name", v.name());
    };
  }

  private static Map<String, Object> definition(FactValue.Definition v) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("label", v.label());
    json.put("many", v.many());
    json.put("personal", v.personal());
    json.put("type", v.type().word());
    SourceId source = v.source();
    if (source != null) {
      json.put("source", id(source));
    }
    return json;
  }

  public static Map<String, Object> reach(Reach reach) {
    Map<String, Object> json = new LinkedHashMap<>();
    put(json, "units", reach.units());
    put(json, "applications", reach.applications());
    put(json, "collections", reach.collections());
    return json;
  }

  private static void put(Map<String, Object> json, String name, @Nullable SortedSet<String> list) {
    if (list != null) {
      json.put(name, List.copyOf(list));
    }
  }

  /**
   * @throws IllegalArgumentException if the value is not one that this key can have
   */
  public static FactValue value(FactKey key, Object json) {
    return switch (key) {
      case FactKey.Existence k -> FactValue.Present.PRESENT;
      case FactKey.Membership k -> FactValue.Present.PRESENT;
      case FactKey.Ownership k -> FactValue.Present.PRESENT;
      case FactKey.MandateHeld k -> FactValue.Present.PRESENT;
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
      case FactKey.Mandate k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        SortedSet<String> powers = set(map, "powers");
        yield new FactValue.Terms(
            text(map, "name"),
            text(map, "line"),
            powers == null ? new TreeSet<>() : powers,
            reach((Map<?, ?>) map.get("reach")));
      }
      case FactKey.Source k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        Map<String, String> columns = new TreeMap<>();
        ((Map<?, ?>) map.get("columns")).forEach((c, t) -> columns.put((String) c, (String) t));
        yield new FactValue.Delivery(text(map, "name"), columns);
      }
    };
  }

  public static Reach reach(Map<?, ?> map) {
    return new Reach(set(map, "units"), set(map, "applications"), set(map, "collections"));
  }

  private static FactValue.Form form(Map<?, ?> map) {
    return switch (text(map, "form")) {
      case "listed" -> new FactValue.Form.Listed();
      case "mirrored" -> new FactValue.Form.Mirrored(SourceId.parse(text(map, "source")));
      case "filter" -> new FactValue.Form.ByFilter(text(map, "filter"));
      default -> throw new IllegalArgumentException("unknown form of group: " + map);
    };
  }

  private static @Nullable SortedSet<String> set(Map<?, ?> map, String name) {
    if (!(map.get(name) instanceof List<?> list)) {
      return null;
    }
    SortedSet<String> set = new TreeSet<>();
    list.forEach(item -> set.add((String) item));
    return set;
  }

  private static String id(ObjectId id) {
    return id.value().toString();
  }

  private static String text(Map<?, ?> json, String name) {
    if (json.get(name) instanceof String text) {
      return text;
    }
    throw new IllegalArgumentException("member " + name + " is missing in " + json.keySet());
  }
}
