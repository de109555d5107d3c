/** Wanted changes that are not in force yet, what exactly they would do, and reverting. */
@NullMarked
package eleutheria.core.drafts;

import org.jspecify.annotations.NullMarked;
