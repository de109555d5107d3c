/** How instants and ids stand in columns; the tables that jOOQ makes use them. */
@NullMarked
package eleutheria.server.converters;

import org.jspecify.annotations.NullMarked;
