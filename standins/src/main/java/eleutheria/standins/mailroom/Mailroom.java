package eleutheria.standins.mailroom;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Properties;
import java.util.concurrent.Executors;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.subethamail.smtp.helper.BasicMessageListener;
import org.subethamail.smtp.server.SMTPServer;

/**
 * Takes mail by SMTP (RFC 5321) and shows the newest 500 on a page, on loopback only.
 *
 * <p>Arguments: the port for SMTP and the port for the page; 0 for a free one.
 */
public final class Mailroom implements AutoCloseable {
  private static final int MOST = 500;
  private static final int LARGEST = 2 * 1024 * 1024;
  private static final Pattern LINK = Pattern.compile("https?://[^\\s<>\"]+");

  private final Deque<Mail> mails = new ArrayDeque<>();
  private final SMTPServer smtp;
  private final HttpServer page;

  /** A mail that came in. */
  public record Mail(Instant at, String to, String subject, String text) {
    /** The links in its text. */
    public List<String> links() {
      List<String> links = new ArrayList<>();
      Matcher matcher = LINK.matcher(text);
      while (matcher.find()) {
        links.add(matcher.group());
      }
      return links;
    }
  }

  public Mailroom(int smtpPort, int pagePort) throws IOException {
    InetAddress loopback = InetAddress.getByName("127.0.0.1");
    BasicMessageListener listener =
        (context, from, to, data) -> {
          try {
            take(to, data);
          } catch (MessagingException | IOException e) {
            throw new IllegalArgumentException("not a mail", e);
          }
        };
    smtp =
        SMTPServer.port(smtpPort)
            .bindAddress(loopback)
            .maxMessageSize(LARGEST)
            .messageHandler(listener)
            .build();
    smtp.start();
    page = HttpServer.create(new InetSocketAddress(loopback, pagePort), 0);
    page.createContext("/", this::show);
    page.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
    page.start();
  }

  public static void main(String[] args) throws IOException {
    Mailroom mailroom = new Mailroom(Integer.parseInt(args[0]), Integer.parseInt(args[1]));
    Runtime.getRuntime().addShutdownHook(new Thread(mailroom::close));
  }

  public int smtpPort() {
    return smtp.getPortAllocated();
  }

  public int pagePort() {
    return page.getAddress().getPort();
  }

  /** Mails to an address, the newest first. */
  public synchronized List<Mail> to(String address) {
    return mails.stream().filter(mail -> mail.to().equalsIgnoreCase(address)).toList();
  }

  private synchronized void take(String to, byte[] data) throws MessagingException, IOException {
    MimeMessage message =
        new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(data));
    String subject = message.getSubject() == null ? "" : message.getSubject();
    String text = text(message);
    mails.addFirst(new Mail(Instant.now(), new InternetAddress(to).getAddress(), subject, text));
    if (mails.size() > MOST) {
      mails.removeLast();
    }
  }

  /** The plain text of a message, wherever it is in it. */
  private static String text(Part part) throws MessagingException, IOException {
    if (part.getContent() instanceof Multipart parts) {
      for (int i = 0; i < parts.getCount(); i++) {
        String found = text(parts.getBodyPart(i));
        if (!found.isEmpty()) {
          return found;
        }
      }
      return "";
    }
    return part.isMimeType("text/plain") && part.getContent() instanceof String body ? body : "";
  }

  private void show(HttpExchange exchange) throws IOException {
    try (exchange;
        InputStream style = Mailroom.class.getResourceAsStream("mailroom.css")) {
      boolean css = exchange.getRequestURI().getPath().equals("/mailroom.css");
      byte[] body =
          css && style != null
              ? style.readAllBytes()
              : html(exchange.getRequestURI().getQuery()).getBytes(StandardCharsets.UTF_8);
      exchange
          .getResponseHeaders()
          .set("Content-Type", css ? "text/css" : "text/html; charset=utf-8");
      exchange
          .getResponseHeaders()
          .set(
              "Content-Security-Policy",
              "default-src 'none'; style-src 'self'; form-action 'self'; frame-ancestors 'none'");
      exchange.sendResponseHeaders(200, body.length);
      exchange.getResponseBody().write(body);
    }
  }

  private synchronized String html(@org.jspecify.annotations.Nullable String query) {
    String find =
        query == null
            ? ""
            : Arrays.stream(query.split("&"))
                .filter(part -> part.startsWith("to="))
                .map(part -> part.substring(3))
                .findFirst()
                .orElse("");
    StringBuilder out = new StringBuilder();
    out.append("<!doctype html><html lang=en><meta charset=utf-8><title>Mailroom</title>");
    out.append("<meta name=viewport content='width=device-width,initial-scale=1'>");
    out.append("<link rel=stylesheet href=/mailroom.css><main><h1>Mailroom</h1>");
    out.append("<p>A stand-in: every mail that the demo sends ends here and goes no further.</p>");
    out.append("<form><label>To <input name=to value=\"").append(escape(find));
    out.append("\"></label> <button>Show</button></form>");
    List<Mail> shown = mails.stream().filter(mail -> mail.to().contains(find)).toList();
    out.append("<p>").append(shown.size()).append(shown.size() == 1 ? " mail" : " mails");
    out.append("</p>");
    for (Mail mail : shown) {
      out.append("<article><h2>").append(escape(mail.subject())).append("</h2><p>to <b>");
      out.append(escape(mail.to())).append("</b>, ");
      out.append(mail.at().truncatedTo(ChronoUnit.SECONDS)).append("</p><pre>");
      out.append(linked(mail.text())).append("</pre></article>");
    }
    return out.append("</main></html>").toString();
  }

  private static String linked(String text) {
    Matcher matcher = LINK.matcher(text);
    StringBuilder out = new StringBuilder();
    int at = 0;
    while (matcher.find()) {
      out.append(escape(text.substring(at, matcher.start())));
      String link = escape(matcher.group());
      out.append("<a href=\"").append(link).append("\">").append(link).append("</a>");
      at = matcher.end();
    }
    return out.append(escape(text.substring(at))).toString();
  }

  private static String escape(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("\"", "&quot;");
  }

  @Override
  public void close() {
    smtp.stop();
    page.stop(0);
  }
}
