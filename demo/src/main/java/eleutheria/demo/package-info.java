/** Tern Sound Ferries: an invented organisation with two years of past, made from a fixed seed. */
@NullMarked
package eleutheria.demo;

import org.jspecify.annotations.NullMarked;
