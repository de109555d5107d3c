/** People, groups, attributes and deliveries over HTTP. */
@NullMarked
package eleutheria.server.directory;

import org.jspecify.annotations.NullMarked;
