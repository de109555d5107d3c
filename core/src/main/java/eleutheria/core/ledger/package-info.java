/** The append-only, hash-chained record of acts; its format is docs/ledger-format.md. */
@NullMarked
package eleutheria.core.ledger;

import org.jspecify.annotations.NullMarked;
