package eleutheria.server.outbox;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.Organisation;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.signon.OneTimeLinks;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Optional;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** The mail by which someone sets a first password. */
@Component
class InvitationMail {
  private final World world;
  private final OneTimeLinks links;
  private final JavaMailSender mail;
  private final Organisation organisation;
  private final String from;

  InvitationMail(
      World world,
      OneTimeLinks links,
      JavaMailSender mail,
      Organisation organisation,
      ServerSettings settings) {
    this.world = world;
    this.links = links;
    this.mail = mail;
    this.organisation = organisation;
    this.from = settings.mailFrom();
  }

  /** Sends it, unless there is nobody to send it to any more. */
  void send(PersonId id) {
    Optional<Person> person =
        world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (person.isEmpty() || address == null) {
      return;
    }
    LocalDate until = LocalDate.now(ZoneOffset.UTC).plus(java.time.Period.ofDays(14));
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(from);
    message.setTo(address);
    message.setSubject("Your account at " + organisation.name());
    message.setText(
        """
        Hello %s,

        %s has made an account for you. Your sign-in name is %s.

        Set a password here:

        %s

        The link works once, until %s. If it has run out, ask your manager for a new one.
        """
            .formatted(
                person.get().name().displayed(),
                organisation.name(),
                Optional.ofNullable(person.get().value(Attributes.USER_NAME)).orElse(address),
                links.make(OneTimeLinks.INVITE, id),
                until));
    mail.send(message);
  }
}
