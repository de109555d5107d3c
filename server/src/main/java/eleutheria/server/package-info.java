/** The server: one way for every change, one reading side, and what stands around them. */
@NullMarked
package eleutheria.server;

import org.jspecify.annotations.NullMarked;
