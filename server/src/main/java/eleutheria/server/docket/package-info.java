/** What waits for a decision, with its evidence. */
@NullMarked
package eleutheria.server.docket;

import org.jspecify.annotations.NullMarked;
