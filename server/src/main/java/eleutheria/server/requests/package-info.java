/** Access requests: kept, asked, decided, lapsed. */
@NullMarked
package eleutheria.server.requests;

import org.jspecify.annotations.NullMarked;
