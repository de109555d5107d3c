/** Drafts: gathering edits, their consequences, publishing and putting back. */
@NullMarked
package eleutheria.server.drafts;

import org.jspecify.annotations.NullMarked;
