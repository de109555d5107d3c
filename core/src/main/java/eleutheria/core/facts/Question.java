package eleutheria.core.facts;

import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A question of a request form.
 *
 * @param key what its answer is called in conditions and kept by; unique in the form, see {@link
 *     #KEY}
 * @param label what is asked, in words
 * @param help what is said below it; may be empty
 * @param required whether it must be answered where it is shown
 * @param shownWhen a filter (RFC 7644, section 3.4.2.2) over earlier answers and the asker's
 *     attributes; empty where it is always shown
 */
public record Question(
    String key, String label, String help, boolean required, Kind kind, String shownWhen) {
  /** A letter, then letters, digits and hyphens, as in names of attributes; at most 40. */
  public static final String KEY = "[a-z][a-z0-9-]{0,39}";

  public static final int LONGEST_LABEL = 200;

  public static final int LONGEST_HELP = 500;

  /** What an answer is. */
  public sealed interface Kind {
    /** How its answer compares in a filter. */
    default ValueType type() {
      return switch (this) {
        case ShortText k -> ValueType.TEXT;
        case LongText k -> ValueType.TEXT;
        case OneOf k -> ValueType.TEXT;
        case SeveralOf k -> ValueType.TEXT;
        case Number k -> ValueType.NUMBER;
        case Day k -> ValueType.DAY;
        case YesNo k -> ValueType.YESNO;
        case Colleague k -> ValueType.PERSON;
      };
    }
  }

  /**
   * One line of at most {@link #MOST} characters.
   *
   * @param looksLike what it must look like, see {@link Mask}; empty for anything
   */
  public record ShortText(String looksLike) implements Kind {
    public static final int MOST = 200;
  }

  /** Lines of at most {@link #MOST} characters. */
  public record LongText() implements Kind {
    public static final int MOST = 4_000;
  }

  /**
   * @param least both inclusive; null for no limit
   */
  public record Number(@Nullable BigDecimal least, @Nullable BigDecimal most) implements Kind {
    /** Its longest form, in characters. */
    public static final int LONGEST = 30;
  }

  /**
   * A day.
   *
   * @param earliest in days from the day of asking, 0 for that day, negative for before; null for
   *     no limit
   * @param latest likewise
   */
  public record Day(@Nullable Integer earliest, @Nullable Integer latest) implements Kind {
    /** How far a limit may lie, in days. */
    public static final int FARTHEST = 36_600;
  }

  public record OneOf(List<String> choices) implements Kind {
    public OneOf {
      choices = List.copyOf(choices);
    }
  }

  public record SeveralOf(List<String> choices) implements Kind {
    public SeveralOf {
      choices = List.copyOf(choices);
    }
  }

  public record YesNo() implements Kind {}

  /** Somebody whom the asker works with. */
  public record Colleague() implements Kind {}

  /** The choices of one or several; none of the other kinds. */
  public List<String> choices() {
    return switch (kind) {
      case OneOf k -> k.choices();
      case SeveralOf k -> k.choices();
      case ShortText k -> List.of();
      case LongText k -> List.of();
      case Number k -> List.of();
      case Day k -> List.of();
      case YesNo k -> List.of();
      case Colleague k -> List.of();
    };
  }
}
