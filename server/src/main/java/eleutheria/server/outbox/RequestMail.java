package eleutheria.server.outbox;

import eleutheria.core.access.Grant;
import eleutheria.core.apps.Entitlement;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.GrantId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.RequestId;
import eleutheria.core.portal.PortalView;
import eleutheria.core.requests.AccessRequest;
import eleutheria.core.requests.Answer;
import eleutheria.core.requests.Stage;
import eleutheria.server.ledger.World;
import eleutheria.server.requests.RequestStore;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Optional;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/**
 * Mails about requests and about what ends soon. They say what happened and lead to the page; they
 * quote no reasons, which stay where they can be erased.
 */
@Component
class RequestMail {
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.ENGLISH);

  private final World world;
  private final RequestStore requests;
  private final JavaMailSender mail;
  private final Organisation organisation;
  private final ServerSettings settings;

  RequestMail(
      World world,
      RequestStore requests,
      JavaMailSender mail,
      Organisation organisation,
      ServerSettings settings) {
    this.world = world;
    this.requests = requests;
    this.mail = mail;
    this.organisation = organisation;
    this.settings = settings;
  }

  void send(PersonId to, RequestId id, String tale) {
    Optional<AccessRequest> found = requests.find(id);
    PortalView whole = world.whole();
    if (found.isEmpty()) {
      return;
    }
    AccessRequest request = found.get();
    String title = title(whole, request);
    String asker = name(whole, request.asker());
    switch (tale) {
      case "to_decide" -> {
        if (request.stage().open()) {
          send(
              whole,
              to,
              "%s: %s asks for %s".formatted(request.name(), asker, title),
              "%s asks for %s. Decide here:\n\n%s"
                  .formatted(asker, title, address("/desk/docket/request/" + id.value())));
        }
      }
      case "given" -> {
        if (request.stage() instanceof Stage.Given) {
          String until =
              request.lastDay() == null
                  ? ""
                  : " It ends by itself after %s.".formatted(DAY.format(request.lastDay()));
          send(
              whole,
              to,
              "%s: you have %s".formatted(request.name(), title),
              "You have been granted %s.%s It is on your front page:\n\n%s"
                  .formatted(title, until, address("/")));
        }
      }
      case "refused" -> {
        if (request.stage() instanceof Stage.Refused) {
          Answer answer = request.lastAnswer().orElseThrow();
          send(
              whole,
              to,
              "%s: %s was refused".formatted(request.name(), title),
              "%s refused your request for %s. The reason is here:\n\n%s"
                  .formatted(name(whole, answer.by()), title, address("/requests")));
        }
      }
      case "lapsed" ->
          send(
              whole,
              to,
              "%s: nobody decided on %s in time".formatted(request.name(), title),
              "Your request for %s has lapsed: nobody decided on it in time. You can ask again:\n\n%s"
                  .formatted(title, address("/ask")));
      default -> throw new IllegalStateException("unknown tale: " + tale);
    }
  }

  /** Tells who holds something that it ends soon. */
  void sendEnd(PersonId to, GrantId id) {
    PortalView whole = world.whole();
    Optional<Grant> grant = whole.access().grant(id);
    if (grant.isEmpty()) {
      return;
    }
    String title =
        whole
            .access()
            .apps()
            .entitlement(grant.get().given().entitlement())
            .map(Entitlement::title)
            .orElse("an entitlement");
    Instant last = grant.get().until().minusSeconds(1);
    send(
        whole,
        to,
        "%s ends soon".formatted(title),
        "%s ends by itself after %s. If you need it for longer, ask here:\n\n%s"
            .formatted(title, DAY.format(last.atZone(organisation.zone())), address("/holdings")));
  }

  private void send(PortalView whole, PersonId to, String subject, String text) {
    Optional<Person> person =
        whole.directory().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (address == null) {
      return;
    }
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    message.setSubject(subject);
    message.setText("Hello %s,\n\n%s\n".formatted(person.get().name().displayed(), text));
    mail.send(message);
  }

  private String address(String path) {
    return settings.baseAddress() + path;
  }

  private static String name(PortalView whole, PersonId id) {
    return whole.directory().person(id).map(p -> p.name().displayed()).orElse("someone");
  }

  private static String title(PortalView whole, AccessRequest request) {
    return whole
        .access()
        .apps()
        .entitlement(request.entitlement())
        .map(Entitlement::title)
        .orElse("an entitlement");
  }
}
