/** Tells browsers what has moved. */
@NullMarked
package eleutheria.server.live;

import org.jspecify.annotations.NullMarked;
