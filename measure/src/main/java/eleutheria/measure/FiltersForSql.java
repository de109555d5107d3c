package eleutheria.measure;

import eleutheria.core.directory.filter.Filter;
import eleutheria.core.directory.filter.FilterParser;
import eleutheria.core.directory.filter.FilterSchema;
import eleutheria.core.facts.ValueType;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Hands the SQL side who fits each filter, as members of a group: found person by person by the
 * filters' own definition, without the engine, so that comparing both checks filters too.
 */
final class FiltersForSql {
  private final Connection connection;
  private final List<Map<String, List<String>>> people = new ArrayList<>();
  private final FilterSchema schema;

  FiltersForSql(Connection connection) throws SQLException {
    this.connection = connection;
    List<FilterSchema.Field> fields = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("select name from attribute_definition")) {
      while (row.next()) {
        fields.add(new FilterSchema.Field(row.getString(1), ValueType.TEXT));
      }
    }
    schema = new FilterSchema(fields);
    try (Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                """
                select p.p, a.name, a.value
                from attribute a join now_person p on p.id = a.person_id
                where a.valid_until = '9999-12-31'
                  and a.name in ('unit', 'site', 'title', 'employment', 'costCentre')
                """)) {
      while (row.next()) {
        while (people.size() <= row.getInt(1)) {
          people.add(new HashMap<>());
        }
        people
            .get(row.getInt(1))
            .put(row.getString(2).intern(), List.of(row.getString(3).intern()));
      }
    }
  }

  void fill() throws SQLException {
    record Wanted(int group, String filter) {}
    List<Wanted> wanted = new ArrayList<>();
    int next;
    try (Statement statement = connection.createStatement()) {
      try (ResultSet row =
          statement.executeQuery(
              """
              select g.g, f.filter from group_form f join now_group g on g.id = f.group_id
              where f.filter is not null
              """)) {
        while (row.next()) {
          wanted.add(new Wanted(row.getInt(1), row.getString(2)));
        }
      }
      try (ResultSet row = statement.executeQuery("select max(g) + 1 from now_group")) {
        row.next();
        next = row.getInt(1);
      }
      Map<Integer, String> given = new LinkedHashMap<>();
      try (ResultSet row =
              statement.executeQuery(
                  """
                  select g.filter, r.e from given g join now_role r on r.id = g.entitlement_id
                  where g.filter is not null
                  """);
          PreparedStatement group =
              connection.prepareStatement("insert into now_group (g, id) values (?, null)");
          PreparedStatement to =
              connection.prepareStatement("insert into now_to_group values (?, ?)")) {
        while (row.next()) {
          given.put(next, row.getString(1));
          group.setInt(1, next);
          group.execute();
          to.setInt(1, next);
          to.setInt(2, row.getInt(2));
          to.execute();
          next++;
        }
      }
      given.forEach((group, filter) -> wanted.add(new Wanted(group, filter)));
    }
    try (PreparedStatement member =
        connection.prepareStatement("insert into now_member (p, g) values (?, ?)")) {
      for (Wanted each : wanted) {
        List<Integer> fitting = fitting(each.filter());
        for (int person : fitting) {
          member.setInt(1, person);
          member.setInt(2, each.group());
          member.addBatch();
        }
        if (!fitting.isEmpty()) {
          member.executeBatch();
        }
      }
    }
  }

  /** Who fits, by the definition. */
  List<Integer> fitting(String text) {
    Filter filter = ((FilterParser.Parsed.Good) FilterParser.parse(text, schema)).filter();
    List<Integer> found = new ArrayList<>();
    for (int person = 0; person < people.size(); person++) {
      Map<String, List<String>> values = people.get(person);
      if (filter.matches(name -> values.getOrDefault(name, List.of()))) {
        found.add(person);
      }
    }
    return found;
  }
}
