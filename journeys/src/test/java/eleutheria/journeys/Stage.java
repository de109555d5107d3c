package eleutheria.journeys;

import com.sun.management.HotSpotDiagnosticMXBean;
import eleutheria.database.PrivateMariaDb;
import eleutheria.demo.LoadDemo;
import eleutheria.server.Eleutheria;
import eleutheria.server.writing.Acts;
import eleutheria.standins.mailroom.Mailroom;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.management.ManagementFactory;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** The whole demo, started once for all journeys: database, two years of past, mailroom, server. */
final class Stage {
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private static Stage stage;

  final String base;
  final Mailroom mailroom;
  final Path files;

  private final ConfigurableApplicationContext server;

  private Stage(String base, Mailroom mailroom, Path files, ConfigurableApplicationContext server) {
    this.server = server;
    this.base = base;
    this.mailroom = mailroom;
    this.files = files;
  }

  static synchronized Stage get() {
    if (stage == null) {
      stage = set();
    }
    return stage;
  }

  /** Today where the demo's people are: near midnight another day than the machine's. */
  static LocalDate today() {
    return LocalDate.now(ZONE);
  }

  /** The newest mail to an address whose subject has a text, once it has come. */
  Mailroom.Mail mail(String address, String subject) {
    Instant end = Instant.now().plusSeconds(40);
    while (Instant.now().isBefore(end)) {
      for (Mailroom.Mail mail : mailroom.to(address).reversed()) {
        if (mail.subject().contains(subject)) {
          return mail;
        }
      }
      LockSupport.parkNanos(Duration.ofMillis(100).toNanos());
    }
    throw new AssertionError("no mail to " + address + " about " + subject);
  }

  /** Brings on the moment of something that is due later. */
  void comes(String kind, String subject) {
    int moved =
        server
            .getBean(DSLContext.class)
            .execute(
                "update due set due_at = utc_timestamp(6) where kind = ? and subject = ?",
                kind,
                subject);
    if (moved != 1) {
      throw new AssertionError("nothing of this kind is due: " + kind);
    }
  }

  /** A great many tiles on everybody's page, until they are closed. */
  ManyTiles manyTiles(int count, String... named) {
    return new ManyTiles(server.getBean(Acts.class), count, List.of(named));
  }

  private static final Duration LONG = Duration.ofSeconds(10);

  /**
   * Where an act stands that keeps all others waiting, and who else is in the server; or nothing.
   */
  String stuck() {
    Acts.Holding holding = server.getBean(Acts.class).holding();
    if (holding == null || holding.since().isAfter(Instant.now().minus(LONG))) {
      return "";
    }
    try {
      Path file = Files.createTempFile("threads", ".txt");
      Files.delete(file);
      ManagementFactory.getPlatformMXBean(HotSpotDiagnosticMXBean.class)
          .dumpThreads(file.toString(), HotSpotDiagnosticMXBean.ThreadDumpFormat.TEXT_PLAIN);
      return "\nan act has kept the others waiting since %s; all threads are in %s, these in ours:\n"
              .formatted(holding.since(), file)
          + Arrays.stream(Files.readString(file).split("\n\n"))
              .filter(thread -> thread.contains("eleutheria.server"))
              .map(Stage::own)
              .distinct()
              .collect(Collectors.joining("\n"));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Of a thread's frames those of our code, each short. */
  private static String own(String thread) {
    return thread
        .lines()
        .filter(line -> line.contains("eleutheria."))
        .map(line -> line.strip().replaceAll("^.*eleutheria\\.", ""))
        .limit(8)
        .collect(Collectors.joining(" < "));
  }

  private static Stage set() {
    try {
      PrivateMariaDb mariaDb = PrivateMariaDb.start();
      Path files = Files.createTempDirectory("this-week");
      String url = mariaDb.url("eleutheria");
      LoadDemo.load(
          url,
          mariaDb.user(),
          mariaDb.password(),
          ZONE,
          Instant.now(),
          files,
          1214,
          LoadDemo.WEEKS);
      Mailroom mailroom = new Mailroom(0, 0);
      int port;
      try (ServerSocket socket = new ServerSocket(0)) {
        port = socket.getLocalPort();
      }
      String base = "http://127.0.0.1:" + port;
      ConfigurableApplicationContext server =
          new SpringApplicationBuilder(Eleutheria.class)
              .profiles("demo")
              .logStartupInfo(false)
              .run(
                  "--server.port=" + port,
                  "--server.address=127.0.0.1",
                  "--spring.main.banner-mode=off",
                  "--logging.level.root=warn",
                  "--spring.datasource.url=" + url,
                  "--spring.datasource.username=" + mariaDb.user(),
                  "--spring.datasource.password=" + mariaDb.password(),
                  "--spring.mail.port=" + mailroom.smtpPort(),
                  "--eleutheria.base-address=" + base,
                  "--eleutheria.mailroom=http://127.0.0.1:" + mailroom.pagePort(),
                  "--eleutheria.secret=a secret for journeys that is long enough",
                  "--eleutheria.zone=Europe/Oslo",
                  "--eleutheria.locale=en-GB",
                  "--eleutheria.organisation=Tern Sound Ferries");
      return new Stage(base, mailroom, files, server);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    } catch (Exception e) {
      throw new IllegalStateException("the stage could not be set", e);
    }
  }
}
