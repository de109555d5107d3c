package eleutheria.measure;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.Map;

/** The SQL that the engine is measured against; it stands in {@code src/main/resources/sql}. */
final class Sql implements AutoCloseable {
  private final Connection connection;
  private final Map<String, PreparedStatement> prepared = new HashMap<>();

  Sql(Connection connection) {
    this.connection = connection;
  }

  static String text(String name) {
    try (InputStream in = Sql.class.getResourceAsStream("/sql/" + name + ".sql")) {
      if (in == null) {
        throw new IllegalArgumentException("no SQL is called " + name);
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Runs a file of several statements. */
  void script(String name) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String each : text(name).replaceAll("(?m)^--.*$", "").split(";")) {
        if (!each.isBlank()) {
          statement.execute(each);
        }
      }
      for (String table :
          new String[] {
            "now_person", "now_group", "now_edge", "now_member", "now_own", "now_to_group"
          }) {
        statement.execute("analyze table " + table);
      }
    }
  }

  /** Reads all rows of a query, and says how many there were. */
  int rows(String name, int... parameters) throws SQLException {
    int rows = 0;
    try (ResultSet result = query(name, parameters)) {
      while (result.next()) {
        result.getString(1);
        rows++;
      }
    }
    return rows;
  }

  int number(String name, int... parameters) throws SQLException {
    try (ResultSet result = query(name, parameters)) {
      result.next();
      return result.getInt(1);
    }
  }

  ResultSet query(String name, int... parameters) throws SQLException {
    PreparedStatement statement = prepared.get(name);
    if (statement == null) {
      statement = connection.prepareStatement(text(name));
      prepared.put(name, statement);
    }
    for (int i = 0; i < parameters.length; i++) {
      statement.setInt(i + 1, parameters[i]);
    }
    return statement.executeQuery();
  }

  /** Writes how the database goes about a query. */
  void explain(String name, Path folder, int... parameters) throws SQLException, IOException {
    StringBuilder out = new StringBuilder();
    try (PreparedStatement statement =
        connection.prepareStatement(
            "explain extended " + text(name).replaceAll("(?m)^--.*$", ""))) {
      for (int i = 0; i < parameters.length; i++) {
        statement.setInt(i + 1, parameters[i]);
      }
      try (ResultSet result = statement.executeQuery()) {
        int columns = result.getMetaData().getColumnCount();
        for (int i = 1; i <= columns; i++) {
          out.append(result.getMetaData().getColumnLabel(i)).append(i < columns ? "\t" : "\n");
        }
        while (result.next()) {
          for (int i = 1; i <= columns; i++) {
            out.append(result.getString(i)).append(i < columns ? "\t" : "\n");
          }
        }
      }
    }
    Files.writeString(folder.resolve(name + ".explain.txt"), out);
  }

  @Override
  public void close() throws SQLException {
    for (PreparedStatement statement : prepared.values()) {
      statement.close();
    }
  }
}
