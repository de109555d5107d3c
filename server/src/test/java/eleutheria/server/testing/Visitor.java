package eleutheria.server.testing;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublisher;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Someone with a browser's cookies, speaking HTTP. */
public final class Visitor {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final String base;
  private final CookieManager cookies = new CookieManager();
  private final HttpClient http =
      HttpClient.newBuilder().cookieHandler(cookies).connectTimeout(Duration.ofSeconds(5)).build();

  private String @Nullable [] header;
  private @Nullable String draft;

  public Visitor(String base) {
    this.base = base;
  }

  /** From then on what is done is gathered in a draft; null for at once. */
  public Visitor gatherInto(@Nullable String draft) {
    this.draft = draft;
    return this;
  }

  /** An answer with its body. */
  public record Answer(int status, String body, HttpResponse<String> response) {
    public Answer expect(int wanted) {
      assertThat(status).as(body).isEqualTo(wanted);
      return this;
    }

    public JsonNode json() {
      return JSON.readTree(body);
    }

    /** The codes of the problems, the type's code first. */
    public List<String> problems() {
      List<String> codes = new ArrayList<>();
      codes.add(json().path("type").asString("").replace("urn:eleutheria:problem:", ""));
      json().path("problems").forEach(p -> codes.add(p.path("code").asString()));
      return codes;
    }
  }

  public Answer get(String path) {
    return send("GET", path, null, null);
  }

  /** An answer as it comes over the line, with one more header asked for. */
  public HttpResponse<byte[]> bytes(String path, String header, String value) {
    try {
      return http.send(
          HttpRequest.newBuilder(URI.create(base + path)).header(header, value).build(),
          HttpResponse.BodyHandlers.ofByteArray());
    } catch (IOException | InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  public Answer post(String path, @Nullable Object body) {
    return send("POST", path, body, null);
  }

  public Answer put(String path, Object body) {
    return send("PUT", path, body, null);
  }

  public Answer delete(String path) {
    return send("DELETE", path, null, null);
  }

  public Answer signIn(String name, String password) {
    return post("/api/sign-in", Map.of("name", name, "password", password));
  }

  public Answer send(
      String method, String path, @Nullable Object body, @Nullable String repeatKey) {
    String @Nullable [] more = header;
    Answer answer = once(method, path, body, repeatKey);
    if (answer.status() == 403 && answer.body().contains("problem:csrf")) {
      // The session is another by now; the refusal has brought its token, as for the web.
      header = more;
      return once(method, path, body, repeatKey);
    }
    return answer;
  }

  private Answer once(
      String method, String path, @Nullable Object body, @Nullable String repeatKey) {
    BodyPublisher publisher =
        body == null
            ? BodyPublishers.noBody()
            : BodyPublishers.ofString(body instanceof String s ? s : JSON.writeValueAsString(body));
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(base + path)).method(method, publisher);
    if (body != null) {
      request.header("Content-Type", "application/json");
    }
    if (draft != null) {
      request.header("Draft", draft);
    }
    if (header != null) {
      request.header(header[0], header[1]);
      header = null;
    }
    if (repeatKey != null) {
      request.header("Idempotency-Key", repeatKey);
    }
    return exchange(request, !method.equals("GET"));
  }

  /** The token of this visitor's session. */
  public String csrf() {
    get("/api/session");
    return token();
  }

  /** A request with just these headers, as some other page would send it. */
  public Answer with(Map<String, String> headers, String method, String path, Object body) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(base + path))
            .method(method, BodyPublishers.ofString(JSON.writeValueAsString(body)))
            .header("Content-Type", "application/json");
    headers.forEach(request::header);
    return exchange(request, false);
  }

  /** What an act would do, without doing it. */
  public Answer foresee(String method, String path, Object body) {
    header = new String[] {"Foresee", "true"};
    return send(method, path, body, null);
  }

  /** An act as it was foreseen, agreed to by its digest. */
  public Answer agree(String method, String path, Object body, String digest) {
    header = new String[] {"Foreseen", digest};
    return send(method, path, body, null);
  }

  /** Sends a file as it is. */
  public Answer upload(String path, byte[] file) {
    return exchange(
        HttpRequest.newBuilder(URI.create(base + path))
            .method("POST", BodyPublishers.ofByteArray(file))
            .header("Content-Type", "application/octet-stream"),
        true);
  }

  /** Asks with a header more. */
  public Answer get(String path, String name, String value) {
    header = new String[] {name, value};
    return send("GET", path, null, null);
  }

  /** Sends a file as a browser's form does (RFC 7578). */
  public Answer drop(Map<String, String> fields, byte[] file) {
    String boundary = "b" + UUID.randomUUID();
    List<byte[]> parts = new ArrayList<>();
    fields.forEach(
        (name, value) ->
            parts.add(
                ("--"
                        + boundary
                        + "\r\nContent-Disposition: form-data; name=\""
                        + name
                        + "\"\r\n\r\n"
                        + value
                        + "\r\n")
                    .getBytes(StandardCharsets.UTF_8)));
    parts.add(
        ("--"
                + boundary
                + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"../x.csv\"\r\nContent-Type: text/csv\r\n\r\n")
            .getBytes(StandardCharsets.UTF_8));
    parts.add(file);
    parts.add(("\r\n--" + boundary + "--\r\n").getBytes(StandardCharsets.UTF_8));
    return exchange(
        HttpRequest.newBuilder(URI.create(base + "/api/deliveries"))
            .header("Content-Type", "multipart/form-data; boundary=" + boundary)
            .POST(BodyPublishers.ofByteArrays(parts)),
        true);
  }

  private Answer exchange(HttpRequest.Builder request, boolean csrf) {
    if (csrf) {
      request.header("X-XSRF-TOKEN", token());
    }
    try {
      HttpResponse<String> response =
          http.send(
              request.timeout(Duration.ofSeconds(60)).build(),
              HttpResponse.BodyHandlers.ofString());
      return new Answer(response.statusCode(), response.body(), response);
    } catch (IOException e) {
      return new Answer(0, String.valueOf(e.getMessage()), null);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  private String token() {
    for (int i = 0; i < 2; i++) {
      for (HttpCookie cookie : cookies.getCookieStore().getCookies()) {
        if (cookie.getName().equals("XSRF-TOKEN")) {
          return cookie.getValue();
        }
      }
      get("/api/session");
    }
    return "";
  }

  /** Hears server-sent events; each line as it comes. */
  public BlockingQueue<String> listen(String path) {
    BlockingQueue<String> heard = new LinkedBlockingQueue<>();
    http.sendAsync(
            HttpRequest.newBuilder(URI.create(base + path)).GET().build(),
            HttpResponse.BodyHandlers.ofLines())
        .thenAccept(response -> response.body().forEach(heard::add));
    return heard;
  }

  /** Asks again until it is so. */
  public static void until(String what, BooleanSupplier so) {
    Instant end = Instant.now().plus(Duration.ofSeconds(20));
    while (!so.getAsBoolean()) {
      assertThat(Instant.now()).as(what).isBefore(end);
      LockSupport.parkNanos(Duration.ofMillis(25).toNanos());
    }
  }

  /** A request without the token, as another site's page would send it. */
  public Answer forged(String path) {
    return exchange(
        HttpRequest.newBuilder(URI.create(base + path)).POST(BodyPublishers.noBody()), false);
  }
}
