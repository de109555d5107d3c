package eleutheria.core.ledger;

/**
 * One thing that is wrong with a wanted act.
 *
 * @param code stable, for programs: {@code group.name-taken}
 * @param field the field of the form it belongs to; empty if to the whole
 * @param sentence what is wrong and what to do next, for people
 */
public record Problem(Kind kind, String code, String field, String sentence) {
  public enum Kind {
    /** What was sent cannot be right. */
    INVALID,
    /** A power or its reach is missing. */
    FORBIDDEN,
    /** The thing is not there, or not for this reader. */
    ABSENT,
    /** Someone else changed it meanwhile. */
    STALE
  }

  public static Problem invalid(String code, String field, String sentence) {
    return new Problem(Kind.INVALID, code, field, sentence);
  }

  public static Problem forbidden(String code, String sentence) {
    return new Problem(Kind.FORBIDDEN, code, "", sentence);
  }

  public static Problem absent(String what) {
    return new Problem(
        Kind.ABSENT, "absent", "", "There is no such " + what + ", or it is outside your reach.");
  }

  public static Problem stale(String field, String sentence) {
    return new Problem(Kind.STALE, "changed-meanwhile", field, sentence);
  }
}
