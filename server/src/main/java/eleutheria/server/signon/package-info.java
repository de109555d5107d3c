/** Signing in and out, passwords, one-time links, sessions. */
@NullMarked
package eleutheria.server.signon;

import org.jspecify.annotations.NullMarked;
