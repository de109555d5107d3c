/** Applications, their states, ways in and entitlements. */
@NullMarked
package eleutheria.core.apps;

import org.jspecify.annotations.NullMarked;
