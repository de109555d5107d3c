/** Half-filled forms, kept on the server and not in a browser that others may use. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.unsent;
