/** What the product has given up doing by itself: tried again or dropped by an administrator. */
@NullMarked
package eleutheria.server.parked;

import org.jspecify.annotations.NullMarked;
