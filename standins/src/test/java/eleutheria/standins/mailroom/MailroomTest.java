package eleutheria.standins.mailroom;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.mail.Message;
import jakarta.mail.Session;
import jakarta.mail.Transport;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.Properties;
import org.junit.jupiter.api.Test;

class MailroomTest {
  @Test
  void showsWhatWasSentAndNothingOfItRuns() throws Exception {
    try (Mailroom mailroom = new Mailroom(0, 0)) {
      Properties properties = new Properties();
      properties.put("mail.smtp.host", "127.0.0.1");
      properties.put("mail.smtp.port", String.valueOf(mailroom.smtpPort()));
      MimeMessage message = new MimeMessage(Session.getInstance(properties));
      message.setFrom(new InternetAddress("desk@ternsound.example"));
      message.setRecipient(
          Message.RecipientType.TO, new InternetAddress("oda.brekke@ternsound.example"));
      message.setSubject("Välkommen <b>", "UTF-8");
      message.setText("Open http://127.0.0.1:8080/welcome#abc_DEF-1 now", "UTF-8");
      Transport.send(message);

      assertThat(mailroom.to("oda.brekke@ternsound.example"))
          .singleElement()
          .satisfies(
              mail ->
                  assertThat(mail.links())
                      .containsExactly("http://127.0.0.1:8080/welcome#abc_DEF-1"));
      String page =
          HttpClient.newHttpClient()
              .send(
                  HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + mailroom.pagePort()))
                      .build(),
                  HttpResponse.BodyHandlers.ofString())
              .body();
      assertThat(page)
          .contains("Välkommen &lt;b&gt;")
          .contains("<a href=\"http://127.0.0.1:8080/welcome#abc_DEF-1\">")
          .doesNotContain("Välkommen <b>");
    }
  }
}
