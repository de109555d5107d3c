/** People and groups: what they are at a moment, and the decisions that change them. */
@NullMarked
package eleutheria.core.directory;

import org.jspecify.annotations.NullMarked;
