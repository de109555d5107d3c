package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.list;
import static eleutheria.core.ledger.JsonMembers.number;
import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.Duty;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.SourceId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Keys and values of facts as JSON, both ways; docs/ledger-format.md lists the kinds. */
public final class FactJson {
  private FactJson() {}

  /**
   * The key of a change, with its sealed parts restored.
   *
   * @param kept the text of the payload {@code N.key}; null where there is none
   * @return null where what was sealed is gone
   */
  public static @Nullable FactKey key(String kind, Map<?, ?> json, @Nullable Object kept) {
    if (!json.containsKey("sealed")) {
      return key(kind, json);
    }
    if (kept == null) {
      return null;
    }
    Map<Object, Object> whole = new LinkedHashMap<>(json);
    whole.remove("sealed");
    whole.put("key", kept);
    return key(kind, whole);
  }

  /** The kind of a key, as it stands in a change. */
  public static String kind(FactKey key) {
    return FactKind.of(key).word();
  }

  public static Map<String, Object> key(FactKey key) {
    return switch (key) {
      case FactKey.OfDirectory k -> DirectoryJson.key(k);
      case FactKey.OfMandates k -> MandateJson.key(k);
      case FactKey.OfApps k -> AppJson.key(k);
      case FactKey.OfAccess k -> AccessJson.key(k);
      case FactKey.OfRequests k -> RequestJson.key(k);
      case FactKey.OfPortal k -> PortalJson.key(k);
      case FactKey.OfSelfService k -> SelfServiceJson.key(k);
    };
  }

  /**
   * @throws IllegalArgumentException if the kind or its members are not of this format
   */
  public static FactKey key(String kind, Map<?, ?> json) {
    return FactKind.of(kind).key(json);
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
      case FactValue.Profile v -> profile(v);
      case FactValue.AppState v -> v.state().word();
      case FactValue.WayIn.Link v -> Map.of("address", v.address(), "way", "link");
      case FactValue.Seats v ->
          Map.of("count", v.count(), "currency", v.currency(), "price", v.price());
      case FactValue.Role v ->
          Map.of(
              "application", id(v.application()),
              "line", v.line(),
              "name", v.name(),
              "requestable", v.requestable(),
              "sensitivity", v.sensitivity().word());
      case FactValue.Given v ->
          Map.of(
              "entitlement", id(v.entitlement()),
              "source", v.source().word(),
              "subject", subject(v.subject()));
      case FactValue.TileFace v -> tile(v);
      case FactValue.Brand v ->
          Map.of(
              "band", v.band(),
              "door", v.door(),
              "form", v.form(),
              "help", v.help(),
              "mark", v.mark(),
              "name", v.name(),
              "tight", v.tight(),
              "welcome", v.welcome());
      case FactValue.SelfService v -> v.rules().stream().map(FactJson::rule).toList();
      case FactValue.Listing v ->
          Map.of(
              "address", v.address(),
              "category", v.category(),
              "hue", v.hue(),
              "line", v.line(),
              "name", v.name(),
              "picture", v.picture());
      case FactValue.FrontFace v -> Map.of("name", v.name(), "only", v.only(), "waves", v.waves());
      case FactValue.CollectionFace v -> Map.of("line", v.line(), "name", v.name());
      case FactValue.Separation v ->
          Map.of(
              "name", v.name(),
              "one", v.one().stream().map(FactJson::id).toList(),
              "other", v.other().stream().map(FactJson::id).toList(),
              "why", v.why());
      case FactValue.Route v -> RequestJson.value(v);
      case FactValue.RequestForm v -> FormJson.value(v);
      case FactValue.Duties v -> v.duties().stream().map(Duty::word).toList();
      case FactValue.Audience v -> audience(v);
      case FactValue.Place v -> Map.of("offered", v.offered(), "rank", v.rank());
    };
  }

  /** What an audience may bring. */
  public static Map<String, Object> rule(FactValue.SelfServiceLine rule) {
    return Map.of(
        "audience", audience(rule.audience()),
        "suggest", rule.suggest(),
        "links", rule.links().name().toLowerCase(Locale.ROOT));
  }

  public static FactValue.SelfServiceLine rule(Map<?, ?> json) {
    return new FactValue.SelfServiceLine(
        audience(object(json, "audience")),
        FactValue.Links.valueOf(text(json, "links").toUpperCase(Locale.ROOT)),
        Boolean.TRUE.equals(json.get("suggest")));
  }

  /** To whom something is given or shown. */
  public static Map<String, Object> subject(FactValue.Subject subject) {
    return switch (subject) {
      case FactValue.Subject.OfPerson s -> Map.of("person", id(s.person()));
      case FactValue.Subject.OfGroup s -> Map.of("group", id(s.group()));
      case FactValue.Subject.ByFilter s -> Map.of("filter", s.filter());
    };
  }

  /**
   * @throws IllegalArgumentException if it is none of person, group and filter
   */
  public static FactValue.Subject subject(Map<?, ?> json) {
    if (json.containsKey("person")) {
      return new FactValue.Subject.OfPerson(PersonId.parse(text(json, "person")));
    }
    if (json.containsKey("group")) {
      return new FactValue.Subject.OfGroup(GroupId.parse(text(json, "group")));
    }
    return new FactValue.Subject.ByFilter(text(json, "filter"));
  }

  public static FactValue.Audience audience(Map<?, ?> map) {
    List<FactValue.Subject> subjects = new ArrayList<>();
    list(map, "subjects").forEach(s -> subjects.add(subject((Map<?, ?>) s)));
    return new FactValue.Audience(
        Boolean.TRUE.equals(map.get("everyone")),
        subjects,
        map.containsKey("first-days") ? number(map, "first-days").intValue() : 0);
  }

  public static Map<String, Object> audience(FactValue.Audience v) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("everyone", v.everyone());
    if (v.firstDays() > 0) {
      json.put("first-days", v.firstDays());
    }
    json.put("subjects", v.subjects().stream().map(FactJson::subject).toList());
    return json;
  }

  /** Fields with their usual value are omitted. */
  private static Map<String, Object> profile(FactValue.Profile v) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("contact", v.contact());
    json.put("hue", v.hue());
    json.put("line", v.line());
    json.put("name", v.name());
    json.put("picture", v.picture());
    json.put("sensitivity", v.sensitivity().word());
    if (!v.nicknames().isEmpty()) {
      json.put("nicknames", v.nicknames());
    }
    return json;
  }

  /** Fields with their usual value are omitted. */
  private static Map<String, Object> tile(FactValue.TileFace v) {
    Map<String, Object> json = new LinkedHashMap<>();
    json.put("application", id(v.application()));
    json.put("hue", v.hue());
    json.put("line", v.line());
    json.put("name", v.name());
    json.put("needs", v.needs().stream().map(FactJson::id).toList());
    json.put("picture", v.picture());
    if (!v.address().isEmpty()) {
      json.put("address", v.address());
    }
    if (!v.contact().isEmpty()) {
      json.put("contact", v.contact());
    }
    if (v.apart()) {
      json.put("apart", true);
    }
    if (v.dated()) {
      json.put("dated", true);
    }
    return json;
  }

  static SortedSet<EntitlementId> entitlements(Map<?, ?> map, String name) {
    SortedSet<EntitlementId> found = new TreeSet<>();
    list(map, name).forEach(e -> found.add(EntitlementId.parse((String) e)));
    return found;
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
      case FactKey.OfDirectory k -> DirectoryJson.value(k, json);
      case FactKey.OfMandates k -> MandateJson.value(k, json);
      case FactKey.OfApps k -> AppJson.value(k, json);
      case FactKey.OfAccess k -> AccessJson.value(k, json);
      case FactKey.OfRequests k -> RequestJson.value(k, json);
      case FactKey.OfPortal k -> PortalJson.value(k, json);
      case FactKey.OfSelfService k -> SelfServiceJson.value(k, json);
    };
  }

  public static Reach reach(Map<?, ?> map) {
    return new Reach(set(map, "units"), set(map, "applications"), set(map, "collections"));
  }

  static @Nullable SortedSet<String> set(Map<?, ?> map, String name) {
    if (!(map.get(name) instanceof List<?> list)) {
      return null;
    }
    SortedSet<String> set = new TreeSet<>();
    list.forEach(item -> set.add((String) item));
    return set;
  }

  static String id(ObjectId id) {
    return id.value().toString();
  }
}
