package eleutheria.server.egress;

import eleutheria.core.ledger.Problem;
import eleutheria.server.problems.Refusal;
import eleutheria.server.settings.ServerSettings;
import java.io.IOException;
import java.io.InputStream;
import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import org.apache.hc.client5.http.DnsResolver;
import org.apache.hc.client5.http.classic.methods.HttpGet;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.BasicHttpClientConnectionManager;
import org.apache.hc.client5.http.ssl.DefaultClientTlsStrategy;
import org.apache.hc.client5.http.ssl.TlsSocketStrategy;
import org.apache.hc.core5.http.Header;
import org.apache.hc.core5.http.config.RegistryBuilder;
import org.apache.hc.core5.util.Timeout;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * Fetches an address that somebody typed: only from hosts on the list, from the very address that
 * was looked up and checked, without following where it sends, and only so much for so long.
 */
@Component
public class Egress {
  static final int MOST_BYTES = 64 * 1024;
  private static final Timeout CONNECT = Timeout.ofSeconds(3);
  private static final Timeout ANSWER = Timeout.ofSeconds(5);
  private static final Duration LONGEST = Duration.ofSeconds(8);

  private final List<String> hosts;
  private final boolean inside;
  private final DnsResolver names;

  @Autowired
  Egress(ServerSettings settings) {
    this(
        settings.egressHosts(),
        settings.egressInside(),
        org.apache.hc.client5.http.SystemDefaultDnsResolver.INSTANCE);
  }

  Egress(List<String> hosts, boolean inside, DnsResolver names) {
    this.hosts = hosts.stream().map(host -> host.strip().toLowerCase(Locale.ROOT)).toList();
    this.inside = inside;
    this.names = names;
  }

  /**
   * What came back.
   *
   * @param status of HTTP (RFC 9110, section 15)
   * @param type of the content; empty if none was said
   * @param elsewhere where it sends, which was not followed; null if nowhere
   * @param millis how long it took, in milliseconds
   */
  public record Response(int status, String type, @Nullable String elsewhere, long millis) {}

  /**
   * @throws Refusal if it may not be fetched, or does not answer
   */
  public Response fetch(URI address) {
    String host = address.getHost();
    if (host == null || !allowed(host.toLowerCase(Locale.ROOT))) {
      throw refused(
          "egress.host",
          "The server may not fetch from “%s”. Allowed hosts are listed in ELEUTHERIA_EGRESS_HOSTS."
              .formatted(host));
    }
    InetAddress pinned = checked(host);
    long begun = System.nanoTime();
    try (CloseableHttpClient client = client(host, pinned)) {
      return client.execute(
          new HttpGet(address),
          response -> {
            if (response.getEntity() != null) {
              drain(response.getEntity().getContent(), begun);
            }
            Header type = response.getFirstHeader("Content-Type");
            Header elsewhere = response.getFirstHeader("Location");
            return new Response(
                response.getCode(),
                type == null ? "" : type.getValue(),
                elsewhere == null ? null : elsewhere.getValue(),
                (System.nanoTime() - begun) / 1_000_000);
          });
    } catch (IOException e) {
      throw refused("egress.silent", "“%s” does not answer in time.".formatted(host));
    }
  }

  /** Goes to one address alone, whatever its name says later, and follows nothing. */
  private static CloseableHttpClient client(String host, InetAddress pinned) {
    BasicHttpClientConnectionManager connections =
        BasicHttpClientConnectionManager.create(
            null,
            only(host, pinned),
            RegistryBuilder.<TlsSocketStrategy>create()
                .register("https", DefaultClientTlsStrategy.createSystemDefault())
                .build(),
            null);
    connections.setConnectionConfig(
        ConnectionConfig.custom().setConnectTimeout(CONNECT).setSocketTimeout(ANSWER).build());
    return HttpClients.custom()
        .setConnectionManager(connections)
        .setDefaultRequestConfig(RequestConfig.custom().setResponseTimeout(ANSWER).build())
        .disableRedirectHandling()
        .disableCookieManagement()
        .disableAutomaticRetries()
        .disableAuthCaching()
        .disableContentCompression()
        .build();
  }

  /** Knows one name, by the address that was judged. */
  private static DnsResolver only(String host, InetAddress pinned) {
    return new DnsResolver() {
      @Override
      public InetAddress[] resolve(String name) throws UnknownHostException {
        if (!name.equalsIgnoreCase(host)) {
          throw new UnknownHostException(name);
        }
        return new InetAddress[] {pinned};
      }

      @Override
      public String resolveCanonicalHostname(String name) {
        return name;
      }
    };
  }

  /** Reads what comes until there is enough of it, or time is over. */
  private static void drain(InputStream in, long begun) throws IOException {
    byte[] piece = new byte[4096];
    int read = 0;
    while (read < MOST_BYTES && System.nanoTime() - begun < LONGEST.toNanos()) {
      int more = in.read(piece);
      if (more < 0) {
        return;
      }
      read += more;
    }
  }

  private boolean allowed(String host) {
    return hosts.stream()
        .filter(one -> !one.isEmpty())
        .anyMatch(one -> one.startsWith(".") ? host.endsWith(one) : host.equals(one));
  }

  private InetAddress checked(String host) {
    InetAddress[] found;
    try {
      found = names.resolve(host);
    } catch (UnknownHostException e) {
      throw refused("egress.unknown", "There is no host “%s”.".formatted(host));
    }
    for (InetAddress one : found) {
      // One that is not wanted among several is enough to refuse them all.
      if (never(one) || (!inside && isInside(one))) {
        throw refused(
            "egress.inside",
            "“%s” has an internal address, which the server may not fetch from.".formatted(host));
      }
    }
    return found[0];
  }

  /** Where clouds keep what their machines may know of themselves, and what is no single host. */
  private static boolean never(InetAddress one) {
    return one.isLinkLocalAddress() || one.isMulticastAddress() || one.isAnyLocalAddress();
  }

  private static boolean isInside(InetAddress one) {
    byte[] bytes = one.getAddress();
    boolean uniqueLocal = one instanceof Inet6Address && (bytes[0] & 0xfe) == 0xfc;
    boolean shared = bytes.length == 4 && (bytes[0] & 0xff) == 100 && (bytes[1] & 0xc0) == 64;
    return one.isLoopbackAddress() || one.isSiteLocalAddress() || uniqueLocal || shared;
  }

  private static Refusal refused(String code, String sentence) {
    return Refusal.of(Problem.invalid(code, "address", sentence));
  }
}
