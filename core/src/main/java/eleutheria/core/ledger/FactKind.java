package eleutheria.core.ledger;

import eleutheria.core.facts.FactKey;
import java.util.Arrays;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The kinds of facts, one for each kind of key; docs/ledger-format.md tells what each holds. */
public enum FactKind {
  EXISTENCE("existence"),
  NAME("name"),
  STATUS("status"),
  ATTRIBUTE("attribute"),
  LINK("link"),
  GROUP_NAME("group-name"),
  GROUP_FORM("group-form"),
  MEMBERSHIP("membership"),
  OWNERSHIP("ownership"),
  DEFINITION("definition"),
  MANDATE("mandate"),
  MANDATE_HELD("mandate-held"),
  SOURCE("source"),
  APPLICATION("application"),
  APPLICATION_STATE("application-state"),
  WAY_IN("way-in"),
  SEATS("seats"),
  ENTITLEMENT("entitlement"),
  GRANT("grant"),
  GRANT_REASON("grant-reason"),
  TILE("tile"),
  COLLECTION("collection"),
  AUDIENCE("audience"),
  PLACED("placed"),
  SHOWN("shown"),
  FRONT_PAGE("front-page"),
  FRONT_PAGE_RANK("front-page-rank"),
  FRONT_PAGE_NOTICE("front-page-notice"),
  FRONT_PAGE_WAVE("front-page-wave"),
  FRONTED("fronted"),
  BRAND("brand"),
  SELF_SERVICE("self-service"),
  APPROVED("approved"),
  SEPARATION_RULE("separation-rule"),
  EXCEPTED("excepted");

  private static final Map<String, FactKind> BY_WORD =
      Arrays.stream(values()).collect(Collectors.toMap(FactKind::word, Function.identity()));

  private final String word;

  FactKind(String word) {
    this.word = word;
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
