/** What all controllers share: who asks, what may be answered, how problems are told. */
@NullMarked
package eleutheria.server.web;

import org.jspecify.annotations.NullMarked;
