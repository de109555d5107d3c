package eleutheria.server.holdings;

import eleutheria.core.directory.Attributes;
import eleutheria.core.directory.Person;
import eleutheria.core.facts.PersonId;
import eleutheria.core.facts.PersonStatus;
import eleutheria.core.questions.Question;
import eleutheria.server.ledger.World;
import eleutheria.server.settings.ServerSettings;
import eleutheria.server.web.Refusal;
import java.util.Optional;
import java.util.UUID;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/**
 * The mail with a saved question's answer: how many lines it has, and the way there. The lines
 * themselves stay where reach and sign-in guard them.
 */
@Component
public class QuestionMail {
  private final World world;
  private final Answers answers;
  private final QuestionStore store;
  private final Specs specs;
  private final JavaMailSender mail;
  private final ServerSettings settings;

  QuestionMail(
      World world,
      Answers answers,
      QuestionStore store,
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
    Optional<Question> question = store.find(id);
    Optional<Person> person =
        world.now().person(to).filter(p -> p.status() != PersonStatus.DEPARTED);
    String address = person.map(p -> p.value(Attributes.MAIL)).orElse(null);
    if (question.isEmpty() || address == null) {
      return;
    }
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(address);
    String name = question.get().name();
    String told;
    try {
      Answers.Answer answer =
          answers.ready(
              world.now().authority(to), world.whole(), specs.read(question.get().spec()));
      message.setSubject(
          "%s: %d %s".formatted(name, answer.total(), answer.total() == 1 ? "line" : "lines"));
      told =
          "“%s” has %d %s now. The answer is here"
              .formatted(name, answer.total(), answer.total() == 1 ? "line" : "lines");
    } catch (Refusal refusal) {
      message.setSubject("%s cannot be answered".formatted(name));
      told = "“%s” cannot be answered: %s It is here".formatted(name, refusal.getMessage());
    }
    message.setText(
        "Hello %s,\n\n%s:\n\n%s/desk/questions/%s\n\nYou have asked for this every %s; there it can be changed.\n"
            .formatted(
                person.get().name().displayed(),
                told,
                settings.baseAddress(),
                id,
                question.get().every().word()));
    mail.send(message);
  }
}
