/** What becomes true by itself at its time, and how what fails is tried again. */
@NullMarked
package eleutheria.server.clock;

import org.jspecify.annotations.NullMarked;
