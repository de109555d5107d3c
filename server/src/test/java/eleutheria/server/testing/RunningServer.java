package eleutheria.server.testing;

import eleutheria.database.PrivateMariaDb;
import eleutheria.server.Eleutheria;
import eleutheria.server.state.World;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.jooq.ExecuteListener;
import org.jooq.ExecuteListenerProvider;
import org.springframework.beans.factory.config.ConfigurableListableBeanFactory;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * The real application on a private MariaDB, started once for all test classes that only add to it.
 */
public final class RunningServer {
  private static final AtomicInteger DATABASES = new AtomicInteger();
  private static PrivateMariaDb mariaDb;
  private static RunningServer shared;
  private static RunningServer shop;

  private final ConfigurableApplicationContext context;
  private final Seed seed;
  private final String database;

  private RunningServer(ConfigurableApplicationContext context, Seed seed, String database) {
    this.context = context;
    this.seed = seed;
    this.database = database;
  }

  public static synchronized PrivateMariaDb mariaDb() {
    if (mariaDb == null) {
      mariaDb = PrivateMariaDb.start();
    }
    return mariaDb;
  }

  /** The one that all share, with the small organisation. */
  public static synchronized RunningServer shared() {
    if (shared == null) {
      String database = newDatabase();
      Seed seed = Seed.into(mariaDb().url(database), mariaDb().user(), mariaDb().password());
      shared = new RunningServer(start(database), seed, database);
    }
    return shared;
  }

  /** One for all tests that need applications; a decision can be taken back for a second. */
  public static synchronized RunningServer shop() {
    if (shop == null) {
      String database = newDatabase();
      Seed seed = Seed.shop(mariaDb().url(database), mariaDb().user(), mariaDb().password());
      shop = new RunningServer(start(database, "--eleutheria.take-back=3s"), seed, database);
    }
    return shop;
  }

  /** An empty database of a class's own. */
  public static String newDatabase() {
    String name = "eleutheria_test_" + DATABASES.incrementAndGet();
    try (Connection connection =
            DriverManager.getConnection(
                mariaDb().url("eleutheria"), mariaDb().user(), mariaDb().password());
        Statement statement = connection.createStatement()) {
      statement.execute("create database " + name + " character set utf8mb4");
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
    return name;
  }

  public static ConfigurableApplicationContext start(String database, String... more) {
    List<String> arguments = new ArrayList<>(arguments(database));
    arguments.addAll(List.of(more));
    return new SpringApplicationBuilder(Eleutheria.class)
        .logStartupInfo(false)
        .initializers(RunningServer::guard)
        .run(arguments.toArray(String[]::new));
  }

  /** A query fails while its thread looks at the state: acts would wait for the database then. */
  private static void guard(ConfigurableApplicationContext context) {
    ConfigurableListableBeanFactory beans = context.getBeanFactory();
    ExecuteListener listener =
        ExecuteListener.onExecuteStart(
            query -> {
              if (beans.containsSingleton("world") && beans.getBean(World.class).looking()) {
                throw new IllegalStateException("asked while looking: " + query.sql());
              }
            });
    beans.registerSingleton("guard", (ExecuteListenerProvider) () -> listener);
  }

  /** What a server needs to know, as program arguments. */
  public static List<String> arguments(String database) {
    return List.of(
        "--server.port=0",
        "--server.address=127.0.0.1",
        "--spring.main.banner-mode=off",
        "--logging.level.root=warn",
        "--spring.datasource.url=" + mariaDb().url(database),
        "--spring.datasource.username=" + mariaDb().user(),
        "--spring.datasource.password=" + mariaDb().password(),
        "--eleutheria.secret=a secret for tests that is long enough",
        "--eleutheria.zone=Europe/Oslo",
        // Whatever the hour at which the tests run.
        "--eleutheria.check-at=-",
        "--eleutheria.heads-at=-",
        "--eleutheria.organisation=Tern Sound Ferries",
        "--springdoc.api-docs.enabled=true",
        "--spring.mail.port="
            + (System.getProperty("test.mail.port") == null
                ? "1"
                : System.getProperty("test.mail.port")));
  }

  public Seed seed() {
    return seed;
  }

  public String database() {
    return database;
  }

  public ConfigurableApplicationContext context() {
    return context;
  }

  public int port() {
    return Integer.parseInt(context.getEnvironment().getProperty("local.server.port", "0"));
  }

  public Visitor nobody() {
    return new Visitor("http://127.0.0.1:" + port());
  }

  public Visitor signedIn(String userName) {
    Visitor visitor = nobody();
    visitor.signIn(userName, Seed.PASSWORD).expect(200);
    return visitor;
  }
}
