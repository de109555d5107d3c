/** Files of people and groups: read, judged line by line, turned into edits. */
@NullMarked
package eleutheria.core.directory.intake;

import org.jspecify.annotations.NullMarked;
