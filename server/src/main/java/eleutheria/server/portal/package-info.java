/** The portal over HTTP: what staff see, and how it is arranged. */
@NullMarked
package eleutheria.server.portal;

import org.jspecify.annotations.NullMarked;
