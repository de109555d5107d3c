package eleutheria.core.directory;

import eleutheria.core.facts.FactKey;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.PersonId;
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

  /**
   * The key of one value of an attribute.
   *
   * @param slot which of its values, where it may have many; it tells nothing of the value
   */
  public static FactKey.Attribute key(PersonId person, String name, boolean many, String slot) {
    return new FactKey.Attribute(person, name, many ? slot : "");
  }

  /**
   * The key under which a value is on record, or else a fresh one. Slots are random: a hash of the
   * value would tell it to whoever guesses, and could not be erased.
   */
  public static FactKey.Attribute keyOf(
      Moment moment, PersonId person, String name, boolean many, String value) {
    if (!many) {
      return key(person, name, false, "");
    }
    for (FactKey key : moment.facts().about(person)) {
      if (key instanceof FactKey.Attribute attribute
          && attribute.name().equals(name)
          && moment.facts().from(key, moment.at()).stream()
              .anyMatch(spell -> spell.value().equals(new FactValue.Text(value)))) {
        return attribute;
      }
    }
    return key(person, name, true, "%016x".formatted(moment.ids().get().getLeastSignificantBits()));
  }
}
