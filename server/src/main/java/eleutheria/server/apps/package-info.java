/** Applications and entitlements over HTTP. */
@NullMarked
package eleutheria.server.apps;

import org.jspecify.annotations.NullMarked;
