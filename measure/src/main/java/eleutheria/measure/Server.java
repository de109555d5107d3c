package eleutheria.measure;

import static java.util.Objects.requireNonNull;

import java.io.File;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The real server in a process of its own, with 1,500 MB of heap, and those who are signed in. */
final class Server {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final String database;
  private @Nullable Path firstStewardLink;
  private int port;
  private @Nullable Process process;

  Server(String database) {
    this.database = database;
  }

  /** Where an empty database's server writes the link for its first steward. */
  Server withLink(Path file) {
    firstStewardLink = file;
    return this;
  }

  Path link() {
    return requireNonNull(firstStewardLink);
  }

  int port() {
    return port;
  }

  long pid() {
    return requireNonNull(process).pid();
  }

  /** Starts it; gives the seconds until it was ready. */
  double start() throws Exception {
    try (ServerSocket free = new ServerSocket(0)) {
      port = free.getLocalPort();
    }
    ProcessBuilder builder =
        new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-Xmx1500m",
            "-Dorg.jooq.no-logo=true",
            "-Dorg.jooq.no-tips=true",
            "-cp",
            System.getProperty("java.class.path"),
            "eleutheria.server.Eleutheria");
    Map<String, String> environment = builder.environment();
    environment.put(
        "ELEUTHERIA_DATABASE_URL",
        "jdbc:mariadb://127.0.0.1:" + System.getenv("BENCH_PORT") + "/" + database);
    environment.put("ELEUTHERIA_DATABASE_USER", System.getenv("BENCH_USER"));
    environment.put("ELEUTHERIA_DATABASE_PASSWORD", System.getenv("BENCH_PASSWORD"));
    environment.put("ELEUTHERIA_SECRET", "measured-and-nothing-else-0123456789");
    environment.put("ELEUTHERIA_PORT", String.valueOf(port));
    environment.put("SERVER_ADDRESS", "127.0.0.1");
    environment.put("ELEUTHERIA_BASE_ADDRESS", "http://127.0.0.1:" + port);
    environment.put("ELEUTHERIA_ZONE", "Europe/Oslo");
    if (firstStewardLink != null) {
      environment.put("ELEUTHERIA_FIRST_STEWARD_LINK", firstStewardLink.toString());
    }
    builder.redirectErrorStream(true).redirectOutput(new File(".run/bench-server.log"));
    long begun = System.nanoTime();
    Process started = builder.start();
    process = started;
    HttpClient http = HttpClient.newHttpClient();
    while (true) {
      if (!started.isAlive()) {
        throw new IllegalStateException("the server stops; see .run/bench-server.log");
      }
      try {
        HttpResponse<String> health =
            http.send(
                HttpRequest.newBuilder(
                        URI.create("http://127.0.0.1:" + port + "/actuator/health/readiness"))
                    .build(),
                HttpResponse.BodyHandlers.ofString());
        if (health.statusCode() == 200) {
          return (System.nanoTime() - begun) / 1e9;
        }
      } catch (IOException notYet) {
        // It is not listening yet; the loop ends with the process.
      }
      Thread.sleep(100);
    }
  }

  void stop() throws InterruptedException {
    Process started = requireNonNull(process);
    started.destroy();
    if (!started.waitFor(40, TimeUnit.SECONDS)) {
      started.destroyForcibly();
    }
  }

  Signed signedIn(String name, String password) throws Exception {
    Signed signed = new Signed();
    signed.get("/api/session");
    signed.post("/api/sign-in", Map.of("name", name, "password", password));
    signed.get("/api/session");
    return signed;
  }

  /** Somebody at a browser. */
  final class Signed {
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http = HttpClient.newBuilder().cookieHandler(cookies).build();

    String header() {
      return cookies.getCookieStore().getCookies().stream()
          .map(c -> c.getName() + "=" + c.getValue())
          .collect(Collectors.joining("; "));
    }

    String token() {
      return cookies.getCookieStore().getCookies().stream()
          .filter(c -> c.getName().equals("XSRF-TOKEN"))
          .map(HttpCookie::getValue)
          .findFirst()
          .orElse("");
    }

    private @Nullable String draft;

    /** The draft that gathers what is done from now on; null for none. */
    void gatherInto(@Nullable String id) {
      draft = id;
    }

    /** How many nanoseconds an answer takes, read to its end and no further. */
    double timed(String path) throws Exception {
      HttpRequest request = HttpRequest.newBuilder(uri(path)).GET().build();
      long begun = System.nanoTime();
      HttpResponse<byte[]> answer = http.send(request, HttpResponse.BodyHandlers.ofByteArray());
      double took = System.nanoTime() - begun;
      if (answer.statusCode() != 200) {
        throw new IllegalStateException(path + " answers " + answer.statusCode());
      }
      return took;
    }

    /** How many lines a streamed answer has; nothing of it is kept. */
    long lines(String path, Object body) throws Exception {
      HttpRequest request =
          HttpRequest.newBuilder(uri(path))
              .header("Content-Type", "application/json")
              .header("X-XSRF-TOKEN", token())
              .POST(BodyPublishers.ofString(JSON.writeValueAsString(body)))
              .build();
      HttpResponse<java.io.InputStream> answer =
          http.send(request, HttpResponse.BodyHandlers.ofInputStream());
      if (answer.statusCode() != 200) {
        throw new IllegalStateException(path + " answers " + answer.statusCode());
      }
      long lines = 0;
      byte[] buffer = new byte[1 << 16];
      try (java.io.InputStream in = answer.body()) {
        for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
          for (int i = 0; i < n; i++) {
            if (buffer[i] == '\n') {
              lines++;
            }
          }
        }
      }
      return lines;
    }

    JsonNode get(String path) throws Exception {
      return send(HttpRequest.newBuilder(uri(path)).GET());
    }

    JsonNode post(String path, Object body) throws Exception {
      return body("POST", path, body);
    }

    JsonNode put(String path, Object body) throws Exception {
      return body("PUT", path, body);
    }

    JsonNode delete(String path) throws Exception {
      return send(HttpRequest.newBuilder(uri(path)).header("X-XSRF-TOKEN", token()).DELETE());
    }

    private JsonNode body(String method, String path, Object body) throws Exception {
      HttpRequest.Builder request =
          HttpRequest.newBuilder(uri(path))
              .header("Content-Type", "application/json")
              .header("X-XSRF-TOKEN", token())
              .method(method, BodyPublishers.ofString(JSON.writeValueAsString(body)));
      if (draft != null) {
        request.header("Draft", draft);
      }
      return send(request);
    }

    /** Drops a file, as the form with this field beside it does. */
    JsonNode drop(String path, String field, String value, byte[] file) throws Exception {
      String edge = "edge-of-a-part";
      String head =
          """
          --%1$s\r
          Content-Disposition: form-data; name="%2$s"\r
          \r
          %3$s\r
          --%1$s\r
          Content-Disposition: form-data; name="file"; filename="people.csv"\r
          Content-Type: text/csv\r
          \r
          """
              .formatted(edge, field, value);
      return send(
          HttpRequest.newBuilder(uri(path))
              .header("Content-Type", "multipart/form-data; boundary=" + edge)
              .header("X-XSRF-TOKEN", token())
              .POST(
                  BodyPublishers.concat(
                      BodyPublishers.ofString(head),
                      BodyPublishers.ofByteArray(file),
                      BodyPublishers.ofString("\r\n--" + edge + "--\r\n"))));
    }

    private URI uri(String path) {
      return URI.create("http://127.0.0.1:" + port + path);
    }

    private JsonNode send(HttpRequest.Builder request) throws Exception {
      HttpResponse<String> answer =
          http.send(
              request.timeout(Duration.ofSeconds(600)).build(),
              HttpResponse.BodyHandlers.ofString());
      if (answer.statusCode() >= 300) {
        throw new IllegalStateException(
            answer.uri() + " answers " + answer.statusCode() + ": " + answer.body());
      }
      return answer.body().isEmpty() ? JSON.nullNode() : JSON.readTree(answer.body());
    }
  }

  /** Somebody who is not signed in yet. */
  Signed nobody() throws Exception {
    Signed signed = new Signed();
    signed.get("/api/session");
    return signed;
  }
}
