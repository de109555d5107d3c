package eleutheria.server.outbox;

import eleutheria.core.brought.Proposal;
import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.facts.ProposalId;
import eleutheria.core.facts.ReportId;
import eleutheria.core.portal.Report;
import eleutheria.server.brought.ProposalStore;
import eleutheria.server.ledger.World;
import eleutheria.server.portal.ReportStore;
import eleutheria.server.settings.ServerSettings;
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
  private final ProposalStore proposals;
  private final ReportStore reports;
  private final JavaMailSender mail;
  private final ServerSettings settings;

  AnswerMail(
      World world,
      ProposalStore proposals,
      ReportStore reports,
      JavaMailSender mail,
      ServerSettings settings) {
    this.world = world;
    this.proposals = proposals;
    this.reports = reports;
    this.mail = mail;
    this.settings = settings;
  }

  void sendProposal(PersonId to, ProposalId id) {
    Optional<Proposal> found = proposals.find(id);
    if (found.isEmpty()) {
      return;
    }
    Proposal proposal = found.get();
    switch (proposal.state()) {
      case Proposal.State.Accepted s ->
          send(
              to,
              "%s: %s is let in".formatted(proposal.label(), proposal.name()),
              "%s, which you have put forward, is let in. You find it on your front page"
                  .formatted(proposal.name()),
              "/");
      case Proposal.State.Refused s ->
          send(
              to,
              "%s: %s is not let in".formatted(proposal.label(), proposal.name()),
              "%s, which you have put forward, is not let in. What was said about it is here"
                  .formatted(proposal.name()),
              "/requests");
      default -> {}
    }
  }

  void sendReport(PersonId to, ReportId id) {
    Optional<Report> found = reports.find(id);
    if (found.isPresent() && !found.get().waits()) {
      send(
          to,
          "%s: an answer about %s".formatted(found.get().label(), found.get().tileName()),
          "There is an answer to the problem with %s that you have reported"
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
