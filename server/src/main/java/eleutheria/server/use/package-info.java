/** How often things are opened, and what is left unused. */
@NullMarked
package eleutheria.server.use;

import org.jspecify.annotations.NullMarked;
