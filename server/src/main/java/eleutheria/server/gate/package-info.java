/** What every request passes: who may call, limits, problems, whole answers. */
@NullMarked
package eleutheria.server.gate;

import org.jspecify.annotations.NullMarked;
