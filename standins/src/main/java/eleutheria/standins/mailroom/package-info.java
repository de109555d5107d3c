/** A mail server that delivers nothing and shows everything. */
@NullMarked
package eleutheria.standins.mailroom;

import org.jspecify.annotations.NullMarked;
