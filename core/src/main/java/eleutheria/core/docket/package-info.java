/** All that waits for a decision, in order of what is due. */
@NullMarked
package eleutheria.core.docket;

import org.jspecify.annotations.NullMarked;
