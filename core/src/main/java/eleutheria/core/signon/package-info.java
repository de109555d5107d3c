/** What a password must be, and how attempts to guess one are slowed. */
@NullMarked
package eleutheria.core.signon;

import org.jspecify.annotations.NullMarked;
