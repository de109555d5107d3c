package eleutheria.server.egress;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import eleutheria.server.problems.Refusal;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.hc.client5.http.DnsResolver;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The one way out, against a server on loopback. */
class EgressTest {
  private final AtomicInteger asked = new AtomicInteger();
  private final AtomicInteger looked = new AtomicInteger();
  private HttpServer server;

  @BeforeEach
  void serve() throws IOException {
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext(
        "/",
        exchange -> {
          asked.incrementAndGet();
          exchange.getResponseHeaders().add("Content-Type", "text/html");
          if (exchange.getRequestURI().getPath().equals("/away")) {
            exchange.getResponseHeaders().add("Location", "http://169.254.169.254/secret");
            exchange.sendResponseHeaders(302, -1);
          } else {
            exchange.sendResponseHeaders(200, 0);
            try (OutputStream out = exchange.getResponseBody()) {
              for (int i = 0; i < 4096; i++) {
                out.write(new byte[1024]);
              }
            } catch (IOException e) {
              // Whoever asked has read enough.
              exchange.close();
            }
          }
          exchange.close();
        });
    server.start();
  }

  @AfterEach
  void stop() {
    server.stop(0);
  }

  private DnsResolver names(String... addresses) {
    return new DnsResolver() {
      @Override
      public InetAddress[] resolve(String host) throws UnknownHostException {
        // A name that says something else when it is looked up once more gains nothing by that.
        looked.incrementAndGet();
        InetAddress[] found = new InetAddress[addresses.length];
        for (int i = 0; i < addresses.length; i++) {
          found[i] =
              InetAddress.getByAddress(host, InetAddress.getByName(addresses[i]).getAddress());
        }
        return found;
      }

      @Override
      public String resolveCanonicalHostname(String host) {
        return host;
      }
    };
  }

  private URI at(String host, String path) {
    return URI.create("http://" + host + ":" + server.getAddress().getPort() + path);
  }

  @Test
  void whatIsOnTheListIsFetchedOnceAndNotFollowed() {
    Egress egress = new Egress(List.of(".ternsound.example"), true, names("127.0.0.1"));
    Egress.Response answer = egress.fetch(at("plan.ternsound.example", "/"));
    assertThat(answer.status()).isEqualTo(200);
    assertThat(answer.type()).isEqualTo("text/html");
    Egress.Response away = egress.fetch(at("plan.ternsound.example", "/away"));
    assertThat(away.status()).isEqualTo(302);
    assertThat(away.elsewhere()).isEqualTo("http://169.254.169.254/secret");
    assertThat(asked).hasValue(2);
    assertThat(looked).as("looked up once for each, and pinned").hasValue(2);
  }

  @Test
  void nothingElseIs() {
    Egress shut = new Egress(List.of(), true, names("127.0.0.1"));
    Egress listed = new Egress(List.of("ternsound.example"), true, names("127.0.0.1"));
    Egress outside = new Egress(List.of("ternsound.example"), false, names("127.0.0.1"));
    Egress mixed =
        new Egress(List.of("ternsound.example"), false, names("93.184.216.34", "10.1.2.3"));
    Egress cloud = new Egress(List.of("ternsound.example"), true, names("169.254.169.254"));
    Egress local = new Egress(List.of("ternsound.example"), false, names("fd00::1"));
    assertThatThrownBy(() -> shut.fetch(at("ternsound.example", "/"))).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> listed.fetch(at("evil.ternsound.example", "/")))
        .isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> listed.fetch(at("notternsound.example", "/")))
        .isInstanceOf(Refusal.class);
    for (Egress egress : List.of(outside, mixed, cloud, local)) {
      assertThatThrownBy(() -> egress.fetch(at("ternsound.example", "/")))
          .isInstanceOf(Refusal.class);
    }
    assertThat(asked).hasValue(0);
  }
}
