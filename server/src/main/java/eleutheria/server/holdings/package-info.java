/** The map of holdings, comparisons, use, hints, questions and their reports. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.holdings;
