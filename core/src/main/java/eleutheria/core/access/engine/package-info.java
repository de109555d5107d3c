/**
 * The fast engine: the same answers as {@link eleutheria.core.access.Reference}, for 100,000 people
 * in microseconds. {@link eleutheria.core.access.engine.Engine} is the way in.
 */
@NullMarked
package eleutheria.core.access.engine;

import org.jspecify.annotations.NullMarked;
