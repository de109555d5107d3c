package eleutheria.server.outbox;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.ComplaintId;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.SuggestionId;
import eleutheria.core.portal.Complaint;
import eleutheria.core.suggestions.Suggestion;
import eleutheria.server.ledger.World;
import eleutheria.server.portal.ComplaintStore;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.suggestions.SuggestionStore;
import java.util.Optional;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/**
 * Mails to who has put an app forward or reported a problem. They say that there is an answer and
 * lead to it; they quote none, which stays where it can be erased.
 */
@Component
class AnswerMail {
  private final World world;
  private final SuggestionStore suggestions;
  private final ComplaintStore complaints;
  private final JavaMailSender mail;
  private final ServerSettings settings;

  AnswerMail(
      World world,
      SuggestionStore suggestions,
      ComplaintStore complaints,
      JavaMailSender mail,
      ServerSettings settings) {
    this.world = world;
    this.suggestions = suggestions;
    this.complaints = complaints;
    this.mail = mail;
    this.settings = settings;
  }

  void sendSuggestion(PersonId to, SuggestionId id) {
    Optional<Suggestion> found = suggestions.find(id);
    if (found.isEmpty()) {
      return;
    }
    Suggestion suggestion = found.get();
    switch (suggestion.state()) {
      case Suggestion.State.Accepted s ->
          send(
              to,
              "%s: %s has been accepted".formatted(suggestion.label(), suggestion.name()),
              "%s, which you suggested, has been accepted. It is on your front page"
                  .formatted(suggestion.name()),
              "/");
      case Suggestion.State.Declined s ->
          send(
              to,
              "%s: %s has been declined".formatted(suggestion.label(), suggestion.name()),
              "%s, which you suggested, has been declined. The reason is here"
                  .formatted(suggestion.name()),
              "/requests");
      default -> {}
    }
  }

  void sendReport(PersonId to, ComplaintId id) {
    Optional<Complaint> found = complaints.find(id);
    if (found.isPresent() && !found.get().waits()) {
      send(
          to,
          "%s: an answer about %s".formatted(found.get().label(), found.get().tileName()),
          "There is an answer to the problem you reported with %s"
              .formatted(found.get().tileName()),
          "/requests");
    }
  }

  private void send(PersonId to, String subject, String text, String path) {
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (address == null) {
      return;
    }
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    message.setSubject(subject);
    message.setText(
        "Hello %s,\n\n%s:\n\n%s%s\n"
            .formatted(person.get().name().displayed(), text, settings.baseAddress(), path));
    mail.send(message);
  }
}
