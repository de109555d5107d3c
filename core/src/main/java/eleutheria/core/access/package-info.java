/** Who is entitled to what, who holds it, on which grounds, and what a change would move. */
@NullMarked
package eleutheria.core.access;

import org.jspecify.annotations.NullMarked;
