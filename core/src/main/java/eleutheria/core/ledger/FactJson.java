package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.list;
import static eleutheria.core.ledger.JsonMembers.number;
import static eleutheria.core.ledger.JsonMembers.object;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.Reach;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.Sensitivity;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.TileId;
import eleutheria.core.facts.ValueType;
import java.time.LocalDate;
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
      case FactKey.Application k -> Map.of("application", id(k.subject()));
      case FactKey.AppState k -> Map.of("application", id(k.subject()));
      case FactKey.WayIn k -> Map.of("application", id(k.subject()));
      case FactKey.Seats k -> Map.of("application", id(k.subject()));
      case FactKey.Entitlement k -> Map.of("entitlement", id(k.subject()));
      case FactKey.Grant k -> Map.of("grant", id(k.subject()));
      case FactKey.GrantReason k -> Map.of("grant", id(k.subject()));
      case FactKey.Tile k -> Map.of("tile", id(k.subject()));
      case FactKey.Collection k -> Map.of("collection", id(k.subject()));
      case FactKey.Audience k ->
          k.subject() instanceof CollectionId collection
              ? Map.of("collection", id(collection))
              : Map.of("object", k.subject().text());
      case FactKey.Brand k -> Map.of();
      case FactKey.SelfService k -> Map.of();
      case FactKey.Approved k -> Map.of("listing", id(k.subject()));
      case FactKey.Shown k -> Map.of("tile", id(k.subject()));
      case FactKey.Front k -> Map.of("front-page", id(k.subject()));
      case FactKey.FrontRank k -> Map.of("front-page", id(k.subject()));
      case FactKey.FrontNotice k -> Map.of("front-page", id(k.subject()));
      case FactKey.FrontWave k -> Map.of("front-page", id(k.subject()), "wave", k.wave());
      case FactKey.Placed k -> Map.of("collection", id(k.subject()), "tile", id(k.tile()));
      case FactKey.Fronted k ->
          Map.of("collection", id(k.collection()), "front-page", id(k.subject()));
      case FactKey.SeparationRule k -> Map.of("rule", id(k.subject()));
      case FactKey.Excepted k ->
          Map.of(
              "one", id(k.one()),
              "other", id(k.other()),
              "person", id(k.person()),
              "rule", id(k.subject()));
    };
  }

  /**
   * @throws IllegalArgumentException if the kind or its members are not of this format
   */
  public static FactKey key(String kind, Map<?, ?> json) {
    return switch (FactKind.of(kind)) {
      case EXISTENCE -> new FactKey.Existence(ObjectId.parse(text(json, "object")));
      case NAME -> new FactKey.Naming(PersonId.parse(text(json, "person")));
      case STATUS -> new FactKey.Status(PersonId.parse(text(json, "person")));
      case ATTRIBUTE ->
          new FactKey.Attribute(
              PersonId.parse(text(json, "person")), text(json, "name"), text(json, "slot"));
      case LINK ->
          new FactKey.Link(
              SourceId.parse(text(json, "source")),
              ObjectKind.of(text(json, "thing")),
              text(json, "key"));
      case GROUP_NAME -> new FactKey.GroupName(GroupId.parse(text(json, "group")));
      case GROUP_FORM -> new FactKey.GroupForm(GroupId.parse(text(json, "group")));
      case MEMBERSHIP ->
          new FactKey.Membership(
              GroupId.parse(text(json, "group")), ObjectId.parse(text(json, "member")));
      case OWNERSHIP ->
          new FactKey.Ownership(
              ObjectId.parse(text(json, "object")), PersonId.parse(text(json, "owner")));
      case DEFINITION -> new FactKey.Defined(text(json, "attribute"));
      case MANDATE -> new FactKey.Mandate(MandateId.parse(text(json, "mandate")));
      case MANDATE_HELD ->
          new FactKey.MandateHeld(
              MandateId.parse(text(json, "mandate")), ObjectId.parse(text(json, "holder")));
      case SOURCE -> new FactKey.Source(SourceId.parse(text(json, "source")));
      case APPLICATION -> new FactKey.Application(ApplicationId.parse(text(json, "application")));
      case APPLICATION_STATE ->
          new FactKey.AppState(ApplicationId.parse(text(json, "application")));
      case WAY_IN -> new FactKey.WayIn(ApplicationId.parse(text(json, "application")));
      case SEATS -> new FactKey.Seats(ApplicationId.parse(text(json, "application")));
      case ENTITLEMENT -> new FactKey.Entitlement(EntitlementId.parse(text(json, "entitlement")));
      case GRANT -> new FactKey.Grant(GrantId.parse(text(json, "grant")));
      case GRANT_REASON -> new FactKey.GrantReason(GrantId.parse(text(json, "grant")));
      case TILE -> new FactKey.Tile(TileId.parse(text(json, "tile")));
      case COLLECTION -> new FactKey.Collection(CollectionId.parse(text(json, "collection")));
      case AUDIENCE ->
          new FactKey.Audience(
              json.containsKey("collection")
                  ? CollectionId.parse(text(json, "collection"))
                  : ObjectId.parse(text(json, "object")));
      case BRAND -> FactKey.Brand.ORGANISATION;
      case SELF_SERVICE -> FactKey.SelfService.ORGANISATION;
      case APPROVED -> new FactKey.Approved(ListingId.parse(text(json, "listing")));
      case SHOWN -> new FactKey.Shown(TileId.parse(text(json, "tile")));
      case FRONT_PAGE -> new FactKey.Front(FrontPageId.parse(text(json, "front-page")));
      case FRONT_PAGE_RANK -> new FactKey.FrontRank(FrontPageId.parse(text(json, "front-page")));
      case FRONT_PAGE_NOTICE ->
          new FactKey.FrontNotice(FrontPageId.parse(text(json, "front-page")));
      case FRONT_PAGE_WAVE ->
          new FactKey.FrontWave(
              FrontPageId.parse(text(json, "front-page")), number(json, "wave").intValue());
      case PLACED ->
          new FactKey.Placed(
              CollectionId.parse(text(json, "collection")), TileId.parse(text(json, "tile")));
      case FRONTED ->
          new FactKey.Fronted(
              FrontPageId.parse(text(json, "front-page")),
              CollectionId.parse(text(json, "collection")));
      case SEPARATION_RULE -> new FactKey.SeparationRule(RuleId.parse(text(json, "rule")));
      case EXCEPTED ->
          new FactKey.Excepted(
              RuleId.parse(text(json, "rule")),
              PersonId.parse(text(json, "person")),
              EntitlementId.parse(text(json, "one")),
              EntitlementId.parse(text(json, "other")));
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
        entitlements(map, "needs"),
        textOr(map, "address"),
        textOr(map, "contact"),
        Boolean.TRUE.equals(map.get("apart")),
        Boolean.TRUE.equals(map.get("dated")));
  }

  private static SortedSet<EntitlementId> entitlements(Map<?, ?> map, String name) {
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
            reach(object(map, "reach")));
      }
      case FactKey.Source k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        Map<String, String> columns = new TreeMap<>();
        object(map, "columns").forEach((c, t) -> columns.put((String) c, (String) t));
        yield new FactValue.Delivery(text(map, "name"), columns);
      }
      case FactKey.Application k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Profile(
            text(map, "name"),
            text(map, "line"),
            text(map, "picture"),
            text(map, "hue"),
            Sensitivity.of(text(map, "sensitivity")),
            text(map, "contact"),
            map.get("nicknames") instanceof List<?> all
                ? all.stream().map(String.class::cast).toList()
                : List.of());
      }
      case FactKey.AppState k -> new FactValue.AppState(ApplicationState.of((String) json));
      case FactKey.WayIn k -> new FactValue.WayIn.Link(text((Map<?, ?>) json, "address"));
      case FactKey.Seats k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Seats(
            number(map, "count").intValue(),
            number(map, "price").longValue(),
            text(map, "currency"));
      }
      case FactKey.Entitlement k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Role(
            ApplicationId.parse(text(map, "application")),
            text(map, "name"),
            text(map, "line"),
            Sensitivity.of(text(map, "sensitivity")),
            Boolean.TRUE.equals(map.get("requestable")));
      }
      case FactKey.Grant k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Given(
            subject(object(map, "subject")),
            EntitlementId.parse(text(map, "entitlement")),
            GrantSource.of(text(map, "source")));
      }
      case FactKey.GrantReason k -> new FactValue.Text((String) json);
      case FactKey.Tile k -> tile((Map<?, ?>) json);
      case FactKey.Collection k ->
          new FactValue.CollectionFace(
              text((Map<?, ?>) json, "name"), text((Map<?, ?>) json, "line"));
      case FactKey.Audience k -> audience((Map<?, ?>) json);
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
      case FactKey.SelfService k ->
          new FactValue.SelfService(
              ((List<?>) json).stream().map(each -> rule((Map<?, ?>) each)).toList());
      case FactKey.Approved k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Listing(
            text(map, "name"),
            text(map, "address"),
            text(map, "line"),
            text(map, "category"),
            text(map, "picture"),
            text(map, "hue"));
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
      case FactKey.FrontWave k -> audience((Map<?, ?>) json);
      case FactKey.Fronted k -> new FactValue.Text((String) json);
      case FactKey.SeparationRule k -> {
        Map<?, ?> map = (Map<?, ?>) json;
        yield new FactValue.Separation(
            text(map, "name"),
            text(map, "why"),
            entitlements(map, "one"),
            entitlements(map, "other"));
      }
      case FactKey.Excepted k -> FactValue.Present.PRESENT;
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
}
