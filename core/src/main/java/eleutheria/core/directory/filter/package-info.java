/** Rules over attributes in the filter syntax of RFC 7644, section 3.4.2.2. */
@NullMarked
package eleutheria.core.directory.filter;

import org.jspecify.annotations.NullMarked;
