/** What is refused, and how it is told (RFC 9457). */
@NullMarked
package eleutheria.server.problems;

import org.jspecify.annotations.NullMarked;
