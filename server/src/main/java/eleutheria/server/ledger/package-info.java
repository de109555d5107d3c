/** The one way of a change: lock, decide, write, take up; and the ledger's reading side. */
@NullMarked
package eleutheria.server.ledger;

import org.jspecify.annotations.NullMarked;
