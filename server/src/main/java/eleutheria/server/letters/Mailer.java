package eleutheria.server.letters;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.state.World;
import java.util.Optional;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** Sends every email there is: to whom, at which address, and with links to which portal. */
@Component
public class Mailer {
  private final World world;
  private final Letters letters;
  private final JavaMailSender mail;
  private final ServerSettings settings;

  Mailer(World world, Letters letters, JavaMailSender mail, ServerSettings settings) {
    this.world = world;
    this.letters = letters;
    this.mail = mail;
    this.settings = settings;
  }

  /**
   * Somebody who can be written to.
   *
   * @param address as it is now
   */
  public record Recipient(Person person, String address) {}

  /** Empty for whoever has departed, or has no address. */
  public Optional<Recipient> recipient(PersonId id) {
    return standing(id)
        .flatMap(
            person ->
                Optional.ofNullable(person.value(Attributes.MAIL))
                    .map(address -> new Recipient(person, address)));
  }

  private Optional<Person> standing(PersonId id) {
    return world.now().person(id).filter(p -> p.status() != PersonStatus.DEPARTED);
  }

  /** Sends a letter to somebody, as long as they can be written to. */
  public void send(PersonId to, Letter letter) {
    recipient(to).ifPresent(recipient -> send(recipient, letter));
  }

  public void send(Recipient to, Letter letter) {
    mail.send(letters.message(to.address(), to.person().name().greeted(), letter));
  }

  /** Sends a letter to an address that somebody no longer uses, unless they have departed. */
  public void sendElsewhere(PersonId to, String address, Letter letter) {
    standing(to).ifPresent(person -> send(new Recipient(person, address), letter));
  }

  /** Sends plain text to a mailbox of the organisation's own. */
  public void sendPlain(String address, String subject, String text) {
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    message.setSubject(subject);
    message.setText(text);
    mail.send(message);
  }

  /** The address of one of the portal's pages. */
  public String link(String path) {
    return settings.baseAddress() + path;
  }
}
