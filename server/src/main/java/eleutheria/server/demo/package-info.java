/** What exists only in the demo profile. */
@NullMarked
package eleutheria.server.demo;

import org.jspecify.annotations.NullMarked;
