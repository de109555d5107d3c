/** Pictures that people upload for tiles and for the organisation's own look. */
@org.jspecify.annotations.NullMarked
package eleutheria.server.pictures;
