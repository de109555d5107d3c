package eleutheria.server.testing;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import tools.jackson.databind.JsonNode;

/** A server in a process of its own, which can be killed. */
public final class ServerProcess {
  private final String database;
  private final List<String> more;
  private Process process;
  private String base = "";

  public ServerProcess(String database, String... more) {
    this.database = database;
    this.more = List.of(more);
    start();
  }

  public void start() {
    try {
      int port;
      try (ServerSocket socket = new ServerSocket(0)) {
        port = socket.getLocalPort();
      }
      List<String> command = new ArrayList<>();
      command.add(ProcessHandle.current().info().command().orElse("java"));
      command.addAll(
          List.of(
              "-XX:TieredStopAtLevel=1",
              "-cp",
              System.getProperty("java.class.path"),
              "eleutheria.server.Eleutheria"));
      RunningServer.arguments(database).stream()
          .filter(argument -> !argument.startsWith("--server.port"))
          .forEach(command::add);
      command.addAll(more);
      command.add("--server.port=" + port);
      process =
          new ProcessBuilder(command)
              .redirectErrorStream(true)
              .redirectOutput(
                  ProcessBuilder.Redirect.appendTo(new java.io.File("target/server-process.log")))
              .start();
      base = "http://127.0.0.1:" + port;
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    awaitReady();
  }

  public void awaitReady() {
    Visitor visitor = nobody();
    long end = System.nanoTime() + Duration.ofSeconds(90).toNanos();
    while (visitor.get("/actuator/health/readiness").status() != 200) {
      assertThat(System.nanoTime()).as("ready in time").isLessThan(end);
      assertThat(process.isAlive()).isTrue();
      pause(50);
    }
  }

  /** Pulls the plug. */
  public void kill() throws InterruptedException {
    process.destroyForcibly().waitFor();
  }

  public void stop() {
    process.destroyForcibly();
  }

  /** Lets a random moment come at which to strike. */
  public static void pause(long millis) {
    LockSupport.parkNanos(Duration.ofMillis(millis).toNanos());
  }

  public Visitor nobody() {
    return new Visitor(base);
  }

  public Visitor signedIn(String userName) {
    Visitor visitor = nobody();
    visitor.signIn(userName, Seed.PASSWORD).expect(200);
    return visitor;
  }

  public interface Look {
    void at(DSLContext db);
  }

  /** Looks at the tables themselves. */
  public void tables(Look look) throws SQLException {
    try (Connection connection =
        DriverManager.getConnection(
            RunningServer.mariaDb().url(database),
            RunningServer.mariaDb().user(),
            RunningServer.mariaDb().password())) {
      look.at(DSL.using(connection, SQLDialect.MARIADB));
    }
  }

  public void chainIsWhole() {
    JsonNode checked = signedIn("ines").post("/api/ledger/check", null).expect(200).json();
    assertThat(checked.path("broken").isNull()).as(checked.toString()).isTrue();
  }
}
