/**
 * Time, identity and facts: what is true from when until when, and the one way in which it changes.
 */
@NullMarked
package eleutheria.core.facts;

import org.jspecify.annotations.NullMarked;
