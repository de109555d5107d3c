/** Holdings, grounds and grants over HTTP. */
@NullMarked
package eleutheria.server.access;

import org.jspecify.annotations.NullMarked;
