/** Links of one’s own, the approved list, and suggested apps. */
@NullMarked
package eleutheria.core.suggestions;

import org.jspecify.annotations.NullMarked;
