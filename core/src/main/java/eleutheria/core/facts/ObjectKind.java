package eleutheria.core.facts;

import java.util.Locale;

/** The kinds of things that facts are about. */
public enum ObjectKind {
  PERSON,
  GROUP,
  MANDATE,
  SOURCE,
  APPLICATION,
  ENTITLEMENT,
  GRANT,
  TILE,
  COLLECTION,
  FRONT_PAGE,
  REQUEST,
  DRAFT,
  RULE,
  SUGGESTION,
  COMPLAINT,
  LISTING;

  /** The kind as it stands in the ledger and in the database. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException if no kind has this word
   */
  public static ObjectKind of(String word) {
    return valueOf(word.toUpperCase(Locale.ROOT));
  }
}
