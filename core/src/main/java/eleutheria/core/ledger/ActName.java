package eleutheria.core.ledger;

import java.util.Arrays;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * What somebody, or the product by itself, did. What the screen calls it stands with the words of
 * the web.
 */
public enum ActName {
  SETTINGS_BEGIN("settings.begin"),
  MANDATE_FIRST_STEWARD("mandate.first-steward"),
  MANDATE_GIVE("mandate.give"),
  MANDATE_MAKE("mandate.make"),
  ATTRIBUTE_DEFINE("attribute.define"),
  DIRECTORY_IMPORT("directory.import"),
  GROUP_MAKE("group.make"),
  GROUP_RENAME("group.rename"),
  GROUP_ADD("group.add"),
  GROUP_REMOVE("group.remove"),
  GROUP_FILTER("group.filter"),
  GROUP_OWNERS("group.owners"),
  GROUP_END("group.end"),
  ACCOUNT_INVITE("account.invite"),
  ACCOUNT_RESET("account.reset"),
  ACCOUNT_RESET_USED("account.reset-used"),
  ACCOUNT_END_SESSIONS("account.end-sessions"),
  ACCOUNT_FEED("account.feed"),
  ACCOUNT_FEED_END("account.feed-end"),
  PERSON_ERASE("person.erase"),
  PARKED_RETRY("parked.retry"),
  PARKED_DROP("parked.drop"),
  SIGN_INS_SEAL("sign-ins.seal"),
  ACCOUNT_OPEN("account.open"),
  ACCOUNT_PASSWORD("account.password"),
  ACCOUNT_SIGN_OUT_EVERYWHERE("account.sign-out-everywhere"),
  LEDGER_EXPORT("ledger.export"),
  APP_PROPOSE("app.propose"),
  APP_DESCRIBE("app.describe"),
  APP_WAY_IN("app.way-in"),
  APP_SEATS("app.seats"),
  ACCESS_REPORT("access.report"),
  ACCESS_REPORT_MADE("access.report-made"),
  ACCESS_HINT_ASIDE("access.hint-aside"),
  ACCESS_HINT_BACK("access.hint-back"),
  SETTINGS_HINTS("settings.hints"),
  QUERY_SAVE("query.save"),
  QUERY_CHANGE("query.change"),
  QUERY_DROP("query.drop"),
  QUERY_SEND("query.send"),
  APP_STATE("app.state"),
  APP_OWNERS("app.owners"),
  APP_ENTITLEMENT("app.entitlement"),
  ACCESS_GIVE("access.give"),
  ACCESS_END("access.end"),
  ACCESS_UNTIL("access.until"),
  ACCESS_ENDS_SOON("access.ends-soon"),
  TILE_MAKE("tile.make"),
  TILE_CHANGE("tile.change"),
  TILE_END("tile.end"),
  COLLECTION_MAKE("collection.make"),
  COLLECTION_DESCRIBE("collection.describe"),
  COLLECTION_AUDIENCE("collection.audience"),
  COLLECTION_OWNERS("collection.owners"),
  COLLECTION_ARRANGE("collection.arrange"),
  COLLECTION_END("collection.end"),
  FRONT_PAGE_ARRANGE("front-page.arrange"),
  FRONT_PAGE_MAKE("front-page.make"),
  FRONT_PAGE_CHANGE("front-page.change"),
  FRONT_PAGE_MOVE("front-page.move"),
  FRONT_PAGE_END("front-page.end"),
  PORTAL_PREVIEW("portal.preview"),
  PORTAL_BRAND("portal.brand"),
  REQUEST_ASK("request.ask"),
  REQUEST_APPROVE("request.approve"),
  REQUEST_REFUSE("request.refuse"),
  REQUEST_TAKE_BACK("request.take-back"),
  REQUEST_WITHDRAW("request.withdraw"),
  REQUEST_LAPSE("request.lapse"),
  REQUEST_REMIND("request.remind"),
  REQUEST_ASK_BACK("request.ask-back"),
  REQUEST_PASS_ON("request.pass-on"),
  REQUEST_ANSWER_BACK("request.answer-back"),
  REQUEST_SAY("request.say"),
  REQUEST_GO_ON("request.go-on"),
  DEPUTY_NAME("deputy.name"),
  DEPUTY_END("deputy.end"),
  DEPARTURE_RUN("departure.run"),
  ROUTE_SET("route.set"),
  ROUTE_CLEAR("route.clear"),
  REQUEST_FORM_SET("request-form.set"),
  REQUEST_FORM_CLEAR("request-form.clear"),
  RULE_MAKE("rule.make"),
  RULE_CHANGE("rule.change"),
  RULE_END("rule.end"),
  RULE_EXCEPT("rule.except"),
  DRAFT_PUBLISH("draft.publish"),
  DRAFT_REVERT("draft.revert"),
  DRAFT_SCHEDULE("draft.schedule"),
  DRAFT_ASK("draft.ask"),
  DRAFT_REFUSE("draft.refuse"),
  DRAFT_TAKE_BACK("draft.take-back"),
  DRAFT_HOLD("draft.hold"),
  ACCESS_HAND_BACK("access.hand-back"),
  SUGGESTION_MAKE("suggestion.make"),
  SUGGESTION_WITHDRAW("suggestion.withdraw"),
  SUGGESTION_ACCEPT("suggestion.accept"),
  SUGGESTION_DECLINE("suggestion.decline"),
  APPROVED_LIST_ADD("approved-list.add"),
  APPROVED_LIST_CHANGE("approved-list.change"),
  APPROVED_LIST_REMOVE("approved-list.remove"),
  APPROVED_LIST_OWNERS("approved-list.owners"),
  SELF_SERVICE_SET("self-service.set"),
  COMPLAINT_MAKE("complaint.make"),
  COMPLAINT_ANSWER("complaint.answer"),
  COMPLAINT_WITHDRAW("complaint.withdraw"),
  CLOCK_BOUNDARY("clock.boundary");

  private static final Map<String, ActName> BY_WORD =
      Arrays.stream(values()).collect(Collectors.toMap(ActName::word, Function.identity()));

  private final String word;

  ActName(String word) {
    this.word = word;
  }

  /** As it stands in the ledger and in the database: {@code capability.verb}. */
  public String word() {
    return word;
  }

  /**
   * @throws IllegalArgumentException if there is none of this word
   */
  public static ActName of(String word) {
    ActName found = BY_WORD.get(word);
    if (found == null) {
      throw new IllegalArgumentException("no act is called " + word);
    }
    return found;
  }
}
