/** What is done outside after a commit: mail. */
@NullMarked
package eleutheria.server.outbox;

import org.jspecify.annotations.NullMarked;
