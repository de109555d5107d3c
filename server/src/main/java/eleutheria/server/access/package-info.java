/** Grants, holdings and their grounds, rules that keep them apart, and what one holds oneself. */
@NullMarked
package eleutheria.server.access;

import org.jspecify.annotations.NullMarked;
