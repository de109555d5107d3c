/** Ending all that one person has, as one act. */
@NullMarked
package eleutheria.core.departures;

import org.jspecify.annotations.NullMarked;
