/** Tiles, collections, audiences, and what a person is shown. */
@NullMarked
package eleutheria.core.portal;

import org.jspecify.annotations.NullMarked;
