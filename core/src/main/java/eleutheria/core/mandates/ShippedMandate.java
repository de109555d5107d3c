package eleutheria.core.mandates;

import static eleutheria.core.mandates.Power.*;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.MandateId;
import eleutheria.core.facts.Reach;
import java.util.EnumSet;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/** The mandates that come with the product; the organisation may change them. */
public enum ShippedMandate {
  STEWARD("Steward", "all powers, everywhere", EnumSet.allOf(Power.class)),
  PORTAL_CURATOR(
      "Portal curator",
      "arranges what staff find on the portal",
      EnumSet.of(PEOPLE_READ, APPS_READ, PORTAL_ARRANGE, PORTAL_BRAND, PORTAL_PREVIEW)),
  HELP_DESK(
      "Help desk",
      "finds people and helps them sign in",
      EnumSet.of(PEOPLE_READ, APPS_READ, ACCESS_READ, PORTAL_PREVIEW, SIGNIN_HELP)),
  JOINERS_AND_LEAVERS(
      "Joiners and leavers",
      "imports people and runs departures",
      EnumSet.of(
          PEOPLE_READ,
          PEOPLE_EDIT,
          PEOPLE_IMPORT,
          GROUPS_EDIT,
          APPS_READ,
          ACCESS_READ,
          ACCESS_GIVE,
          ACCESS_END,
          DEPARTURES_RUN)),
  CONSENT_REVIEWER(
      "Consent reviewer",
      "decides which apps are allowed",
      EnumSet.of(PEOPLE_READ, APPS_READ, CONSENTS_READ, CONSENTS_DECIDE, CONSENTS_WITHDRAW)),
  RULE_KEEPER(
      "Rule keeper",
      "makes separation rules and accepts exceptions",
      EnumSet.of(PEOPLE_READ, APPS_READ, ACCESS_READ, ACCESS_RULES, ACCESS_EXCEPT)),
  AUDITOR(
      "Auditor",
      "reads everything and exports the ledger",
      EnumSet.of(
          PEOPLE_READ,
          APPS_READ,
          ACCESS_READ,
          CONSENTS_READ,
          USE_READ,
          LEDGER_READ,
          LEDGER_EXPORT));

  private final FactValue.Terms terms;

  ShippedMandate(String name, String line, Set<Power> powers) {
    TreeSet<String> words = new TreeSet<>();
    powers.forEach(power -> words.add(power.word()));
    this.terms = new FactValue.Terms(name, line, words, Reach.ALL);
  }

  /** The same in every organisation. */
  public MandateId id() {
    return new MandateId(new UUID(0x0000_0000_0000_7000L, 0x8000_0000_0000_0001L + ordinal()));
  }

  public FactValue.Terms terms() {
    return terms;
  }
}
