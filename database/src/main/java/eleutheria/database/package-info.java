/** A private MariaDB for builds and tests, and the generator of jOOQ classes. */
@NullMarked
package eleutheria.database;

import org.jspecify.annotations.NullMarked;
