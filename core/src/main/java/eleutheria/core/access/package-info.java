/** Grants, holdings and their grounds; what an act would move, and who may move it. */
@NullMarked
package eleutheria.core.access;

import org.jspecify.annotations.NullMarked;
