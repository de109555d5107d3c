/** Drafts: gathering edits, their consequences, publishing and reverting. */
@NullMarked
package eleutheria.server.drafts;

import org.jspecify.annotations.NullMarked;
