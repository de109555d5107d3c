/** Own links, the approved list, suggested apps. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.suggestions;
