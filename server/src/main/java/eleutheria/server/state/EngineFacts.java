package eleutheria.server.state;

import static eleutheria.server.tables.Tables.APPLICATION_STATE;
import static eleutheria.server.tables.Tables.ATTRIBUTE;
import static eleutheria.server.tables.Tables.ATTRIBUTE_DEFINITION;
import static eleutheria.server.tables.Tables.ENTITLEMENT;
import static eleutheria.server.tables.Tables.EXISTENCE;
import static eleutheria.server.tables.Tables.GIVEN;
import static eleutheria.server.tables.Tables.GRANT_REASON;
import static eleutheria.server.tables.Tables.GROUP_FORM;
import static eleutheria.server.tables.Tables.MEMBERSHIP;
import static eleutheria.server.tables.Tables.NAMING;
import static eleutheria.server.tables.Tables.STATUS;
import static eleutheria.server.tables.Tables.THING;
import static java.util.Objects.requireNonNull;

import eleutheria.core.access.engine.Store;
import eleutheria.core.facts.ApplicationState;
import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.ObjectKind;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.ValueType;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Query;
import org.jooq.conf.ParamType;

/**
 * Fills the engine's columns from the database.
 *
 * <p>Rows are read in the order of their primary keys, which hold every column that is wanted, so a
 * table is read once from end to end; members of one group follow each other, and its number is
 * looked up once. Records are passed by: at some millions of rows an object a row costs more than
 * reading it.
 */
public final class EngineFacts {
  private static final int BATCH = 10_000;

  private EngineFacts() {}

  private interface Rows {
    void at(ResultSet row) throws SQLException;
  }

  /**
   * Reads all facts that access follows from, past and to come, inside the caller's transaction.
   */
  public static Store load(DSLContext db) {
    return db.connectionResult(connection -> new Reading(db, connection).all());
  }

  private static final class Reading {
    private final DSLContext db;
    private final Connection connection;
    private final Store store = new Store();
    // The halves of the id that was read last.
    private long high;
    private long low;

    Reading(DSLContext db, Connection connection) {
      this.db = db;
      this.connection = connection;
    }

    Store all() throws SQLException {
      people();
      each(
          db.select(THING.KIND, EXISTENCE.OBJECT_ID, EXISTENCE.VALID_FROM, EXISTENCE.VALID_UNTIL)
              .from(EXISTENCE)
              .join(THING)
              .on(THING.ID.eq(EXISTENCE.OBJECT_ID))
              .where(THING.KIND.in(ObjectKind.PERSON.word(), ObjectKind.GROUP.word())),
          row -> {
            id(row, 2);
            store.exists(
                high,
                low,
                row.getString(1).equals(ObjectKind.PERSON.word()),
                micros(row, 3),
                micros(row, 4));
          });
      each(
          db.select(
                  ATTRIBUTE_DEFINITION.NAME,
                  ATTRIBUTE_DEFINITION.TYPE,
                  ATTRIBUTE_DEFINITION.VALID_FROM,
                  ATTRIBUTE_DEFINITION.VALID_UNTIL)
              .from(ATTRIBUTE_DEFINITION),
          row ->
              store.defined(
                  row.getString(1),
                  ValueType.of(row.getString(2)),
                  micros(row, 3),
                  micros(row, 4)));
      each(
          db.select(
                  STATUS.PERSON_ID,
                  STATUS.STATUS_,
                  STATUS.STATED,
                  STATUS.VALID_FROM,
                  STATUS.VALID_UNTIL)
              .from(STATUS),
          row -> {
            id(row, 1);
            store.status(
                high,
                low,
                PersonStatus.of(row.getString(2)),
                row.getObject(3, LocalDate.class),
                micros(row, 4),
                micros(row, 5));
          });
      each(
          db.select(
                  ATTRIBUTE.PERSON_ID,
                  ATTRIBUTE.NAME,
                  ATTRIBUTE.SLOT,
                  ATTRIBUTE.VALUE,
                  ATTRIBUTE.VALID_FROM,
                  ATTRIBUTE.VALID_UNTIL)
              .from(ATTRIBUTE),
          row -> {
            id(row, 1);
            store.attribute(
                high,
                low,
                row.getString(2),
                row.getString(3),
                row.getString(4),
                micros(row, 5),
                micros(row, 6));
          });
      groups();
      grants();
      return store;
    }

    /** Everyone's newest name first, since people are numbered in the order of those. */
    private void people() throws SQLException {
      record Row(
          long high, long low, FactValue.PersonName name, byte[] key, long from, long until) {}
      List<Row> names = new ArrayList<>();
      each(
          db.select(
                  NAMING.PERSON_ID,
                  NAMING.GIVEN,
                  NAMING.FAMILY,
                  NAMING.DISPLAYED,
                  NAMING.NAME_KEY,
                  NAMING.VALID_FROM,
                  NAMING.VALID_UNTIL)
              .from(NAMING)
              .orderBy(NAMING.PERSON_ID, NAMING.VALID_UNTIL),
          row -> {
            id(row, 1);
            names.add(
                new Row(
                    high,
                    low,
                    new FactValue.PersonName(row.getString(2), row.getString(3), row.getString(4)),
                    row.getBytes(5),
                    micros(row, 6),
                    micros(row, 7)));
          });
      List<Store.Known> known = new ArrayList<>(names.size());
      for (int i = 0; i < names.size(); i++) {
        Row row = names.get(i);
        boolean newest =
            i + 1 == names.size()
                || names.get(i + 1).high() != row.high()
                || names.get(i + 1).low() != row.low();
        if (newest) {
          known.add(new Store.Known(row.high(), row.low(), row.name(), row.key()));
        }
      }
      store.people(known);
      names.forEach(
          row ->
              store.named(row.high(), row.low(), row.name(), row.key(), row.from(), row.until()));
    }

    private void groups() throws SQLException {
      each(
          db.select(
                  GROUP_FORM.GROUP_ID,
                  GROUP_FORM.FILTER,
                  GROUP_FORM.VALID_FROM,
                  GROUP_FORM.VALID_UNTIL)
              .from(GROUP_FORM),
          row -> {
            id(row, 1);
            store.form(high, low, row.getString(2), micros(row, 3), micros(row, 4));
          });
      String person = ObjectKind.PERSON.word();
      byte[][] last = {new byte[0]};
      int[] group = {0};
      each(
          db.select(
                  MEMBERSHIP.GROUP_ID,
                  MEMBERSHIP.MEMBER_ID,
                  MEMBERSHIP.MEMBER_KIND,
                  MEMBERSHIP.VALID_FROM,
                  MEMBERSHIP.VALID_UNTIL)
              .from(MEMBERSHIP),
          row -> {
            byte[] id = row.getBytes(1);
            if (!Arrays.equals(id, last[0])) {
              last[0] = id;
              id(row, 1);
              group[0] = store.groupNumber(high, low);
            }
            id(row, 2);
            if (row.getString(3).equals(person)) {
              store.member(group[0], high, low, micros(row, 4), micros(row, 5));
            } else {
              store.nested(group[0], high, low, micros(row, 4), micros(row, 5));
            }
          });
    }

    private void grants() throws SQLException {
      each(
          db.select(
                  ENTITLEMENT.ENTITLEMENT_ID,
                  ENTITLEMENT.APPLICATION_ID,
                  ENTITLEMENT.VALID_FROM,
                  ENTITLEMENT.VALID_UNTIL)
              .from(ENTITLEMENT),
          row -> {
            id(row, 1);
            long ownHigh = high;
            long ownLow = low;
            id(row, 2);
            store.role(ownHigh, ownLow, high, low, micros(row, 3), micros(row, 4));
          });
      each(
          db.select(
                  APPLICATION_STATE.APPLICATION_ID,
                  APPLICATION_STATE.STATE,
                  APPLICATION_STATE.VALID_FROM,
                  APPLICATION_STATE.VALID_UNTIL)
              .from(APPLICATION_STATE),
          row -> {
            id(row, 1);
            store.state(
                high, low, ApplicationState.of(row.getString(2)), micros(row, 3), micros(row, 4));
          });
      Map<String, GrantSource> sources = new HashMap<>();
      for (GrantSource source : GrantSource.values()) {
        sources.put(source.word(), source);
      }
      each(
          db.select(
                  GIVEN.GRANT_ID,
                  GIVEN.PERSON_ID,
                  GIVEN.GROUP_ID,
                  GIVEN.FILTER,
                  GIVEN.ENTITLEMENT_ID,
                  GIVEN.SOURCE,
                  GIVEN.VALID_FROM,
                  GIVEN.VALID_UNTIL)
              .from(GIVEN),
          row -> {
            int subject;
            if (id(row, 2)) {
              subject = store.personSubject(high, low);
            } else if (id(row, 3)) {
              subject = store.groupSubject(high, low);
            } else {
              subject = store.filterSubject(row.getString(4));
            }
            id(row, 5);
            int entitlement = store.entitlementNumber(high, low);
            id(row, 1);
            store.grant(
                high,
                low,
                subject,
                entitlement,
                requireNonNull(sources.get(row.getString(6))),
                micros(row, 7),
                micros(row, 8));
          });
      each(
          db.select(
                  GRANT_REASON.GRANT_ID,
                  GRANT_REASON.REASON,
                  GRANT_REASON.VALID_FROM,
                  GRANT_REASON.VALID_UNTIL)
              .from(GRANT_REASON),
          row -> {
            id(row, 1);
            store.reason(high, low, row.getString(2), micros(row, 3), micros(row, 4));
          });
    }

    private void each(Query query, Rows rows) throws SQLException {
      try (PreparedStatement statement =
          connection.prepareStatement(query.getSQL(ParamType.INLINED))) {
        statement.setFetchSize(BATCH);
        try (ResultSet row = statement.executeQuery()) {
          while (row.next()) {
            rows.at(row);
          }
        }
      }
    }

    /** Reads an id into {@link #high} and {@link #low}; false where there is none. */
    private boolean id(ResultSet row, int column) throws SQLException {
      byte[] bytes = row.getBytes(column);
      if (bytes == null) {
        return false;
      }
      high = half(bytes, 0);
      low = half(bytes, 8);
      return true;
    }

    private static long half(byte[] bytes, int from) {
      long half = 0;
      for (int i = from; i < from + 8; i++) {
        half = half << 8 | (bytes[i] & 0xff);
      }
      return half;
    }

    private static long micros(ResultSet row, int column) throws SQLException {
      LocalDateTime at = row.getObject(column, LocalDateTime.class);
      return at.toEpochSecond(ZoneOffset.UTC) * 1_000_000L + at.getNano() / 1_000;
    }
  }
}
