package eleutheria.core.ledger;

import static eleutheria.core.ledger.JsonMembers.number;
import static eleutheria.core.ledger.JsonMembers.text;

import eleutheria.core.facts.ApplicationId;
import eleutheria.core.facts.CollectionId;
import eleutheria.core.facts.EntitlementId;
import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FrontPageId;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.GroupId;
import eleutheria.core.facts.ListingId;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.ObjectId;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.RequestScope;
import eleutheria.core.facts.RuleId;
import eleutheria.core.facts.SourceId;
import eleutheria.core.facts.TileId;
import java.util.Arrays;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The kinds of facts, one for each kind of key; docs/ledger-format.md tells what each holds. */
public enum FactKind {
  EXISTENCE("existence", json -> new FactKey.Existence(ObjectId.parse(text(json, "object")))),
  NAME("name", json -> new FactKey.Naming(PersonId.parse(text(json, "person")))),
  STATUS("status", json -> new FactKey.Status(PersonId.parse(text(json, "person")))),
  ATTRIBUTE(
      "attribute",
      json ->
          new FactKey.Attribute(
              PersonId.parse(text(json, "person")), text(json, "name"), text(json, "slot"))),
  LINK(
      "link",
      json ->
          new FactKey.Link(
              SourceId.parse(text(json, "source")),
              ObjectKind.of(text(json, "thing")),
              text(json, "key"))),
  GROUP_NAME("group-name", json -> new FactKey.GroupName(GroupId.parse(text(json, "group")))),
  GROUP_FORM("group-form", json -> new FactKey.GroupForm(GroupId.parse(text(json, "group")))),
  MEMBERSHIP(
      "membership",
      json ->
          new FactKey.Membership(
              GroupId.parse(text(json, "group")), ObjectId.parse(text(json, "member")))),
  OWNERSHIP(
      "ownership",
      json ->
          new FactKey.Ownership(
              ObjectId.parse(text(json, "object")), PersonId.parse(text(json, "owner")))),
  DEFINITION("definition", json -> new FactKey.Defined(text(json, "attribute"))),
  MANDATE("mandate", json -> new FactKey.Mandate(MandateId.parse(text(json, "mandate")))),
  MANDATE_HELD(
      "mandate-held",
      json ->
          new FactKey.MandateHeld(
              MandateId.parse(text(json, "mandate")), ObjectId.parse(text(json, "holder")))),
  DEPUTY(
      "deputy",
      json ->
          new FactKey.Deputy(
              PersonId.parse(text(json, "person")), PersonId.parse(text(json, "deputy")))),
  ROUTE("route", json -> new FactKey.Route(RequestScope.parse(text(json, "scope")))),
  REQUEST_FORM(
      "request-form", json -> new FactKey.RequestForm(RequestScope.parse(text(json, "scope")))),
  SOURCE("source", json -> new FactKey.Source(SourceId.parse(text(json, "source")))),
  APPLICATION(
      "application",
      json -> new FactKey.Application(ApplicationId.parse(text(json, "application")))),
  APPLICATION_STATE(
      "application-state",
      json -> new FactKey.AppState(ApplicationId.parse(text(json, "application")))),
  WAY_IN("way-in", json -> new FactKey.WayIn(ApplicationId.parse(text(json, "application")))),
  SEATS("seats", json -> new FactKey.Seats(ApplicationId.parse(text(json, "application")))),
  ENTITLEMENT(
      "entitlement",
      json -> new FactKey.Entitlement(EntitlementId.parse(text(json, "entitlement")))),
  GRANT("grant", json -> new FactKey.Grant(GrantId.parse(text(json, "grant")))),
  GRANT_REASON("grant-reason", json -> new FactKey.GrantReason(GrantId.parse(text(json, "grant")))),
  TILE("tile", json -> new FactKey.Tile(TileId.parse(text(json, "tile")))),
  COLLECTION(
      "collection", json -> new FactKey.Collection(CollectionId.parse(text(json, "collection")))),
  AUDIENCE(
      "audience",
      json ->
          new FactKey.Audience(
              json.containsKey("collection")
                  ? CollectionId.parse(text(json, "collection"))
                  : ObjectId.parse(text(json, "object")))),
  PLACED(
      "placed",
      json ->
          new FactKey.Placed(
              CollectionId.parse(text(json, "collection")), TileId.parse(text(json, "tile")))),
  SHOWN("shown", json -> new FactKey.Shown(TileId.parse(text(json, "tile")))),
  FRONT_PAGE("front-page", json -> new FactKey.Front(FrontPageId.parse(text(json, "front-page")))),
  FRONT_PAGE_RANK(
      "front-page-rank",
      json -> new FactKey.FrontRank(FrontPageId.parse(text(json, "front-page")))),
  FRONT_PAGE_NOTICE(
      "front-page-notice",
      json -> new FactKey.FrontNotice(FrontPageId.parse(text(json, "front-page")))),
  FRONT_PAGE_WAVE(
      "front-page-wave",
      json ->
          new FactKey.FrontWave(
              FrontPageId.parse(text(json, "front-page")), number(json, "wave").intValue())),
  FRONTED(
      "fronted",
      json ->
          new FactKey.Fronted(
              FrontPageId.parse(text(json, "front-page")),
              CollectionId.parse(text(json, "collection")))),
  BRAND("brand", json -> FactKey.Brand.ORGANISATION),
  SELF_SERVICE("self-service", json -> FactKey.SelfService.ORGANISATION),
  APPROVED("approved", json -> new FactKey.Approved(ListingId.parse(text(json, "listing")))),
  SEPARATION_RULE(
      "separation-rule", json -> new FactKey.SeparationRule(RuleId.parse(text(json, "rule")))),
  EXCEPTED(
      "excepted",
      json ->
          new FactKey.Excepted(
              RuleId.parse(text(json, "rule")),
              PersonId.parse(text(json, "person")),
              EntitlementId.parse(text(json, "one")),
              EntitlementId.parse(text(json, "other"))));

  private static final Map<String, FactKind> BY_WORD =
      Arrays.stream(values()).collect(Collectors.toMap(FactKind::word, Function.identity()));

  private final String word;
  private final Function<Map<?, ?>, FactKey> reader;

  FactKind(String word, Function<Map<?, ?>, FactKey> reader) {
    this.word = word;
    this.reader = reader;
  }

  /**
   * The key that stands in a change of this kind.
   *
   * @throws IllegalArgumentException if its members are not of this format
   */
  FactKey key(Map<?, ?> json) {
    return reader.apply(json);
  }

  /** As it stands in a change. */
  public String word() {
    return word;
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static FactKind of(String word) {
    FactKind found = BY_WORD.get(word);
    if (found == null) {
      throw new IllegalArgumentException("unknown kind of fact: " + word);
    }
    return found;
  }

  public static FactKind of(FactKey key) {
    return switch (key) {
      case FactKey.Existence k -> EXISTENCE;
      case FactKey.Naming k -> NAME;
      case FactKey.Status k -> STATUS;
      case FactKey.Attribute k -> ATTRIBUTE;
      case FactKey.Link k -> LINK;
      case FactKey.GroupName k -> GROUP_NAME;
      case FactKey.GroupForm k -> GROUP_FORM;
      case FactKey.Membership k -> MEMBERSHIP;
      case FactKey.Ownership k -> OWNERSHIP;
      case FactKey.Defined k -> DEFINITION;
      case FactKey.Mandate k -> MANDATE;
      case FactKey.MandateHeld k -> MANDATE_HELD;
      case FactKey.Deputy k -> DEPUTY;
      case FactKey.Route k -> ROUTE;
      case FactKey.RequestForm k -> REQUEST_FORM;
      case FactKey.Source k -> SOURCE;
      case FactKey.Application k -> APPLICATION;
      case FactKey.AppState k -> APPLICATION_STATE;
      case FactKey.WayIn k -> WAY_IN;
      case FactKey.Seats k -> SEATS;
      case FactKey.Entitlement k -> ENTITLEMENT;
      case FactKey.Grant k -> GRANT;
      case FactKey.GrantReason k -> GRANT_REASON;
      case FactKey.Tile k -> TILE;
      case FactKey.Collection k -> COLLECTION;
      case FactKey.Audience k -> AUDIENCE;
      case FactKey.Placed k -> PLACED;
      case FactKey.Shown k -> SHOWN;
      case FactKey.Front k -> FRONT_PAGE;
      case FactKey.FrontRank k -> FRONT_PAGE_RANK;
      case FactKey.FrontNotice k -> FRONT_PAGE_NOTICE;
      case FactKey.FrontWave k -> FRONT_PAGE_WAVE;
      case FactKey.Fronted k -> FRONTED;
      case FactKey.Brand k -> BRAND;
      case FactKey.SelfService k -> SELF_SERVICE;
      case FactKey.Approved k -> APPROVED;
      case FactKey.SeparationRule k -> SEPARATION_RULE;
      case FactKey.Excepted k -> EXCEPTED;
    };
  }
}
