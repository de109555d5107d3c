/** Powers, their reach, and the mandates that give them. */
@NullMarked
package eleutheria.core.mandates;

import org.jspecify.annotations.NullMarked;
