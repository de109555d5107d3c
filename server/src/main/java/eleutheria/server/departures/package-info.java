/** Departures over HTTP. */
@NullMarked
package eleutheria.server.departures;

import org.jspecify.annotations.NullMarked;
