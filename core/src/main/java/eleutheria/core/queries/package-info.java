/** Saved queries about holdings: whose they are, who sees them, when they are sent. */
@org.jspecify.annotations.NullMarked
package eleutheria.core.queries;
