/** The organisation's settings and the server's configuration. */
@NullMarked
package eleutheria.server.settings;

import org.jspecify.annotations.NullMarked;
