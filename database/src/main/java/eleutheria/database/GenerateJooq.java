package eleutheria.database;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Stream;
import org.flywaydb.core.Flyway;
import org.jooq.codegen.GenerationTool;
import org.jooq.meta.jaxb.Configuration;
import org.jooq.meta.jaxb.Database;
import org.jooq.meta.jaxb.ForcedType;
import org.jooq.meta.jaxb.Generate;
import org.jooq.meta.jaxb.Generator;
import org.jooq.meta.jaxb.Jdbc;
import org.jooq.meta.jaxb.Target;

/**
 * Makes the jOOQ classes from the migrations, as a private MariaDB understands them. Skipped while
 * the migrations are the same.
 */
public final class GenerateJooq {
  private static final String DATABASE = "eleutheria";

  private GenerateJooq() {}

  /**
   * @param args the folder of migrations, the folder for the classes
   */
  public static void main(String[] args) throws Exception {
    Path migrations = Path.of(args[0]);
    Path target = Path.of(args[1]);
    Path mark = target.resolve("migrations.sha256");
    String hash = hash(migrations);
    if (Files.exists(mark) && Files.readString(mark).equals(hash)) {
      return;
    }
    try (PrivateMariaDb mariaDb = PrivateMariaDb.start()) {
      Flyway.configure()
          .dataSource(mariaDb.url(DATABASE), mariaDb.user(), mariaDb.password())
          .locations("filesystem:" + migrations)
          .load()
          .migrate();
      GenerationTool.generate(configuration(mariaDb, target));
    }
    Files.writeString(mark, hash);
  }

  private static Configuration configuration(PrivateMariaDb mariaDb, Path target) {
    return new Configuration()
        .withJdbc(
            new Jdbc()
                .withDriver("org.mariadb.jdbc.Driver")
                .withUrl(mariaDb.url(DATABASE))
                .withUser(mariaDb.user())
                .withPassword(mariaDb.password()))
        .withGenerator(
            new Generator()
                .withDatabase(
                    new Database()
                        .withName("org.jooq.meta.mariadb.MariaDBDatabase")
                        .withInputSchema(DATABASE)
                        .withOutputSchemaToDefault(true)
                        .withExcludes("flyway_schema_history|SPRING_SESSION_ATTRIBUTES")
                        .withForcedTypes(
                            new ForcedType()
                                .withUserType("java.util.UUID")
                                .withConverter("eleutheria.server.converters.UuidConverter")
                                .withIncludeTypes("(?i:binary)\\(16\\)"),
                            new ForcedType()
                                .withUserType("java.time.Instant")
                                .withConverter("eleutheria.server.converters.InstantConverter")
                                .withIncludeTypes("(?i:datetime).*"),
                            new ForcedType()
                                .withName("BOOLEAN")
                                .withIncludeTypes("(?i:tinyint\\(1\\))")))
                .withGenerate(new Generate().withRecords(true).withPojos(false).withDaos(false))
                .withTarget(
                    new Target()
                        .withPackageName("eleutheria.server.tables")
                        .withDirectory(target.toString())));
  }

  private static String hash(Path migrations) throws Exception {
    MessageDigest digest = MessageDigest.getInstance("SHA-256");
    List<Path> files;
    try (Stream<Path> list = Files.list(migrations)) {
      files = list.sorted().toList();
    } catch (IOException e) {
      throw new IllegalStateException("no migrations in " + migrations, e);
    }
    for (Path file : files) {
      digest.update(file.getFileName().toString().getBytes(StandardCharsets.UTF_8));
      digest.update(Files.readAllBytes(file));
    }
    // A change of the generator makes the classes anew as well.
    digest.update("4".getBytes(StandardCharsets.UTF_8));
    return HexFormat.of().formatHex(digest.digest());
  }
}
