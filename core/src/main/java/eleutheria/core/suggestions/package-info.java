/** Apps that people bring: links of their own, the approved list, and apps that are put forward. */
@NullMarked
package eleutheria.core.suggestions;

import org.jspecify.annotations.NullMarked;
