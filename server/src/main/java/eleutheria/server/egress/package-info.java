/** The one way out: nothing else in the server fetches an address that somebody typed. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.egress;
