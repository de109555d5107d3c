package eleutheria.measure;

import static java.util.Objects.requireNonNull;

import eleutheria.core.facts.FactValue;
import eleutheria.core.facts.GrantSource;
import eleutheria.core.facts.Moments;
import eleutheria.demo.Crowd;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Writes a crowd into the product's own tables, by way of files that the database reads whole. */
final class Fill implements Crowd.Taker {
  /** How each table's file is read: columns, with {@code @x} for those that are turned first. */
  private static final Map<String, String> COLUMNS = new LinkedHashMap<>();

  private static final String TIMES = ", valid_from, valid_until) set opened = 1";

  static {
    COLUMNS.put("thing", "(@a, kind) set id = unhex(@a)");
    COLUMNS.put("existence", "(@a" + TIMES + ", object_id = unhex(@a)");
    COLUMNS.put(
        "naming",
        "(@a, given, family, displayed, @k"
            + TIMES
            + ", person_id = unhex(@a), name_key = unhex(@k)");
    COLUMNS.put("status", "(@a, status" + TIMES + ", person_id = unhex(@a)");
    COLUMNS.put(
        "attribute_definition", "(name, label" + TIMES + ", type = 'text', many = 0, personal = 0");
    COLUMNS.put("attribute", "(@a, name, value" + TIMES + ", person_id = unhex(@a), slot = ''");
    COLUMNS.put("group_name", "(@a, name" + TIMES + ", group_id = unhex(@a)");
    COLUMNS.put("group_form", "(@a, form, filter" + TIMES + ", group_id = unhex(@a)");
    COLUMNS.put(
        "membership",
        "(@a, @b, member_kind" + TIMES + ", group_id = unhex(@a), member_id = unhex(@b)");
    COLUMNS.put(
        "application",
        "(@a, name"
            + TIMES
            + ", application_id = unhex(@a), line = '', picture = 'key', hue = 'tide',"
            + " sensitivity = 'low', contact = ''");
    COLUMNS.put("application_state", "(@a, state" + TIMES + ", application_id = unhex(@a)");
    COLUMNS.put("way_in", "(@a, address" + TIMES + ", application_id = unhex(@a), way = 'link'");
    COLUMNS.put(
        "entitlement",
        "(@a, @b, name"
            + TIMES
            + ", entitlement_id = unhex(@a), application_id = unhex(@b), line = '',"
            + " sensitivity = 'low', requestable = 1");
    COLUMNS.put(
        "given",
        "(@a, @p, @g, filter, @e, source"
            + TIMES
            + ", grant_id = unhex(@a), person_id = unhex(@p), group_id = unhex(@g),"
            + " entitlement_id = unhex(@e)");
    COLUMNS.put("grant_reason", "(@a, reason" + TIMES + ", grant_id = unhex(@a)");
  }

  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss.SSSSSS");
  private static final String NULL = "\\N";

  private final Path folder;
  private final Map<String, BufferedWriter> files = new LinkedHashMap<>();

  private Fill(Path folder) throws IOException {
    this.folder = folder;
    for (String table : COLUMNS.keySet()) {
      files.put(table, Files.newBufferedWriter(folder.resolve(table), StandardCharsets.UTF_8));
    }
  }

  /** Fills a database that is migrated and empty. */
  static void fill(Connection connection, Crowd.Size size, Instant now, Path folder)
      throws IOException, SQLException {
    Fill fill = new Fill(Files.createDirectories(folder));
    Crowd.make(size, now, fill);
    for (BufferedWriter file : fill.files.values()) {
      file.close();
    }
    try (Statement statement = connection.createStatement()) {
      statement.execute("set session foreign_key_checks = 0, unique_checks = 0");
      statement.execute(
          """
          insert ignore into ledger_entry values (1, '%s', 'setup', 'measure.fill', '{}', '%s')
          """
              .formatted(text(now.minusSeconds(730L * 86_400 + 1)), "1".repeat(64)));
      statement.execute(
          "update ledger_head set position = 1, hash = '%s', instant = '%s'"
              .formatted("1".repeat(64), text(now)));
      for (Map.Entry<String, String> table : COLUMNS.entrySet()) {
        Path file = folder.resolve(table.getKey());
        statement.execute(
            "load data local infile '%s' into table %s character set utf8mb4 %s"
                .formatted(file, table.getKey(), table.getValue()));
        Files.delete(file);
      }
      statement.execute("insert ignore into ledger_object select distinct grant_id, 1 from given");
      statement.execute("set session foreign_key_checks = 1, unique_checks = 1");
      for (String table : COLUMNS.keySet()) {
        statement.execute("analyze table " + table);
      }
    }
  }

  private static String text(Instant instant) {
    return TIME.format(LocalDateTime.ofInstant(instant, ZoneOffset.UTC));
  }

  private static String hex(@Nullable UUID id) {
    return id == null
        ? NULL
        : HexFormat.of().toHexDigits(id.getMostSignificantBits())
            + HexFormat.of().toHexDigits(id.getLeastSignificantBits());
  }

  private void row(String table, Instant from, Instant until, String... fields) {
    try {
      BufferedWriter file = requireNonNull(files.get(table));
      for (String field : fields) {
        file.write(field);
        file.write('\t');
      }
      file.write(text(from));
      file.write('\t');
      file.write(text(until));
      file.write('\n');
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void thing(UUID id, String kind) {
    try {
      requireNonNull(files.get("thing")).write(hex(id) + '\t' + kind + '\n');
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public void person(UUID id, FactValue.PersonName name, byte[] key, Instant from) {
    thing(id, "person");
    row("existence", from, Moments.FOREVER, hex(id));
    row(
        "naming",
        from,
        Moments.FOREVER,
        hex(id),
        name.given(),
        name.family(),
        name.displayed(),
        HexFormat.of().formatHex(key));
  }

  @Override
  public void status(UUID person, String status, Instant from, Instant until) {
    row("status", from, until, hex(person), status);
  }

  @Override
  public void attribute(UUID person, String name, String value, Instant from, Instant until) {
    row("attribute", from, until, hex(person), name, value);
  }

  @Override
  public void defined(String name, Instant from) {
    row("attribute_definition", from, Moments.FOREVER, name, name);
  }

  @Override
  public void group(UUID id, String name, @Nullable String filter, Instant from) {
    thing(id, "group");
    row("existence", from, Moments.FOREVER, hex(id));
    row("group_name", from, Moments.FOREVER, hex(id), name);
    row(
        "group_form",
        from,
        Moments.FOREVER,
        hex(id),
        filter == null ? "listed" : "filter",
        filter == null ? NULL : filter);
  }

  @Override
  public void member(UUID group, UUID person, Instant from, Instant until) {
    row("membership", from, until, hex(group), hex(person), "person");
  }

  @Override
  public void nested(UUID group, UUID child, Instant from, Instant until) {
    row("membership", from, until, hex(group), hex(child), "group");
  }

  @Override
  public void application(UUID id, String name, String state, Instant from) {
    thing(id, "application");
    row("existence", from, Moments.FOREVER, hex(id));
    row("application", from, Moments.FOREVER, hex(id), name);
    row("application_state", from, Moments.FOREVER, hex(id), state);
    row("way_in", from, Moments.FOREVER, hex(id), "https://app.example/" + name.replace(' ', '-'));
  }

  @Override
  public void entitlement(UUID id, UUID application, String name, Instant from) {
    thing(id, "entitlement");
    row("existence", from, Moments.FOREVER, hex(id));
    row("entitlement", from, Moments.FOREVER, hex(id), hex(application), name);
  }

  @Override
  public void grant(
      UUID id,
      @Nullable UUID person,
      @Nullable UUID group,
      @Nullable String filter,
      UUID entitlement,
      GrantSource source,
      Instant from,
      Instant until) {
    thing(id, "grant");
    row(
        "given",
        from,
        until,
        hex(id),
        hex(person),
        hex(group),
        filter == null ? NULL : filter,
        hex(entitlement),
        source.word());
    row("grant_reason", from, until, hex(id), "measured");
  }
}
