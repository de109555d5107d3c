package eleutheria.database;

import static java.util.Objects.requireNonNull;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/** A MariaDB of one's own, started by {@code bin/private-mariadb} and gone when closed. */
public final class PrivateMariaDb implements AutoCloseable {
  private final Path folder;
  private Map<String, String> environment;

  private PrivateMariaDb(Path folder) {
    this.folder = folder;
    this.environment = Map.of();
  }

  /** Starts an empty one, in memory where the machine has room for files there. */
  public static PrivateMariaDb start() {
    try {
      Path memory = Path.of("/dev/shm");
      Path folder =
          Files.isWritable(memory)
              ? Files.createTempDirectory(memory, "eleutheria-")
              : Files.createTempDirectory("eleutheria-");
      PrivateMariaDb database = new PrivateMariaDb(folder);
      Runtime.getRuntime().addShutdownHook(new Thread(database::close));
      database.again();
      return database;
    } catch (IOException e) {
      throw new IllegalStateException("no folder for a private MariaDB", e);
    }
  }

  /** Starts it again after it was killed, at the same port. */
  public void again() {
    run("start", environment.getOrDefault("DB_PORT", "0"));
    Map<String, String> read = new HashMap<>();
    try {
      for (String line : Files.readAllLines(folder.resolve("env"))) {
        int equals = line.indexOf('=');
        read.put(line.substring(0, equals), line.substring(equals + 1));
      }
    } catch (IOException e) {
      throw new IllegalStateException("private-mariadb wrote no env", e);
    }
    environment = read;
  }

  /** Ends its process at once, as a power cut would. */
  public void kill() {
    Optional<ProcessHandle> process = ProcessHandle.of(Long.parseLong(environment.get("DB_PID")));
    process.ifPresent(
        p -> {
          p.destroyForcibly();
          p.onExit().join();
        });
  }

  public String url(String database) {
    return "jdbc:mariadb://127.0.0.1:" + environment.get("DB_PORT") + "/" + database;
  }

  public String user() {
    return requireNonNull(environment.get("DB_USER"));
  }

  public String password() {
    return requireNonNull(environment.get("DB_PASSWORD"));
  }

  @Override
  public void close() {
    if (!Files.exists(folder)) {
      return;
    }
    run("stop", "");
    try {
      Files.walkFileTree(
          folder,
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes)
                throws IOException {
              Files.delete(file);
              return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult postVisitDirectory(
                Path directory, java.io.@org.jspecify.annotations.Nullable IOException e)
                throws IOException {
              Files.delete(directory);
              return FileVisitResult.CONTINUE;
            }
          });
    } catch (IOException e) {
      throw new IllegalStateException("cannot clear " + folder, e);
    }
  }

  private void run(String what, String port) {
    try {
      ProcessBuilder builder =
          new ProcessBuilder(script().toString(), what, folder.toString(), port)
              .redirectErrorStream(true);
      builder.environment().put("DB_FLUSH", "2");
      // Not a pipe: mariadbd would keep it open and the reading would never end.
      Path log = Files.createTempFile("private-mariadb", ".log");
      Process process = builder.redirectOutput(log.toFile()).start();
      boolean ended = process.waitFor(90, TimeUnit.SECONDS);
      String said = Files.readString(log);
      Files.delete(log);
      if (!ended || process.exitValue() != 0) {
        throw new IllegalStateException("private-mariadb " + what + ": " + said);
      }
    } catch (IOException e) {
      throw new IllegalStateException("private-mariadb " + what, e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted", e);
    }
  }

  private static Path script() {
    for (Path at = Path.of("").toAbsolutePath(); at != null; at = at.getParent()) {
      Path script = at.resolve("bin/private-mariadb");
      if (Files.isExecutable(script)) {
        return script;
      }
    }
    throw new IllegalStateException("bin/private-mariadb is in no folder above this one");
  }
}
