package eleutheria.server.state;

import java.sql.BatchUpdateException;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.support.SQLExceptionSubclassTranslator;
import org.springframework.jdbc.support.SQLExceptionTranslator;

/**
 * Many rows into one table, handed to the driver directly: jOOQ makes the statement and converts
 * the values, but would make some objects more for each of them, which was a third of the time of a
 * large import.
 */
final class Bulk {
  private static final int AT_ONCE = 5_000;
  private static final SQLExceptionTranslator TRANSLATOR = new SQLExceptionSubclassTranslator();

  private Bulk() {}

  static void insert(DSLContext db, Table<?> table, List<Field<?>> fields, List<Object[]> rows) {
    insert(
        db, db.insertInto(table, fields).values(new Object[fields.size()]).getSQL(), fields, rows);
  }

  /**
   * @param sql of one row, with a place for each field
   */
  static void insert(DSLContext db, String sql, List<Field<?>> fields, List<Object[]> rows) {
    if (rows.isEmpty()) {
      return;
    }
    db.connection(
        connection -> {
          try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int from = 0; from < rows.size(); from += AT_ONCE) {
              for (Object[] row : rows.subList(from, Math.min(from + AT_ONCE, rows.size()))) {
                for (int column = 0; column < row.length; column++) {
                  statement.setObject(column + 1, stored(fields.get(column), row[column]));
                }
                statement.addBatch();
              }
              statement.executeBatch();
            }
          } catch (SQLException e) {
            SQLException cause = cause(e);
            DataAccessException told = TRANSLATOR.translate("a batch", sql, cause);
            throw told == null ? new UncategorizedSQLException("a batch", sql, cause) : told;
          }
        });
  }

  /** What made a batch fail; the failure of the batch itself does not say of which kind it is. */
  private static SQLException cause(SQLException e) {
    SQLException cause = e;
    while (cause instanceof BatchUpdateException
        && cause.getCause() instanceof SQLException deeper) {
      cause = deeper;
    }
    return cause;
  }

  private static <T> @Nullable Object stored(Field<T> field, @Nullable Object value) {
    return field.getConverter().to(field.getDataType().convert(value));
  }
}
