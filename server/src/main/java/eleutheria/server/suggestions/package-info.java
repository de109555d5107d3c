/** Apps that people bring: own links, the approved list, apps put forward. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.suggestions;
