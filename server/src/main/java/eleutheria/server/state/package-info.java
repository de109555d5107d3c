/** The facts: in memory, as tables, and the chain of entries they come from. */
@NullMarked
package eleutheria.server.state;

import org.jspecify.annotations.NullMarked;
