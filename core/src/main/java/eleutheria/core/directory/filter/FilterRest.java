package eleutheria.core.directory.filter;

import java.util.List;
import java.util.function.Function;
import java.util.function.Predicate;

/** What is left of a filter once the values of some attributes are known. */
public sealed interface FilterRest {
  /** Nothing: it holds, or does not, whatever the others are. */
  record Decided(boolean holds) implements FilterRest {}

  /** A filter over the others alone. */
  record Open(Filter filter) implements FilterRest {}

  /**
   * @param known whether an attribute's values are known
   * @param values those of an attribute that is known
   */
  static FilterRest of(
      Filter filter, Predicate<String> known, Function<String, List<String>> values) {
    return switch (filter) {
      case Filter.And and ->
          join(of(and.left(), known, values), of(and.right(), known, values), true);
      case Filter.Or or -> join(of(or.left(), known, values), of(or.right(), known, values), false);
      case Filter.Not not ->
          switch (of(not.inner(), known, values)) {
            case Decided decided -> new Decided(!decided.holds);
            case Open open -> new Open(new Filter.Not(open.filter));
          };
      case Filter.Has has ->
          known.test(has.attribute()) ? new Decided(has.matches(values)) : new Open(has);
      case Filter.Compare compare ->
          known.test(compare.attribute())
              ? new Decided(compare.matches(values))
              : new Open(compare);
    };
  }

  private static FilterRest join(FilterRest left, FilterRest right, boolean all) {
    if (left instanceof Decided decided) {
      return decided.holds == all ? right : decided;
    }
    if (right instanceof Decided decided) {
      return decided.holds == all ? left : decided;
    }
    Filter one = ((Open) left).filter;
    Filter other = ((Open) right).filter;
    return new Open(all ? new Filter.And(one, other) : new Filter.Or(one, other));
  }
}
