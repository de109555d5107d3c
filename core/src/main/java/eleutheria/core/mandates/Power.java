package eleutheria.core.mandates;

import java.util.Optional;

/** What a mandate may let one do. Every endpoint, view and mandate names powers from this list. */
public enum Power {
  PEOPLE_READ("people.read", "see people, their attributes and their groups"),
  PEOPLE_EDIT("people.edit", "change people and invite them"),
  PEOPLE_IMPORT("people.import", "import files and sources of people and groups"),
  GROUPS_EDIT("groups.edit", "make groups, set their members and filters"),
  APPS_READ("apps.read", "see applications"),
  APPS_EDIT("apps.edit", "change applications and their entitlements"),
  APPS_SIGNON("apps.signon", "change ways in, keys and certificates"),
  ACCESS_READ("access.read", "see holdings and their grounds"),
  ACCESS_GIVE("access.give", "grant access"),
  ACCESS_END("access.end", "end access"),
  ACCESS_RULES("access.rules", "make separation rules"),
  ACCESS_EXCEPT("access.except", "accept a conflict until a date"),
  PORTAL_ARRANGE("portal.arrange", "arrange tiles, collections and front pages"),
  PORTAL_BRAND("portal.brand", "set the organisation's name, mark and colours"),
  PORTAL_PREVIEW("portal.preview", "see the portal as another person would"),
  REQUESTS_CONFIGURE("requests.configure", "set forms and routes of requests"),
  REQUESTS_STEP_IN("requests.step-in", "decide requests on someone else's behalf"),
  CONSENTS_READ("consents.read", "see consents"),
  CONSENTS_DECIDE("consents.decide", "allow, refuse or block apps"),
  CONSENTS_WITHDRAW("consents.withdraw", "withdraw consents"),
  CONSENTS_STANCE("consents.stance", "set what people may allow themselves"),
  DEPARTURES_RUN("departures.run", "end all of someone's access"),
  REVIEWS_RUN("reviews.run", "plan and close review rounds"),
  MANDATES_EDIT("mandates.edit", "give and withdraw powers, among one's own"),
  USE_READ("use.read", "see when a named person used what"),
  LEDGER_READ("ledger.read", "read the ledger"),
  LEDGER_EXPORT("ledger.export", "export the ledger"),
  SIGNIN_RULES("signin.rules", "set second checks, networks and terms"),
  SIGNIN_HELP("signin.help", "help someone who cannot sign in"),
  SETTINGS_EDIT("settings.edit", "change the organisation, mail, sources and attributes");

  private final String word;
  private final String line;

  Power(String word, String line) {
    this.word = word;
    this.line = line;
  }

  /** The stable name, {@code people.read}. */
  public String word() {
    return word;
  }

  /** What it lets one do, to be read after "lets one …". */
  public String line() {
    return line;
  }

  public static Optional<Power> of(String word) {
    for (Power power : values()) {
      if (power.word.equals(word)) {
        return Optional.of(power);
      }
    }
    return Optional.empty();
  }
}
