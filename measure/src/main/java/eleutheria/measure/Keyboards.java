package eleutheria.measure;

import java.nio.ByteBuffer;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;

/** The two people of a set who can sign in, and how its things are found by their numbers. */
final class Keyboards {
  static final String PASSWORD = "tern over the sound";

  private final Connection connection;
  private final Sql sql;

  Keyboards(Connection connection, Sql sql) {
    this.connection = connection;
    this.sql = sql;
  }

  record Who(UUID steward, UUID staff, int staffNumber) {}

  /** A steward, and a member of staff who holds enough; both can sign in. */
  Who people(int holdings) throws SQLException {
    int staff = -1;
    for (int person = 0; person < 20_000 && staff < 0; person++) {
      if (sql.rows("entitlements-of-person-closure", person, person) >= holdings) {
        staff = person;
      }
    }
    if (staff < 0) {
      throw new IllegalStateException("nobody holds enough");
    }
    Who who = new Who(id("now_person", "p", staff + 1), id("now_person", "p", staff), staff);
    try (Statement statement = connection.createStatement()) {
      for (UUID each : List.of(who.steward(), who.staff())) {
        String hex = hex(each);
        statement.execute("delete from status where person_id = x'%s'".formatted(hex));
        statement.execute(
            "insert into status (person_id, status, valid_from, valid_until, opened) values"
                .concat(" (x'%s', 'active', '2020-01-01', '9999-12-31', 1)".formatted(hex)));
        statement.execute(
            "update attribute set value = '%s' where person_id = x'%s' and name = 'userName'"
                .formatted(each.equals(who.staff()) ? "bench.staff" : "bench.steward", hex));
        statement.execute(
            "replace into account values (x'%s', '%s', '2020-01-01')"
                .formatted(hex, new Argon2PasswordEncoder(16, 32, 1, 19_456, 2).encode(PASSWORD)));
      }
      String mandate = "0".repeat(31) + "7";
      String powers =
          Arrays.stream(eleutheria.core.mandates.Power.values())
              .map(eleutheria.core.mandates.Power::word)
              .collect(Collectors.joining(" "));
      statement.execute("insert ignore into thing values (x'%s', 'mandate')".formatted(mandate));
      statement.execute(
          """
          insert ignore into mandate
            (mandate_id, name, line, powers, reach, valid_from, valid_until, opened)
          values (x'%s', 'Steward', '', '%s', '%s', '2020-01-01', '9999-12-31', 1)
          """
              .formatted(
                  mandate,
                  powers,
                  eleutheria.core.ledger.CanonicalJson.write(
                      eleutheria.core.ledger.FactJson.reach(eleutheria.core.facts.Reach.ALL))));
      statement.execute(
          """
          insert ignore into mandate_held
            (mandate_id, holder_id, holder_kind, valid_from, valid_until, opened)
          values (x'%s', x'%s', 'person', '2020-01-01', '9999-12-31', 1)
          """
              .formatted(mandate, hex(who.steward())));
    }
    return who;
  }

  private static String hex(UUID id) {
    return id.toString().replace("-", "");
  }

  UUID id(String table, String column, int number) throws SQLException {
    try (PreparedStatement statement =
        connection.prepareStatement("select id from " + table + " where " + column + " = ?")) {
      statement.setInt(1, number);
      try (ResultSet row = statement.executeQuery()) {
        row.next();
        ByteBuffer bytes = ByteBuffer.wrap(row.getBytes(1));
        return new UUID(bytes.getLong(), bytes.getLong());
      }
    }
  }
}
