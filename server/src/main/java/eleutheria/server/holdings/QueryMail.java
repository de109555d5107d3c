package eleutheria.server.holdings;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.queries.Query;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.web.Refusal;
import java.util.Optional;
import java.util.UUID;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/**
 * The mail with a saved query's answer: how many lines it has, and the way there. The lines
 * themselves stay where reach and sign-in guard them.
 */
@Component
public class QueryMail {
  private final World world;
  private final Answers answers;
  private final QueryStore store;
  private final Specs specs;
  private final JavaMailSender mail;
  private final ServerSettings settings;

  QueryMail(
      World world,
      Answers answers,
      QueryStore store,
      Specs specs,
      JavaMailSender mail,
      ServerSettings settings) {
    this.world = world;
    this.answers = answers;
    this.store = store;
    this.specs = specs;
    this.mail = mail;
    this.settings = settings;
  }

  public void send(PersonId to, UUID id) {
    Optional<Query> query = store.find(id);
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (query.isEmpty() || address == null) {
      return;
    }
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    String name = query.get().name();
    String told;
    try {
      Answers.Answer answer =
          answers.ready(world.now().authority(to), world.whole(), specs.read(query.get().spec()));
      message.setSubject(
          "%s: %d %s".formatted(name, answer.total(), answer.total() == 1 ? "line" : "lines"));
      told =
          "“%s” now has %d %s. See them here"
              .formatted(name, answer.total(), answer.total() == 1 ? "line" : "lines");
    } catch (Refusal refusal) {
      message.setSubject("%s cannot be answered".formatted(name));
      told = "“%s” cannot be answered: %s It is here".formatted(name, refusal.getMessage());
    }
    message.setText(
        "Hello %s,\n\n%s:\n\n%s/desk/queries/%s\n\nYou get this every %s, because you asked for it; you can change that there.\n"
            .formatted(
                person.get().name().displayed(),
                told,
                settings.baseAddress(),
                id,
                query.get().every().word()));
    mail.send(message);
  }
}
