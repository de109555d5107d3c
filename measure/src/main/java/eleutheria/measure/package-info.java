/** What {@code ./bench} measures: ratios within one run, never a time against the clock. */
@NullMarked
package eleutheria.measure;

import org.jspecify.annotations.NullMarked;
