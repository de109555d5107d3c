/** The one way to change something, what it would do, and its receipt. */
@NullMarked
package eleutheria.server.writing;

import org.jspecify.annotations.NullMarked;
