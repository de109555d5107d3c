package eleutheria.core.directory;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.PersonId;
import eleutheria.core.ledger.LedgerChain;
import java.util.regex.Pattern;

/** The attributes that the product itself reads; all others are the organisation's own. */
public final class Attributes {
  /** How a person signs in; unique among all people. */
  public static final String USER_NAME = "userName";

  public static final String MAIL = "mail";
  public static final String UNIT = "unit";
  public static final String SITE = "site";
  public static final String TITLE = "title";

  /** The id of the person who leads this one. */
  public static final String MANAGER = "manager";

  /** Names follow RFC 7643, section 2.1: a letter, then letters, digits, {@code -} or {@code _}. */
  public static final Pattern NAME = Pattern.compile("[A-Za-z][A-Za-z0-9_-]{0,39}");

  private Attributes() {}

  /** The key of one value of an attribute. */
  public static FactKey.Attribute key(PersonId person, String name, boolean many, String value) {
    return new FactKey.Attribute(person, name, many ? slot(person, value) : "");
  }

  private static String slot(PersonId person, String value) {
    return LedgerChain.hash(person.value() + " " + value).substring(0, 16);
  }
}
