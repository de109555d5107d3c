/** Access requests: who decides in which order, and what comes of it. */
@NullMarked
package eleutheria.core.requests;

import org.jspecify.annotations.NullMarked;
