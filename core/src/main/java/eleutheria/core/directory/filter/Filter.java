package eleutheria.core.directory.filter;

import eleutheria.core.facts.ValueType;
import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;

/**
 * A rule over a person's own attributes (RFC 7644, section 3.4.2.2). It is two-valued: a comparison
 * with an absent value is false, so {@code ne} is not the same as {@code not (… eq …)}; on an
 * attribute with many values a comparison holds if any value fits.
 */
public sealed interface Filter {

  /**
   * @param attributes gives the values of an attribute, none if absent
   */
  boolean matches(Function<String, List<String>> attributes);

  /** Names of the attributes that the filter reads. */
  default Set<String> reads() {
    Set<String> names = new TreeSet<>();
    collect(names);
    return names;
  }

  void collect(Set<String> names);

  record And(Filter left, Filter right) implements Filter {
    @Override
    public boolean matches(Function<String, List<String>> attributes) {
      return left.matches(attributes) && right.matches(attributes);
    }

    @Override
    public void collect(Set<String> names) {
      left.collect(names);
      right.collect(names);
    }
  }

  record Or(Filter left, Filter right) implements Filter {
    @Override
    public boolean matches(Function<String, List<String>> attributes) {
      return left.matches(attributes) || right.matches(attributes);
    }

    @Override
    public void collect(Set<String> names) {
      left.collect(names);
      right.collect(names);
    }
  }

  record Not(Filter inner) implements Filter {
    @Override
    public boolean matches(Function<String, List<String>> attributes) {
      return !inner.matches(attributes);
    }

    @Override
    public void collect(Set<String> names) {
      inner.collect(names);
    }
  }

  /** {@code pr}: the attribute has a value. */
  record Has(String attribute) implements Filter {
    @Override
    public boolean matches(Function<String, List<String>> attributes) {
      return !attributes.apply(attribute).isEmpty();
    }

    @Override
    public void collect(Set<String> names) {
      names.add(attribute);
    }
  }

  /**
   * @param literal folded where the attribute is text, as stored elsewhere
   * @param written the value as it was written
   */
  record Compare(
      String attribute, ValueType type, Operator operator, String literal, String written)
      implements Filter {
    @Override
    public boolean matches(Function<String, List<String>> attributes) {
      for (String value : attributes.apply(attribute)) {
        if (fits(value)) {
          return true;
        }
      }
      return false;
    }

    private boolean fits(String stored) {
      String value = type == ValueType.TEXT ? Folding.fold(stored) : stored;
      return switch (operator) {
        case CO -> value.contains(literal);
        case SW -> value.startsWith(literal);
        case EW -> value.endsWith(literal);
        case EQ -> compare(value) == 0;
        case NE -> compare(value) != 0;
        case GT -> compare(value) > 0;
        case GE -> compare(value) >= 0;
        case LT -> compare(value) < 0;
        case LE -> compare(value) <= 0;
      };
    }

    private int compare(String value) {
      return type == ValueType.NUMBER
          ? new BigDecimal(value).compareTo(new BigDecimal(literal))
          : value.compareTo(literal);
    }

    @Override
    public void collect(Set<String> names) {
      names.add(attribute);
    }
  }

  /** The operators of RFC 7644, table 3, without {@code pr}. */
  enum Operator {
    EQ,
    NE,
    CO,
    SW,
    EW,
    GT,
    GE,
    LT,
    LE
  }
}
