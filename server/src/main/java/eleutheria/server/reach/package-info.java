/** Whom and what a reader may see: asked by everything that tells of people. */
@NullMarked
package eleutheria.server.reach;

import org.jspecify.annotations.NullMarked;
