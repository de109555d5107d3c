/** People, applications, groups and entitlements as other things name them. */
@NullMarked
package eleutheria.server.refs;

import org.jspecify.annotations.NullMarked;
