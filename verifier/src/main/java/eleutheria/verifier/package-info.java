/** Reads an exported ledger and says whether it is whole, by docs/ledger-format.md alone. */
@NullMarked
package eleutheria.verifier;

import org.jspecify.annotations.NullMarked;
