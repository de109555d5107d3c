package eleutheria.server.holdings;

import eleutheria.core.access.engine.HoldingsMap;
import eleutheria.core.directory.Attributes;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How the map is laid out, as it stands in its address.
 *
 * @param rows the attribute whose values are the rows; the unit unless given
 * @param under the attribute of the second level
 * @param order of rows and columns; by name unless given
 * @param columns what columns stand together by; the application unless given
 * @param open keys of the rows that are open, one a line
 */
public record ShapeForm(
    @Nullable @Size(max = 40) String rows,
    @Nullable @Size(max = 40) String under,
    @Nullable @Pattern(regexp = "name|size|likeness") String order,
    @Nullable @Pattern(regexp = "application|sensitivity|state") String columns,
    @Nullable @Size(max = 8000) String open) {
  HoldingsMap.Shape shape() {
    return new HoldingsMap.Shape(
        rows == null ? Attributes.UNIT : rows,
        under == null ? "" : under,
        order == null
            ? HoldingsMap.Ordering.NAME
            : HoldingsMap.Ordering.valueOf(order.toUpperCase(Locale.ROOT)),
        columns == null
            ? HoldingsMap.Grouping.APPLICATION
            : HoldingsMap.Grouping.valueOf(columns.toUpperCase(Locale.ROOT)),
        keys(open));
  }

  /** Keys of rows that stand one a line; the empty one is that of people without a value. */
  static Set<String> keys(@Nullable String lines) {
    return lines == null ? Set.of() : new HashSet<>(List.of(lines.split("\n", -1)));
  }
}
