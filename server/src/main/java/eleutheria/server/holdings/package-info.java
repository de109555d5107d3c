/** The map of holdings, comparisons, use, hints, queries and their reports. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.holdings;
